import { lightLoadOf, sineDrive } from '../../../tests/reference/drives';
import { halfWaveNetwork } from '../topology/half-wave';
import { droopAt, loadedLadder, rippleAt } from '../ladder/loaded';
import { sourceDemand } from './source-demand';

const ladderOf = (stages: number, seriesOhms: number) =>
  loadedLadder(halfWaveNetwork(stages, 1), sineDrive(1, 1, seriesOhms), { forwardVolts: 0, strayFarads: 0, onOhms: 0 });

// Loss in the source's resistance by ideal-diode integration, V = 1, f = 1, C = 1: [stages, x, Rs over R_out, watts].
it.each([
  [1, 0.03, 0.1, 4.654e-3],
  [1, 0.03, 0.01, 8.932e-4],
  [1, 0.1, 0.01, 6.001e-3],
  [1, 0.1, 0.1, 3.404e-2],
  [1.5, 0.1, 0.01, 8.805e-3],
  [2, 0.03, 0.01, 1.661e-3],
  [2, 0.1, 0.1, 6.19e-2],
  [3, 0.1, 0.01, 1.584e-2],
])('%d stages, x = %d, Rs/R = %d: loss 0 to 26 %% over the integrated one', (stages, x, part, watts) => {
  const { droop } = lightLoadOf(halfWaveNetwork(stages, 1));
  const ladder = ladderOf(stages, part * droop);
  const amps = (x * 2 * stages) / droop;
  const demand = sourceDemand(ladder, amps, droopAt(ladder, amps)!, rippleAt(ladder, amps, 0).chargingAngle);
  expect(demand.sourceWatts / watts).toBeGreaterThan(1);
  expect(demand.sourceWatts / watts).toBeLessThan(1.26);
  expect(demand.rmsAmps! ** 2 * part * droop).toBeCloseTo(demand.sourceWatts, 12);
});

it('a stiff source loses nothing, and its current is set by the capacitors', () => {
  const ladder = ladderOf(2, 0);
  const demand = sourceDemand(ladder, 0.02, droopAt(ladder, 0.02)!, rippleAt(ladder, 0.02, 0).chargingAngle);
  expect(demand.sourceWatts).toBe(0);
  // Two pulses a cycle of nu = N/2 charges cannot have an RMS below their mean.
  expect(demand.rmsAmps).toBeGreaterThan(2 * 2 * 0.02);
});

it('keeps its digits down to the smallest currents: RMS over mean rises smoothly as pulses narrow', () => {
  for (const seriesOhms of [0, 5]) {
    const ladder = ladderOf(2, seriesOhms);
    const ratio = (amps: number) =>
      sourceDemand(ladder, amps, droopAt(ladder, amps)!, rippleAt(ladder, amps, 0).chargingAngle).rmsAmps! / amps;
    // Charging angle goes as the square root of current, the source's as its cube root; the narrower pulse never counts.
    for (let power = -3; power >= -13; power -= 0.25) {
      const rise = ratio(10 ** (power - 0.25)) / ratio(10 ** power);
      expect(rise).toBeGreaterThan(1.08);
      expect(rise).toBeLessThan(1.17);
    }
  }
});

it('draws nothing without load', () => {
  const ladder = ladderOf(2, 1);
  expect(sourceDemand(ladder, 0, droopAt(ladder, 0)!, 0)).toEqual({ rmsAmps: 0, sourceWatts: 0 });
});

it('strays behind a pulse: a step loses C Vpp² an edge pair, a slope no more than its current loses (handbook)', () => {
  const drive = { ...sineDrive(100, 1e4, 1e3), waveform: 'pulse' as const, negativePeakVolts: 20, duty: 0.6 };
  const farads = 1e-12;
  const watts = (edgeSeconds: number) => {
    const ladder = loadedLadder(
      halfWaveNetwork(2, 1e-9),
      { ...drive, edgeSeconds },
      { forwardVolts: 0, strayFarads: farads, onOhms: 0 },
    );
    const [foot] = ladder.inputFarads;
    return { foot, lost: sourceDemand(ladder, 0, droopAt(ladder, 0)!, 0).sourceWatts };
  };
  const { foot, lost } = watts(0);
  expect(lost).toBeCloseTo(1e4 * foot * 120 ** 2, 12);
  // Two edges of 4 us a cycle: I = C V / t through 1 kohm.
  expect(watts(4e-6).lost).toBeCloseTo(2 * 1e4 * 4e-6 * ((foot * 120) / 4e-6) ** 2 * 1e3, 12);
  expect(watts(1e-12).lost).toBe(lost);
});
