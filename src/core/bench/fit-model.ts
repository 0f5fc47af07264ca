import type { Design } from '../design/design-schema';
import type { Meter } from '../drive/meter-sense';
import { ladderInputs } from '../operating/ladder-inputs';
import { operatingPoint } from '../operating/operating-point';
import { acrossOhms } from '../output/elements';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { probedOf } from '../transient/probed';
import { onLowSource, type LowSource } from './low-source';
import { atMeterCurrent, finished, NO_OUTPUT, upTo } from './proving';
import { stepsUpOf } from './steps-up';

/** What readings may tell of a ladder. */
const UNKNOWNS = [
  'source',
  'ohms',
  'hertz',
  'secondary',
  'forward',
  'farads',
  'strays',
  'leak',
  'meter',
  'load',
] as const;
export type UnknownId = (typeof UNKNOWNS)[number];

/** Each by its name, within a sentence, and its unit: % is of what is stated. */
export const UNKNOWN_INFO: Record<UnknownId, { name: string; words: string; unit: '%' | 'V' | 'Ω' | 'F' | 'S' }> = {
  source: { name: 'Source voltage, of stated value', words: 'the source voltage', unit: '%' },
  ohms: { name: 'Source resistance, beyond what is stated', words: 'the source resistance', unit: 'Ω' },
  hertz: { name: 'Frequency, of stated value', words: 'the frequency', unit: '%' },
  secondary: { name: 'Capacitance of the secondary', words: 'the secondary’s capacitance', unit: 'F' },
  forward: { name: 'Forward drop of each diode', words: 'the diodes’ forward drop', unit: 'V' },
  farads: { name: 'Capacitance, of marked value', words: 'the capacitance', unit: '%' },
  strays: { name: 'Stray capacitance of each node', words: 'the strays', unit: 'F' },
  leak: { name: 'Leakage of each capacitor, as conductance', words: 'the capacitors’ leakage', unit: 'S' },
  meter: { name: 'Meter resistance, of stated value', words: 'the meter resistance', unit: '%' },
  load: { name: 'Load current, of stated value', words: 'the load current', unit: '%' },
};

/** A value for each, in its unit; % as a fraction. */
export type Unknowns = Record<UnknownId, number>;

type TapPoint = { kind: 'tap'; node: string; source: LowSource; meter: Meter };
type StepPoint = { kind: 'step'; fraction: number; meter: Meter };
/** Where and how a reading is taken: at a tap on a source, or at the loaded output at a fraction of the drive. */
export type Point = TapPoint | StepPoint;

const isOnWinding = (point: Point): boolean => point.kind === 'tap' && point.source.kind === 'winding';

/** Stated resistance of the source at a point, Ω; null where the design names none. */
function sourceOhms({ driver }: Design, point: Point): number | null {
  if (point.kind === 'tap' && point.source.kind === 'winding') return point.source.ohms;
  return driver.kind === 'measured' ? driver.seriesOhms : null;
}

/** Which unknowns readings at these points may tell of. */
export function unknownsOf(design: Design, points: readonly Point[]): UnknownId[] {
  const { driver, load, transformer } = design;
  const isOneSource = new Set(points.map(isOnWinding)).size === 1;
  const isKnownSource = isOneSource && (driver.kind === 'measured' || points.every(isOnWinding));
  const isAt = (kind: Point['kind']) => points.some((point) => point.kind === kind);
  const applies: Partial<Record<UnknownId, boolean>> = {
    ohms: isKnownSource,
    hertz: isKnownSource,
    secondary: transformer !== null && !points.some(isOnWinding),
    leak: isAt('tap'),
    meter: isAt('tap'),
    load: isAt('step') && (load.kind === 'current' || load.kind === 'resistance'),
  };
  return UNKNOWNS.filter((id) => applies[id] ?? true);
}

/** What the design and the test state of each. */
export const statedOf = (design: Design): Unknowns => ({
  source: 1,
  ohms: 0,
  hertz: 1,
  secondary: design.transformer?.secondaryFarads ?? 0,
  forward: dropStated(design),
  farads: 1,
  strays: design.ladder.strayFarads,
  leak: 0,
  meter: 1,
  load: 1,
});

/** Forward drop that the design states, where next to nothing flows, V. */
export const dropStated = (design: Design): number => atMeterCurrent(design, 0).ladder.diode.forwardVolts;

