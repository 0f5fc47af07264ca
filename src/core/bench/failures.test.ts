import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { Failure } from './entries';
import { failedPart, failedWordsOf, type FailureRecord } from './failures';

const changed = (design: Design, changes: Record<string, unknown>): Design =>
  Object.entries(changes).reduce((now, [path, value]) => changeDesign(now, { path, value }), design);

const DESIGN = changed(newDesign('Tower'), {
  '$.ladder.stages': 3,
  '$.ladder.capacitor.farads': 1e-9,
  '$.ladder.capacitor.ratedVolts': 15e3,
  '$.ladder.diode.peakInverseVolts': 12e3,
});

const recordOf = (id: string, changes: Partial<Failure> = {}, design = DESIGN): FailureRecord => ({
  designId: 'd',
  designName: 'Tower',
  revision: 2,
  failure: {
    id: '00000000-0000-4000-8000-000000000001',
    takenAt: '2026-03-01T10:00:00.000Z',
    kind: 'failure',
    at: id,
    how: 'shorted',
    ...failedPart(design, predict(design, WITHOUT_OPTIMUM), id),
    remark: '',
    pictureId: null,
    replaces: null,
    ...changes,
  },
});

it('a failed part is what the design has there, and stood at what one of it stands', () => {
  const prediction = predict(DESIGN, WITHOUT_OPTIMUM);
  const { diodes, capacitors } = prediction;
  expect(failedPart(DESIGN, prediction, diodes[2].id)).toEqual({
    type: { kind: 'diode', partId: null, ratedVolts: 12e3, farads: null },
    stressVolts: diodes[2].reverseVolts,
  });
  expect(failedPart(DESIGN, prediction, capacitors[0].id)).toEqual({
    type: { kind: 'capacitor', partId: null, ratedVolts: 15e3, farads: 1e-9 },
    stressVolts: capacitors[0].workingVolts,
  });
  expect(failedPart(DESIGN, prediction, 'transformer')).toEqual({ type: null, stressVolts: null });
});

it('of parts in series one is meant, and of a bank one capacitor', () => {
  const banked = changed(DESIGN, {
    '$.ladder.diode.series': 3,
    '$.ladder.capacitor.series': 2,
    '$.ladder.capacitor.parallel': 4,
  });
  const prediction = predict(banked, WITHOUT_OPTIMUM);
  const diode = failedPart(banked, prediction, prediction.diodes[1].id);
  expect(diode.stressVolts! / prediction.diodes[1].reverseVolts).toBeGreaterThan(1 / 3);
  expect(diode.stressVolts! / prediction.diodes[1].reverseVolts).toBeLessThan(0.6);
  expect(failedPart(banked, prediction, prediction.capacitors[0].id).type!.farads).toBeCloseTo(1e-9, 15);
});

describe('what has failed is said of parts of the same type', () => {
  const { diodes, capacitors } = predict(DESIGN, WITHOUT_OPTIMUM);
  it('and of those alone', () => {
    expect(failedWordsOf(DESIGN, [])).toEqual([]);
    expect(failedWordsOf(DESIGN, [recordOf(diodes[0].id)])).toHaveLength(1);
    expect(failedWordsOf(DESIGN, [recordOf(diodes[0].id), recordOf(capacitors[0].id)])).toHaveLength(2);
    const stronger = changed(DESIGN, { '$.ladder.diode.peakInverseVolts': 20e3, '$.ladder.capacitor.farads': 2.2e-9 });
    expect(failedWordsOf(stronger, [recordOf(diodes[0].id), recordOf(capacitors[0].id)])).toEqual([]);
    // Of what is no part of the ladder nothing is known.
    expect(failedWordsOf(DESIGN, [recordOf('transformer')])).toEqual([]);
  });

  it('a part from the drawer is itself, whatever its ratings', () => {
    const [one, other] = ['00000000-0000-4000-8000-00000000000a', '00000000-0000-4000-8000-00000000000b'];
    const from = (partId: string) => changed(DESIGN, { '$.ladder.diode.partId': partId });
    const failed = recordOf(diodes[0].id, {}, from(one));
    expect(failedWordsOf(from(one), [failed])).toHaveLength(1);
    expect(failedWordsOf(from(other), [failed])).toEqual([]);
    expect(failedWordsOf(DESIGN, [failed])).toHaveLength(1);
  });

  it('with how many, and how and at what the last went', () => {
    const [words] = failedWordsOf(DESIGN, [
      recordOf(diodes[0].id, { takenAt: '2026-03-02T10:00:00.000Z', how: 'open' }),
      recordOf(diodes[1].id),
    ]);
    expect(words).toMatch(/^2 diodes/);
    expect(words).toContain('open');
    expect(words).toMatch(/of 12\.0\skV/);
  });

  it('without a rating nothing says that two are of one type', () => {
    const unknown = changed(DESIGN, { '$.ladder.diode.peakInverseVolts': null });
    expect(failedWordsOf(unknown, [recordOf(diodes[0].id, {}, unknown)])).toEqual([]);
  });
});
