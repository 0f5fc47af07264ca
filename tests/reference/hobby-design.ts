import fc from 'fast-check';
import type { MeasuredDesign } from '../../src/core/design/design-schema';
import { readDesign } from '../../src/core/design/read-design';

/** A value anywhere between two powers of ten, spread evenly over the decades. */
const decades = (from: number, to: number) =>
  fc.double({ min: from, max: to, noNaN: true }).map((power) => Number((10 ** power).toPrecision(4)));
const sometimes = <T>(value: fc.Arbitrary<T>, otherwise: T) => fc.oneof(fc.constant(otherwise), value);

/**
 * Designs over the range of values that hobby ladders have, legal but often
 * silly: any topology to 30 stages, any waveform, parts unlike each other, every
 * kind of load from nothing to far too much.
 */
export const hobbyDesign: fc.Arbitrary<MeasuredDesign> = fc
  .record({
    topology: fc.constantFrom('clamp', 'half-wave', 'bridge-doubler', 'full-wave', 'bipolar', 'two-ended'),
    halves: fc.oneof(fc.integer({ min: 1, max: 16 }), fc.integer({ min: 1, max: 60 })),
    grading: fc.constantFrom('equal', 'equal', 'first-doubled', 'tapered', 'listed'),
    spread: fc.array(decades(-1, 1), { minLength: 180, maxLength: 180 }),
    farads: decades(-10, -6),
    peakVolts: decades(1, 4.3),
    lopsided: sometimes(decades(-1, 1), 1),
    waveform: fc.constantFrom('sine', 'sine', 'square', 'pulse'),
    duty: fc.double({ min: 0.05, max: 0.95, noNaN: true }),
    hertz: decades(1.7, 5),
    /** Resistance and inductance of the source as parts of what a capacitor shows. */
    ohms: sometimes(decades(-4, 0), 0),
    henries: sometimes(decades(-3, -0.5), 0),
    strays: sometimes(decades(-4, -1), 0),
    /** Of the junction at 4 V, as a part of the capacitors. */
    junction: sometimes(decades(-4, -1), 0),
    byVoltage: fc.boolean(),
    dropPart: sometimes(decades(-4, -1), 0),
    onOhms: sometimes(decades(-4, -1), 0),
    leakage: sometimes(decades(-9, -5), 0),
    recovery: sometimes(decades(-9, -5), 0),
    outputOhms: sometimes(decades(-3, 0), 0),
    bleeder: fc.option(decades(-1, 4), { nil: null }),
    /** What the load takes, as a part of what would droop a single stage away. */
    burden: decades(-5, -0.3),
    load: fc.constantFrom('open', 'current', 'current', 'resistance', 'meter', 'corona', 'gap'),
    negative: fc.boolean(),
  })
  .map((part) => {
    const stages = ['full-wave', 'two-ended'].includes(part.topology)
      ? Math.ceil(part.halves / 2)
      : ['half-wave', 'bipolar'].includes(part.topology)
        ? part.halves / 2
        : 1;
    const { farads, hertz, peakVolts } = part;
    const reactance = 1 / (2 * Math.PI * hertz * farads);
    const heightVolts = 2 * stages * peakVolts;
    const amps = (part.burden * peakVolts * hertz * farads) / stages ** 2;
    const count = {
      clamp: 1,
      'bridge-doubler': 2,
      'half-wave': 2 * stages,
      'full-wave': 3 * stages,
      bipolar: 4 * stages,
      'two-ended': 4 * stages,
    }[part.topology]!;
    const loads: Record<string, unknown> = {
      open: { kind: 'open' },
      current: { kind: 'current', amps },
      resistance: { kind: 'resistance', ohms: Math.min(1e14, heightVolts / amps) },
      meter: { kind: 'meter' },
      corona: {
        kind: 'corona',
        onsetVolts: 0.5 * heightVolts,
        ampsPerSquareVolt: amps / heightVolts ** 2,
      },
      gap: { kind: 'gap', strikeVolts: heightVolts * part.burden * 5 },
    };
    const read = readDesign({
      format: 'eager-ladder/design',
      version: 1,
      name: 'Any hobby ladder',
      target: { volts: heightVolts, amps, polarity: part.negative ? 'negative' : 'positive' },
      driver: {
        kind: 'measured',
        waveform: part.waveform,
        positivePeakVolts: peakVolts,
        negativePeakVolts: peakVolts * part.lopsided,
        duty: part.duty,
        frequencyHertz: hertz,
        seriesOhms: part.ohms * reactance,
        seriesHenries: (part.henries * reactance) / (2 * Math.PI * hertz),
      },
      ladder: {
        topology: part.topology,
        stages,
        grading: part.grading === 'listed' ? 'equal' : part.grading,
        capacitorFarads: part.grading === 'listed' ? part.spread.slice(0, count).map((times) => times * farads) : null,
        capacitor: { farads },
        diode: {
          peakInverseVolts: 3 * peakVolts,
          forwardVolts: part.dropPart * peakVolts,
          recoverySeconds: part.recovery === 0 ? null : Math.min(part.recovery, 0.1 / hertz),
          onOhms: part.onOhms * reactance,
          leakageAmps: part.leakage,
          junctionFarads: part.junction * farads,
          junctionVolts: part.byVoltage ? 4 : null,
        },
        strayFarads: part.strays * farads,
      },
      output: {
        seriesOhms: part.outputOhms === 0 ? 0 : Math.min(1e13, (part.outputOhms * heightVolts) / amps),
        bleederOhms: part.bleeder === null ? null : Math.min(1e14, (part.bleeder * heightVolts) / amps),
      },
      load: loads[part.load],
    });
    if (!read.ok) throw new Error(read.faults.map((fault) => `${fault.path} ${fault.message}`).join('; '));
    return read.design as MeasuredDesign;
  });