/**
 * Of a usual build: ohms of a winding with its leads, farads of a node of a hand-wired ladder and of a winding, and
 * siemens past a capacitor on a clean board, more with its size (common practice, no source).
 */
const USUAL_OHMS = 10;
const USUAL_STRAYS = 1e-12;
const USUAL_SECONDARY = 5e-12;
const USUAL_LEAK = 1e-9;
const USUAL_LEAK_PER_FARAD = 1e-3;

const usualLeak = ({ ladder }: Design): number => Math.max(USUAL_LEAK, USUAL_LEAK_PER_FARAD * ladder.capacitor.farads);

/** The least that a source is stated to have among these points, Ω. */
const leastOhms = (design: Design, points: readonly Point[]): number =>
  Math.min(...points.map((point) => sourceOhms(design, point) ?? 0));

/** What each may be at least and at most. */
export function limitsOf(design: Design, points: readonly Point[]): Record<UnknownId, readonly [number, number]> {
  const { forward, strays, secondary } = statedOf(design);
  const ohms = leastOhms(design, points);
  return {
    source: [0.5, 1.5],
    ohms: [-ohms, 10 * ohms + 100 * USUAL_OHMS],
    hertz: [0.5, 1.5],
    secondary: [0, 10 * secondary + 20 * USUAL_SECONDARY],
    forward: [0, 3 * forward + 1],
    farads: [0.1, 3],
    strays: [0, 10 * strays + 20 * USUAL_STRAYS],
    leak: [0, 1000 * usualLeak(design)],
    meter: [0.1, 10],
    load: [0, 3],
  };
}

/** How far each is usually off: by the design's own spread and tolerance; a hand meter's resistance a tenth, a load a fifth (common practice, no source). */
export const usualSpread = (design: Design, points: readonly Point[]): Unknowns => {
  const { spread, ladder } = design;
  const { forward, strays, secondary } = statedOf(design);
  return {
    source: spread.peaks || 0.01,
    ohms: Math.max(USUAL_OHMS, spread.source * leastOhms(design, points)),
    hertz: spread.frequency || 0.01,
    secondary: Math.max(USUAL_SECONDARY, secondary / 2),
    forward: Math.max(0.05, spread.forward * forward),
    farads: ladder.capacitor.tolerance || 0.01,
    strays: Math.max(USUAL_STRAYS, strays / 2),
    leak: usualLeak(design),
    meter: 0.1,
    load: 0.2,
  };
};

/** Whether a ladder has taps that stand at steady voltages. */
export const hasTaps = ({ ladder }: Design): boolean => TOPOLOGY_KINDS[ladder.topology].build(1, 1).diodes.length > 0;

/** Whether the closed form has readings at them: one side on ground, and nothing but the meter that draws. */
export const hasClosedTaps = (design: Design): boolean =>
  hasTaps(design) &&
  TOPOLOGY_KINDS[design.ladder.topology].build(1, 1).return === 'ground' &&
  acrossOhms(design.output) === Infinity;

/** The design's ladder, drive and load with these values. */
function withValues(design: Design, values: Unknowns): Design {
  const { ladder, driver, load, transformer } = design;
  return {
    ...design,
    transformer: transformer && { ...transformer, secondaryFarads: values.secondary },
    driver:
      driver.kind === 'measured'
        ? {
            ...driver,
            seriesOhms: driver.seriesOhms + values.ohms,
            frequencyHertz: driver.frequencyHertz * values.hertz,
          }
        : driver,
    load:
      load.kind === 'current'
        ? { ...load, amps: load.amps * values.load }
        : load.kind === 'resistance' && values.load > 0
          ? { ...load, ohms: load.ohms / values.load }
          : load,
    ladder: {
      ...ladder,
      strayFarads: values.strays,
      capacitor: { ...ladder.capacitor, farads: ladder.capacitor.farads * values.farads },
      capacitorFarads: ladder.capacitorFarads && ladder.capacitorFarads.map((farads) => farads * values.farads),
      diode: { ...ladder.diode, forwardVolts: values.forward, forwardAmps: null },
    },
  };
}

/** The test as it would be with these values: the whole design on the source, nothing at its output but what draws there. */
function testedWith(design: Design, { source }: TapPoint, values: Unknowns): Design | null {
  const { output } = design;
  const isBare = acrossOhms(output) === Infinity;
  const own = withValues(isBare ? { ...design, output: { ...output, ...NO_OUTPUT } } : design, values);
  const scaled: LowSource =
    source.kind === 'winding'
      ? {
          ...source,
          rmsVolts: source.rmsVolts * values.source,
          hertz: source.hertz * values.hertz,
          ohms: source.ohms + values.ohms,
        }
      : { ...source, fraction: source.fraction * values.source };
  return onLowSource(own, scaled);
}

