import type { Design } from '../design/design-schema';
import type { Meter } from '../drive/meter-sense';
import { operatingPoint } from '../operating/operating-point';
import { acrossOhms } from '../output/elements';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { probedOf } from '../transient/probed';
import { onLowSource, type LowSource } from './low-source';
import { atMeterCurrent, finished, NO_OUTPUT, upTo } from './proving';

/** What readings may tell of a ladder. */
export const UNKNOWNS = ['source', 'forward', 'farads', 'meter'] as const;
export type UnknownId = (typeof UNKNOWNS)[number];

export const UNKNOWN_NAMES: Record<UnknownId, string> = {
  source: 'Source voltage, of stated value',
  forward: 'Forward drop of each diode',
  farads: 'Capacitance, of marked value',
  meter: 'Meter resistance, of stated value',
};
/** The same within a sentence. */
export const UNKNOWN_WORDS: Record<UnknownId, string> = {
  source: 'the source voltage',
  forward: 'the diodes’ forward drop',
  farads: 'the capacitance',
  meter: 'the meter resistance',
};
export const UNKNOWN_UNITS = { source: '%', forward: 'V', farads: '%', meter: '%' } as const;

/** A value for each: fractions of what is stated, the drop in V. */
export type Unknowns = Record<UnknownId, number>;

/** Where and how a reading is taken: at a tap, on a source, through a meter. */
export type Point = { node: string; source: LowSource; meter: Meter };

/** What the design and the test state of each. */
export const statedOf = (design: Design): Unknowns => ({
  source: 1,
  forward: dropStated(design),
  farads: 1,
  meter: 1,
});

/** Forward drop that the design states, where next to nothing flows, V. */
export const dropStated = (design: Design): number => atMeterCurrent(design, 0).ladder.diode.forwardVolts;

/** What each may be at least and at most. */
export const limitsOf = (stated: Unknowns): Record<UnknownId, readonly [number, number]> => ({
  source: [0.5, 1.5],
  forward: [0, 3 * stated.forward + 1],
  farads: [0.1, 3],
  meter: [0.1, 10],
});

/** How far each is usually off: by the design's own spread and tolerance; a hand meter's resistance a tenth (common practice, no source). */
export const usualSpread = ({ spread, ladder }: Design, stated: Unknowns): Unknowns => ({
  source: spread.peaks || 0.01,
  forward: Math.max(0.05, spread.forward * stated.forward),
  farads: ladder.capacitor.tolerance || 0.01,
  meter: 0.1,
});

/** Whether the closed form has readings at taps of this ladder: one side on ground, and nothing but the meter that draws. */
export const canBeFitted = ({ ladder, output }: Design): boolean =>
  TOPOLOGY_KINDS[ladder.topology].build(1, 1).return === 'ground' &&
  TOPOLOGY_KINDS[ladder.topology].build(1, 1).diodes.length > 0 &&
  acrossOhms(output) === Infinity;

/** The test as it would be with these values: its design on the source up to a node, with the meter as its load. */
function testedWith(design: Design, { node, source, meter }: Point, values: Unknowns): Design | null {
  const { ladder } = design;
  const own: Design = {
    ...design,
    output: { ...design.output, ...NO_OUTPUT },
    ladder: {
      ...ladder,
      capacitor: { ...ladder.capacitor, farads: ladder.capacitor.farads * values.farads },
      capacitorFarads: ladder.capacitorFarads && ladder.capacitorFarads.map((farads) => farads * values.farads),
      diode: { ...ladder.diode, forwardVolts: values.forward, forwardAmps: null },
    },
  };
  const scaled: LowSource =
    source.kind === 'winding'
      ? { ...source, rmsVolts: source.rmsVolts * values.source }
      : { ...source, fraction: source.fraction * values.source };
  const low = onLowSource(own, scaled);
  return (
    low && {
      ...upTo(low, node),
      load: { kind: 'resistance', ohms: meter.inputOhms * values.meter },
    }
  );
}

/**
 * What the closed form has at each of these points through its meter, V,
 * magnitudes.
 *
 * @returns null where it has no figure for one of them
 */
export function closedReadings(design: Design, points: readonly Point[], values: Unknowns): number[] | null {
  const volts: number[] = [];
  for (const one of points) {
    const low = testedWith(design, one, values);
    const point = low && operatingPoint(low).point;
    if (!point) return null;
    volts.push(point.terminalVolts / one.meter.probeRatio);
  }
  return volts;
}

/** The same by the time domain; null where one of them does not settle. */
export function* timedReadings(
  design: Design,
  points: readonly Point[],
  values: Unknowns,
): Generator<number, number[] | null> {
  const volts: number[] = [];
  for (const [done, point] of points.entries()) {
    const { node, meter } = point;
    const loaded = testedWith(design, point, values);
    if (!loaded) return null;
    const low: Design = { ...loaded, load: { kind: 'open' } };
    const probe = { node, ohms: meter.inputOhms * values.meter, farads: meter.inputFarads };
    const found = (yield* finished(probedOf(low, probe)))?.get(node);
    if (found === undefined) return null;
    volts.push(Math.abs(found) / meter.probeRatio);
    yield (done + 1) / points.length;
  }
  return volts;
}
