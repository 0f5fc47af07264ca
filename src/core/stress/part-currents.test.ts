import fc from 'fast-check';
import { benchDesign } from '../../../tests/reference/bench-design';
import { hobbyDesign } from '../../../tests/reference/hobby-design';
import type { MeasuredDesign } from '../design/design-schema';
import { operatingPoint } from '../operating/operating-point';
import { predict } from '../predict/predict';
import { transientOf } from '../transient/transient';
import { finish } from '../numeric/finish';
import { partCurrents } from './part-currents';
import { transitOf } from './recovery';

const greatest = (parts: readonly { rmsAmps: number | null }[]) => Math.max(...parts.map(({ rmsAmps }) => rmsAmps!));

/** Random ladders of up to four stages on a drive without inductance, their diodes tight, and what the engine makes of them. */
function* settledLadders(count: number, seed: number, change: (design: MeasuredDesign) => MeasuredDesign) {
  for (const drawn of fc.sample(hobbyDesign, { numRuns: count, seed })) {
    const { ladder, driver } = drawn;
    if (ladder.stages > 4 || drawn.load.kind === 'gap' || drawn.load.kind === 'open') continue;
    const design = change({
      ...drawn,
      driver: { ...driver, seriesHenries: 0 },
      ladder: { ...ladder, diode: { ...ladder.diode, leakageAmps: 0, recoverySeconds: null } },
    });
    const { point } = operatingPoint(design);
    // With next to no load what counts is what the closed form leaves out.
    if (!point || point.droop.totalVolts < 0.005 * predict(design).output.noLoadVolts) continue;
    const run = finish(transientOf(design));
    if (run.transient.converged) yield { design, run };
  }
}

it('on a sine the hardest pressed capacitor and diode carry what the engine finds', () => {
  let seen = 0;
  const sine = (design: MeasuredDesign): MeasuredDesign => ({
    ...design,
    driver: { ...design.driver, waveform: 'sine', duty: 0.5 },
  });
  for (const { design, run } of settledLadders(110, 21, sine)) {
    const { capacitors, diodes } = predict(design);
    const byCapacitor = greatest(capacitors) / greatest(run.transient.capacitors);
    const byDiode = greatest(diodes) / greatest(run.transient.diodes);
    // Measured 0.92 to 1.26 and 0.83 to 1.42; 1.74 of a clamp whose source's resistance takes half of the output, and
    // whose pulse is far wider than the cosine's tip that it is taken for.
    expect(byCapacitor).toBeGreaterThan(0.8);
    expect(byCapacitor).toBeLessThan(1.4);
    expect(byDiode).toBeGreaterThan(0.75);
    expect(byDiode).toBeLessThan(1.8);
    seen += 1;
  }
  expect(seen).toBeGreaterThan(15);
});

it('on a square the charge that a winding’s RMS stands for', () => {
  for (const ladder of [{ stages: 2 }, { topology: 'full-wave', stages: 2 }, { topology: 'bridge-doubler' }]) {
    const design = benchDesign({
      ladder,
      driver: { waveform: 'square', seriesOhms: 0.5 },
      load: { kind: 'current', amps: 0.01 },
    });
    const { transient } = finish(transientOf(design));
    const { capacitors, diodes } = predict(design);
    expect(greatest(capacitors) / greatest(transient.capacitors)).toBeGreaterThan(0.95);
    expect(greatest(capacitors) / greatest(transient.capacitors)).toBeLessThan(1.45);
    expect(greatest(diodes) / greatest(transient.diodes)).toBeGreaterThan(0.8);
    expect(greatest(diodes) / greatest(transient.diodes)).toBeLessThan(1.3);
  }
});

it('an ideal square charges in no time: nothing is said of RMS, but for a part that passes nothing', () => {
  const design = benchDesign({ driver: { waveform: 'square' }, load: { kind: 'current', amps: 0.01 } });
  const { capacitors, diodes, margins } = predict(design);
  expect([...capacitors, ...diodes].every(({ rmsAmps }) => rmsAmps === null)).toBe(true);
  expect(margins.every(({ id }) => id !== 'capacitorCurrent')).toBe(true);
});

it('strays draw a sine of their own through the foot, without load too: w C V (handbook)', () => {
  const design = benchDesign({ ladder: { stages: 3, strayFarads: 1e-3 } });
  const { ladder } = operatingPoint(design);
  const { capacitors } = predict(design);
  expect(capacitors[0].rmsAmps! / ((2 * Math.PI * ladder.inputFarads[0]) / Math.SQRT2)).toBeCloseTo(1, 3);
});

it('what a slow diode lets flow back is what the engine sees flow back', () => {
  // Recovery from 2 to 8 % of a period, one diode to four stages.
  const cases = [
    [{ topology: 'bridge-doubler' }, 0.02, 0.1],
    [{ topology: 'bridge-doubler' }, 0.08, 0.1],
    [{ topology: 'bridge-doubler' }, 0.05, 0.01],
    [{ stages: 0.5 }, 0.05, 0.1],
    [{ stages: 2 }, 0.05, 0.1],
    [{ stages: 4 }, 0.04, 0.1],
    [{ topology: 'full-wave', stages: 2 }, 0.06, 0.05],
  ] as const;
  for (const [ladder, recoverySeconds, x] of cases) {
    const plain = operatingPoint(benchDesign({ ladder })).ladder;
    const amps = (x * plain.unloaded.outputVolts) / plain.lightLoad.droop;
    const design = benchDesign({ ladder, diode: { recoverySeconds, onOhms: 1e-4 }, load: { kind: 'current', amps } });
    const { ladder: loaded, point, demand } = operatingPoint(design);
    const { diodes } = partCurrents(loaded, point!.ladderAmps, point!.droop, demand!.amps, transitOf(recoverySeconds));
    const { times, diodeAmps } = finish(transientOf(design, 1600)).waveforms;
    const back = diodeAmps.map((all) =>
      all.reduce((sum, one, at) => sum - Math.min(0, one) * (times[at] - (at > 0 ? times[at - 1] : 0)), 0),
    );
    const most = Math.max(...diodes.map(({ recoveredCoulombs }) => recoveredCoulombs)) / Math.max(...back);
    // Measured 0.72 to 1.11.
    expect(most).toBeGreaterThan(0.65);
    expect(most).toBeLessThan(1.2);
  }
});