/** What every node stands at without load and without its leakage, and what it loses to that with no meter there, V; nothing where the closed form has no figure. */
type Leaking = ReadonlyMap<string, { bareVolts: number; lostVolts: number }>;

/**
 * Leakage past every capacitor of a ladder: it takes what a load at the output takes that draws the same power (charge
 * goes up through all diodes to the top, and back down each column).
 */
function leakingOf(low: Design, leakSiemens: number): Leaking {
  const { marked } = ladderInputs(low);
  const column = Math.max(1, marked.capacitors.filter((part) => part.column === 'smoothing').length);
  const ohms = column ** 2 / (marked.capacitors.length * Math.abs(leakSiemens));
  const { nodes } = predict({ ...low, load: { kind: 'resistance', ohms } }, WITHOUT_OPTIMUM);
  return new Map(
    nodes.flatMap(({ id, noLoadVolts, meanVolts }) =>
      // A search looks to both sides of none.
      meanVolts === null
        ? []
        : [[id, { bareVolts: noLoadVolts, lostVolts: Math.sign(leakSiemens) * (noLoadVolts - meanVolts) }]],
    ),
  );
}

/** What the closed form has at each of these points: at the output of a step, at a tap through its meter, V, magnitudes; null where it has no figure for one. */
export function closedReadings(design: Design, points: readonly Point[], values: Unknowns): number[] | null {
  const leaking = new Map<LowSource, Leaking>();
  const volts: number[] = [];
  for (const point of points) {
    const found = point.kind === 'step' ? closedStep(design, point, values) : closedTap(design, point, values, leaking);
    if (found === null) return null;
    volts.push(found);
  }
  return volts;
}

function closedStep(design: Design, { fraction, meter }: StepPoint, values: Unknowns): number | null {
  const [step] = stepsUpOf(withValues(design, values), [fraction * values.source], meter);
  return step.shown && Math.abs(step.shown.value);
}

/** @param leaking of each source as far as known already */
function closedTap(design: Design, point: TapPoint, values: Unknowns, leaking: Map<LowSource, Leaking>): number | null {
  const { node, meter, source } = point;
  const low = testedWith(design, point, values);
  if (!low) return null;
  const metered: Design = { ...upTo(low, node), load: { kind: 'resistance', ohms: meter.inputOhms * values.meter } };
  const found = operatingPoint(metered).point;
  if (!found) return null;
  const volts = found.terminalVolts / meter.probeRatio;
  if (values.leak === 0) return volts;
  if (!leaking.has(source)) leaking.set(source, leakingOf(low, values.leak));
  const at = leaking.get(source)!.get(node);
  if (!at) return null;
  // Meter and leakage both take in proportion to what is left.
  const left = at.bareVolts - at.lostVolts;
  return (volts * at.bareVolts) / (at.bareVolts + (at.lostVolts / left) * found.terminalVolts);
}

/**
 * The same by the time domain, at taps; what the closed form has at steps. Null
 * where one of them does not settle.
 */
export function* timedReadings(
  design: Design,
  points: readonly Point[],
  values: Unknowns,
): Generator<number, number[] | null> {
  const volts: number[] = [];
  for (const [done, point] of points.entries()) {
    const found = point.kind === 'tap' ? yield* timedReading(design, point, values) : closedStep(design, point, values);
    if (found === null) return null;
    volts.push(found);
    yield (done + 1) / points.length;
  }
  return volts;
}

function* timedReading(design: Design, point: TapPoint, values: Unknowns): Generator<never, number | null> {
  const { node, meter } = point;
  const whole = testedWith(design, point, values);
  if (!whole) return null;
  const low: Design = { ...whole, load: { kind: 'open' } };
  const probe = { node, ohms: meter.inputOhms * values.meter, farads: meter.inputFarads };
  // What leaks above the node is drawn through it as well.
  const asked = values.leak > 0 ? low : upTo(low, node);
  const found = (yield* finished(probedOf(asked, probe, values.leak)))?.get(node);
  return found === undefined ? null : Math.abs(found) / meter.probeRatio;
}
