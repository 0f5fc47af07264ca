import fc from 'fast-check';
import { GRADINGS } from '../topology/grading';
import { TOPOLOGIES } from '../topology/network';
import { stagesFor, TOPOLOGY_KINDS } from '../topology/topologies';
import { MOST_SECTIONS, MOST_STAGES, type MeasuredDesign } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { loadLine, stagesCurve } from './curves';
import { explain, EXPLAINED_FIGURES } from './explain';
import { DRIVER_KIND_IDS, driverOfKind } from '../drive/driver-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { predict, WITHOUT_OPTIMUM } from './predict';
import { shelfRow } from './shelf-row';

/** A value anywhere between two powers of ten. */
const decades = (from: number, to: number) =>
  fc.double({ min: from, max: to, noNaN: true }).map((power) => 10 ** power);
const orNull = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: null });

const anyDivider: fc.Arbitrary<NonNullable<MeasuredDesign['output']['divider']>> = fc.record({
  topOhms: decades(-3, 15),
  topCount: fc.integer({ min: 1, max: 100 }),
  topRatedVolts: orNull(decades(-3, 9)),
  topWatts: orNull(decades(-3, 6)),
  footOhms: decades(-3, 15),
  meterOhms: orNull(decades(-3, 15)),
  meterVolts: orNull(decades(-3, 9)),
  topTolerance: fc.double({ min: 0, max: 1, noNaN: true }),
  footTolerance: fc.double({ min: 0, max: 1, noNaN: true }),
  meterTolerance: fc.double({ min: 0, max: 1, noNaN: true }),
  perVolt: orNull(fc.double({ min: 0, max: 1, noNaN: true })),
  perKelvin: orNull(fc.double({ min: 0, max: 1, noNaN: true })),
  topFarads: fc.oneof(fc.constant(0), decades(-15, 0)),
  footFarads: fc.oneof(fc.constant(0), decades(-15, 0)),
  clampVolts: orNull(decades(-3, 9)),
  partId: fc.constant(null),
});

/** A resistor, a choke, or both, and a capacitor behind. */
const anySection = fc
  .record({
    way: fc.constantFrom('resistor', 'choke', 'both'),
    ohms: decades(-3, 12),
    henries: decades(-9, 3),
    farads: decades(-15, 0),
    ratedVolts: orNull(decades(-3, 9)),
  })
  .map(({ way, ohms, henries, ...rest }) => ({
    ...rest,
    ohms: way === 'choke' ? 0 : ohms,
    henries: way === 'resistor' ? 0 : henries,
  }));

