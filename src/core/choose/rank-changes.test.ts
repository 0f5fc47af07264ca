import { changeDesign } from '../design/change-design';
import { newDesign } from '../design/new-design';
import { finish } from '../numeric/finish';
import type { Design } from '../design/design-schema';
import { predict } from '../predict/predict';
import { largestGain, rankChanges } from './rank-changes';

const plain = newDesign('Ranked');
const loaded: Design = {
  ...plain,
  driver: { ...plain.driver, positivePeakVolts: 5000, seriesOhms: 0 },
  ladder: { ...plain.ladder, stages: 6, diode: { ...plain.ladder.diode, forwardVolts: 0, junctionFarads: 0 } },
  load: { kind: 'current', amps: 100e-6 },
};
const ranked = (design: Design) => finish(rankChanges(design, 'two-of-each'));
const gain = (design: Design, label: RegExp) => ranked(design).find((change) => label.test(change.label))!;

it('each effect is what predict says of the changed design, greatest gain first', () => {
  const changes = ranked(loaded);
  const before = predict(loaded);
  for (const change of changes) {
    const after = predict(changeDesign(loaded, change));
    expect(change.gainVolts).toBe(after.output.meanVolts! - before.output.meanVolts!);
    expect(change.energyChangeJoules).toBe(after.energy.joules - before.energy.joules);
    expect(change.smallestMargin).toBe(after.smallestMargin);
  }
  for (const stopped of [false, true]) {
    const gains = changes.filter(({ newStop }) => (newStop !== null) === stopped).map((change) => change.gainVolts!);
    expect(gains).toEqual([...gains].sort((a, b) => b - a));
  }
  const firstStop = changes.findIndex(({ newStop }) => newStop !== null);
  if (firstStop >= 0) expect(changes.slice(firstStop).every(({ newStop }) => newStop !== null)).toBe(true);
  expect(changes.length).toBeGreaterThan(6);
});

it('the first capacitor doubled takes n^2 / 2 of K0 off the droop (charge bookkeeping, handbook)', () => {
  const { frequencyHertz } = loaded.driver as { frequencyHertz: number };
  const unit = 100e-6 / frequencyHertz / 1e-9;
  // Small droop: the larger-droop correction moves by a little as well.
  expect(Math.abs(gain(loaded, /First capacitor doubled/).gainVolts! / (unit * 18) - 1)).toBeLessThan(0.1);
});

it('what makes no sense here is not offered; the margin told is the one left after the change', () => {
  const labels = (design: Design) => ranked(design).map(({ label }) => label);
  expect(labels(loaded).some((label) => /Source resistance/.test(label))).toBe(false);
  const bridge = changeDesign(loaded, { path: '$.ladder.topology', value: 'bridge-doubler' });
  expect(labels(bridge).some((label) => /stage|Full-wave/.test(label))).toBe(false);
  const rated: Design = {
    ...loaded,
    ladder: {
      ...loaded.ladder,
      capacitor: { ...loaded.ladder.capacitor, ratedVolts: 10_100 },
      diode: { ...loaded.ladder.diode, peakInverseVolts: 10_100 },
    },
  };
  expect(gain(rated, /One stage more/).newStop).toBeNull();
  // Twice 5 kV, and that 5 % higher, against 10.1 kV.
  expect(gain(rated, /One stage more/).smallestMargin).toBeCloseTo(10_100 / 10_500 - 1, 9);
});

it('tells its progress, one change at a time', () => {
  const run = rankChanges(loaded, 'two-of-each');
  const first = run.next();
  expect(first.value).toMatchObject({ done: 1 });
});

it('the largest gain is the first of the list that brings no stop about, and none is offered where none helps', () => {
  const changes = ranked(loaded);
  const { meanVolts } = predict(loaded).output;
  expect(largestGain(changes, meanVolts)).toBe(changes[0]);
  expect(largestGain([{ ...changes[0], newStop: 'Over.' }, changes[1]], meanVolts)).toBe(changes[1]);
  expect(largestGain([{ ...changes[0], gainVolts: 0 }], meanVolts)).toBeNull();
  expect(largestGain(changes, null)).toBeNull();
  expect(largestGain([], meanVolts)).toBeNull();
});

it('what is offered can be bought: values of E6, diodes of a kind', () => {
  const odd: Design = {
    ...loaded,
    ladder: { ...loaded.ladder, capacitor: { ...loaded.ladder.capacitor, farads: 560e-12 } },
    output: { ...loaded.output, seriesOhms: 9.4e6 },
  };
  const value = (path: string) => ranked(odd).find((change) => change.path === path)?.value;
  // IEC 60063: the value of E6 after 560 is 680; at most half of 9.4 MΩ is 4.7 MΩ.
  expect(value('$.ladder.capacitor.farads')).toBe(680e-12);
  expect(value('$.output.seriesOhms')).toBe(4.7e6);
  for (const { label, path, value: diode } of ranked(odd)) {
    expect(label).not.toMatch(/half the junction|half the forward/);
    if (path === '$.ladder.diode') expect((diode as Design['ladder']['diode']).peakInverseVolts).toBeGreaterThan(0);
  }
});
