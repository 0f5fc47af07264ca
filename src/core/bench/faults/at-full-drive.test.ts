import { benchDesign } from '../../../../tests/reference/bench-design';
import { demoDesign } from '../../../../tests/reference/demo-designs';
import type { Design } from '../../design/design-schema';
import { finish } from '../../numeric/finish';
import { predict, WITHOUT_OPTIMUM } from '../../predict/predict';
import { marginOf } from '../../quantity/margin';
import { transientOf } from '../../transient/transient';
import { asFaulty, faultsOfPart, faultyRunOf, raisedStresses } from './at-full-drive';

const soundOf = (design: Design) => finish(transientOf(design)).transient;
const withFault = (design: Design, kind: string, place: string, degree = 0) =>
  finish(faultyRunOf(design, { kind, place, degree }))!.transient;

const PEAK = 1000;
const design = benchDesign({
  driver: { positivePeakVolts: PEAK, frequencyHertz: 20e3 },
  ladder: { topology: 'half-wave', stages: 2, capacitor: { farads: 10e-9, ratedVolts: 3000 } },
  diode: { forwardVolts: 1 },
  load: { kind: 'resistance', ohms: 400e6 },
});

it.each(['teaching-tripler', 'dust-plate-precipitator', 'photomultiplier-bias'] as const)(
  'where a fault changes nothing in the circuit, %s stands as it does without',
  (name) => {
    const own = demoDesign(name);
    const sound = soundOf(own);
    expect(sound.driver.kind).toBe('drive');
    const run = finish(faultyRunOf(own, { kind: 'meter-ac-range', place: '', degree: 0 }))!;
    expect(run.transient.meanVolts / sound.meanVolts).toBeCloseTo(1, 3);
    run.transient.nodes.forEach(({ meanVolts }, at) =>
      expect(Math.abs(meanVolts - sound.nodes[at].meanVolts)).toBeLessThan(1e-3 * Math.abs(sound.meanVolts)),
    );
    expect(run.sound!.transient).toEqual(run.transient);
  },
);

it('is what is calculated by hand: N stages climb 2 N peaks, a shorted capacitor or an open diode takes them away', () => {
  const sound = soundOf(design);
  expect(sound.meanVolts / (4 * PEAK)).toBeGreaterThan(0.98);
  // The lower stage's capacitor shorted (C2 of C1 to C4): the upper one adds its two peaks alone, and its neighbours take more.
  const lower = withFault(design, 'capacitor-shorted', 'C2');
  expect(lower.meanVolts / (2 * PEAK)).toBeLessThan(1.02);
  // An open first diode: nothing climbs.
  expect(Math.abs(withFault(design, 'diode-open', 'D1').meanVolts)).toBeLessThan(0.3 * PEAK);
  // A drive of one polarity: one peak a stage.
  expect(withFault(design, 'one-polarity', '').meanVolts / (2 * PEAK)).toBeCloseTo(1, 1);
  // The top one open: what stands below it stands.
  expect(withFault(design, 'diode-open', 'D4').meanVolts).toBeLessThan(0.9 * sound.meanVolts);
});

it('every fault of every part is one of the catalogue’s, and most settle', () => {
  const parts = predict(design, WITHOUT_OPTIMUM);
  const all = [...parts.diodes, ...parts.capacitors].flatMap(({ id }) => faultsOfPart(design, id));
  expect(all).toHaveLength(8 * 4);
  const settled = all.filter(({ fault }) => finish(faultyRunOf(design, fault)) !== null);
  expect(settled.length).toBeGreaterThanOrEqual(31);
  expect(faultsOfPart(design, 'D9')).toEqual([]);
});

it('raised stresses are those of the run, and so are the parts’ margins', () => {
  const sound = soundOf(design);
  const faulty = withFault(design, 'capacitor-shorted', 'C2');
  const raised = raisedStresses(design, sound, faulty);
  expect(raised.length).toBeGreaterThan(0);
  for (const one of raised) {
    expect(one.faulty).toBeGreaterThan(1.05 * one.sound);
    const capacitor = faulty.capacitors.find(({ id }) => id === one.part);
    const diode = faulty.diodes.find(({ id }) => id === one.part);
    if (one.of === 'capacitor-volts')
      expect(one.faulty).toBeCloseTo(Math.abs(capacitor!.meanVolts) + capacitor!.ripplePeakToPeakVolts / 2, 6);
    else expect(one.faulty).toBe(one.of === 'diode-volts' ? diode!.reverseVolts : diode!.averageAmps);
  }
  const shown = asFaulty(predict(design, WITHOUT_OPTIMUM), faulty);
  for (const { id, workingVolts, margin, ratedVolts, lossWatts } of shown.capacitors) {
    expect(margin).toBe(marginOf(ratedVolts, workingVolts));
    expect(lossWatts).toBeNull();
    expect(faulty.capacitors.some((one) => one.id === id)).toBe(true);
  }
  expect(shown.output.meanVolts).toBe(faulty.meanVolts);
  // Nothing is higher than in the same ladder.
  expect(raisedStresses(design, sound, sound)).toEqual([]);
});