/** Any design that the schema lets through, far past what makes sense. */
const anyDesign: fc.Arbitrary<MeasuredDesign> = fc
  .record({
    topology: fc.constantFrom(...TOPOLOGIES),
    grading: fc.constantFrom(...GRADINGS),
    unlike: fc.boolean(),
    spread: fc.array(decades(-3, 3), { minLength: 4 * MOST_STAGES, maxLength: 4 * MOST_STAGES }),
    waveform: fc.constantFrom('sine', 'square', 'pulse'),
    duty: fc.double({ min: 0.01, max: 0.99, noNaN: true }),
    seriesHenries: fc.oneof(fc.constant(0), decades(-9, 3)),
    halves: fc.integer({ min: 1, max: 2 * MOST_STAGES }),
    farads: decades(-15, 3),
    ratedVolts: orNull(decades(-3, 9)),
    peakVolts: decades(-6, 9),
    negativeVolts: fc.option(decades(-6, 9), { nil: undefined }),
    hertz: decades(-3, 12),
    seriesOhms: fc.oneof(fc.constant(0), decades(-6, 12)),
    forwardVolts: fc.oneof(fc.constant(0), decades(-3, 5)),
    strayFarads: fc.oneof(fc.constant(0), decades(-15, -3)),
    recoverySeconds: orNull(decades(-12, 3)),
    bleederOhms: orNull(decades(-3, 15)),
    divider: orNull(anyDivider),
    outputOhms: fc.oneof(fc.constant(0), decades(-3, 12)),
    smoothing: fc.array(anySection, { maxLength: MOST_SECTIONS }),
    electrodeFarads: fc.oneof(fc.constant(0), decades(-15, 0)),
    load: fc.oneof(
      fc.constant({ kind: 'open' as const }),
      decades(-15, 3).map((amps) => ({ kind: 'current' as const, amps })),
      decades(-3, 14).map((ohms) => ({ kind: 'resistance' as const, ohms })),
      decades(-3, 14).map((ohms) => ({ kind: 'meter' as const, ohms })),
      fc
        .tuple(decades(-3, 14), decades(-15, 3))
        .map(([ohms, tubeAmps]) => ({ kind: 'bias-string' as const, ohms, steps: 10, tubeAmps })),
      fc
        .tuple(decades(-3, 6), decades(-15, 3))
        .map(([onsetVolts, ampsPerSquareVolt]) => ({ kind: 'corona' as const, onsetVolts, ampsPerSquareVolt })),
      decades(-3, 6).map((strikeVolts) => ({ kind: 'gap' as const, strikeVolts, arcOhms: 1e3, quenchAmps: 1e-3 })),
    ),
    targetVolts: orNull(decades(-3, 9)),
  })
  .map((part) => {
    const base = newDesign('any');
    const stages = stagesFor(part.topology, part.halves / 2);
    const count = TOPOLOGY_KINDS[part.topology].build(stages, 1).capacitors.length;
    return {
      ...base,
      target:
        part.targetVolts === null
          ? null
          : { volts: part.targetVolts, amps: 1e-6, ripplePeakToPeakFraction: 0.01, of: 'valley' as const },
      driver: {
        ...base.driver,
        positivePeakVolts: part.peakVolts,
        negativePeakVolts: part.negativeVolts,
        waveform: part.waveform,
        duty: part.duty,
        seriesHenries: part.seriesHenries,
        frequencyHertz: part.hertz,
        seriesOhms: part.seriesOhms,
      },
      ladder: {
        ...base.ladder,
        polarity: part.targetVolts === null ? ('positive' as const) : ('negative' as const),
        topology: part.topology,
        stages,
        grading: part.grading,
        capacitorFarads: part.unlike ? part.spread.slice(0, count).map((times) => times * part.farads) : null,
        strayFarads: part.strayFarads,
        capacitor: { ...base.ladder.capacitor, farads: part.farads, ratedVolts: part.ratedVolts },
        diode: {
          ...base.ladder.diode,
          forwardVolts: part.forwardVolts,
          recoverySeconds: part.recoverySeconds,
          peakInverseVolts: part.ratedVolts,
        },
      },
      output: {
        seriesOhms: part.outputOhms,
        bleederOhms: part.bleederOhms,
        divider: part.divider,
        smoothing: part.smoothing,
        electrodeFarads: part.electrodeFarads,
      },
      load: part.load,
    };
  });

/** Paths at which something is NaN or infinite. */
function notFinite(value: unknown, path = '$'): string[] {
  if (typeof value === 'number') return Number.isFinite(value) ? [] : [`${path} = ${value}`];
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([key, inner]) => notFinite(inner, `${path}.${key}`));
}

