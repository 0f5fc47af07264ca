import { integratedFlyback } from '../../../tests/reference/flyback-ladder';
import type { Design } from '../design/design-schema';
import { driverSchema } from './driver-kinds';
import { supplySchema } from './supply';
import { transformerSchema } from '../magnetics/transformer';
import { newDesign } from '../design/new-design';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { predict } from '../predict/predict';

const plain = newDesign('Flyback');
const CIRCUIT = { volts: 24, henries: 100e-6, ratio: 30, farads: 100e-12, onSeconds: 16e-6 };

const flybackInto = (ohms: number, frequencyHertz: number): Design => ({
  ...plain,
  supply: supplySchema.parse({ kind: 'dc', volts: CIRCUIT.volts }),
  driver: driverSchema.parse({
    kind: 'flyback',
    frequencyHertz,
    duty: CIRCUIT.onSeconds * frequencyHertz,
    switchFarads: 0,
    transistorOhms: 0,
    efficiency: 1 - 1e-9,
  }),
  transformer: transformerSchema.parse({
    primaryTurns: 10,
    secondaryTurns: 10 * CIRCUIT.ratio,
    coupling: 1,
    primaryHenries: CIRCUIT.henries,
    secondaryFarads: CIRCUIT.farads,
  }),
  ladder: { ...plain.ladder, diode: { ...plain.ladder.diode, forwardVolts: 0, junctionFarads: 0 } },
  load: { kind: 'resistance', ohms },
});

const integrated = (design: Design, ohms: number, frequencyHertz: number, ringOhms: number) =>
  integratedFlyback(ladderOfDesign(design).network, {
    forwardVolts: CIRCUIT.volts * CIRCUIT.ratio,
    secondaryHenries: CIRCUIT.henries * CIRCUIT.ratio ** 2,
    secondaryFarads: CIRCUIT.farads,
    duty: CIRCUIT.onSeconds * frequencyHertz,
    frequencyHertz,
    loadOhms: ohms,
    diodeOhms: 2000,
    softVolts: 4,
    ringOhms,
    start: predict(design).capacitors.map((part) => part.loadedMeanVolts!),
    periods: 150,
    measured: 20,
  });

describe('switch, core, capacitance and ladder integrated by odex as one circuit', () => {
  it.each([3e6, 6e6, 12e6, 24e6, 60e6])(
    'an output of %d ohm is limited by the energy of each pulse: within 5 % where the ringing has died',
    (ohms) => {
      const design = flybackInto(ohms, 8e3);
      const run = integrated(design, ohms, 8e3, 12e3);
      const { output, source, drive } = predict(design);
      const ceiling = source.figures.ceilingWatts!;
      expect(run.ceilingWatts / ceiling).toBeCloseTo(1, 3);
      expect(Math.abs(output.meanVolts! / run.meanVolts - 1)).toBeLessThan(0.05);
      // The pulse as the model has it stands; the real one is rounded and passes it by some per cent.
      expect(Math.abs((drive.positivePeakVolts * source.driveScale) / run.peakVolts - 1)).toBeLessThan(0.08);
    },
  );

  it('what still rings when the switch closes again moves the output by some ten per cent, as the docs say', () => {
    const design = flybackInto(2e6, 25e3);
    const apart = [12e3, 1e9].map(
      (ringOhms) => predict(design).output.meanVolts! / integrated(design, 2e6, 25e3, ringOhms).meanVolts - 1,
    );
    for (const part of apart) expect(Math.abs(part)).toBeLessThan(0.15);
    expect(Math.abs(apart[0] - apart[1])).toBeGreaterThan(0.03);
  });
});