describe('any design that the schema lets through', () => {
  it('gives finite figures or none, and words without gaps', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        expect(readDesign(JSON.parse(JSON.stringify(design))).ok).toBe(true);
        const prediction = predict(design);
        expect(notFinite(prediction)).toEqual([]);
        expect(JSON.stringify(prediction.findings)).not.toMatch(/NaN|undefined|Infinity|–/);
        expect(notFinite(shelfRow(design))).toEqual([]);
        for (const figure of EXPLAINED_FIGURES)
          expect(JSON.stringify(explain(figure, design, prediction))).not.toMatch(/NaN|undefined/);
      }),
      { numRuns: 120 },
    );
  });

  it('keeps its order: least, mean, most; loaded under unloaded; drops add up', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const { output, capacitors } = predict(design, WITHOUT_OPTIMUM);
        if (output.alternating) {
          const { rmsVolts, peakVolts, noLoadRmsVolts } = output.alternating;
          expect(output.validity).toBe(rmsVolts === null ? 'beyond' : 'good');
          if (rmsVolts === null) return;
          expect(rmsVolts).toBeLessThanOrEqual(peakVolts! * (1 + 1e-9));
          expect(rmsVolts).toBeLessThanOrEqual(noLoadRmsVolts! * (1 + 1e-9));
          expect(peakVolts).toBeLessThanOrEqual(output.noLoadPeakVolts * (1 + 1e-9));
          return;
        }
        if (output.meanVolts === null) {
          expect(output.validity).toBe('beyond');
          return;
        }
        const slack = 1e-9 * Math.max(1e-12, output.noLoadVolts);
        expect(output.minVolts!).toBeLessThanOrEqual(output.meanVolts);
        expect(output.maxVolts!).toBeGreaterThanOrEqual(output.meanVolts);
        expect(output.meanVolts).toBeLessThanOrEqual(output.noLoadVolts + slack);
        expect(output.noLoadVolts).toBeLessThanOrEqual(output.idealNoLoadVolts + slack);
        // From the ideal down to the load every loss has a name, and they add up.
        const lost = [output.lostToDiodesVolts, output.lostToStraysVolts];
        const drooped = [
          output.droopByCapacitorsVolts!,
          output.droopBySourceVolts!,
          output.droopBySmoothingVolts!,
          output.droopBySeriesResistorVolts!,
          output.droopByDriveVolts!,
        ];
        const sum = (parts: readonly number[]) => parts.reduce((all, part) => all + part, 0);
        const near = 1e-6 * Math.max(1e-9, output.idealNoLoadVolts);
        expect(output.lostToDiodesVolts).toBeGreaterThanOrEqual(-near);
        expect(Math.abs(output.idealNoLoadVolts - sum(lost) - output.noLoadVolts)).toBeLessThanOrEqual(near);
        expect(Math.abs(output.noLoadVolts - sum(drooped) - output.meanVolts)).toBeLessThanOrEqual(near);
        for (const part of capacitors) expect(part.loadedMeanVolts!).toBeLessThanOrEqual(part.workingVolts + slack);
      }),
      { numRuns: 300 },
    );
  });

  it('draws finite curves', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        expect(notFinite(loadLine(design))).toEqual([]);
        expect(notFinite(stagesCurve(design, [design.ladder.stages]))).toEqual([]);
      }),
      { numRuns: 20 },
    );
  });
});

describe('any driver before any ladder', () => {
  const jitter = fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 60, maxLength: 60 });
  /** Every number of a part of the document moved by up to a hundredfold either way. */
  const moved = (value: unknown, by: () => number): unknown => {
    if (typeof value === 'number') return value === 0 ? 0 : value * 10 ** by();
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, moved(inner, by)]));
  };
  it.each(DRIVER_KIND_IDS)('%s gives finite figures or none, and words without gaps', (kind) => {
    let read = 0;
    fc.assert(
      fc.property(anyDesign, jitter, (design, powers) => {
        const { supply, driver, transformer } = driverOfKind(kind, design, driveOf(design));
        let at = 0;
        const by = () => powers[at++ % powers.length];
        const found = readDesign({
          ...design,
          supply: moved(supply, by),
          driver: moved(driver, by),
          transformer: moved(transformer, by),
        });
        if (!found.ok) return;
        read += 1;
        const prediction = predict(found.design);
        expect(notFinite(prediction)).toEqual([]);
        expect(JSON.stringify(prediction.findings)).not.toMatch(/NaN|undefined|Infinity|–/);
        expect(notFinite(loadLine(found.design, 5))).toEqual([]);
        for (const figure of EXPLAINED_FIGURES)
          expect(JSON.stringify(explain(figure, found.design, prediction))).not.toMatch(/NaN|undefined/);
      }),
      { numRuns: 15 },
    );
    // Counts and parts of one are often moved out of what is allowed.
    expect(read).toBeGreaterThan(0);
  });
});
