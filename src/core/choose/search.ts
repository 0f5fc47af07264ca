import type { Design } from '../design/design-schema';
import { amplitudeVolts, type Drive } from '../drive/drive';
import { unloadedContext } from '../drive/drive-result';
import { makeDrive } from '../drive/driver-kinds';
import { biasDerating } from '../ladder/bias';
import type { Topology } from '../topology/network';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { idealVolts } from '../ladder/unloaded';
import { onLadder } from '../operating/ladder-of-design';
import { atHighest } from '../quantity/margin';
import { seriesFor, stringRating } from '../parts/bank';
import { forwardDrop } from '../parts/forward-drop';
import { effectiveJunction } from '../parts/junction';
import { targetOutcome, voltsFor, type Reached } from '../predict/target';
import type { Requirements } from './requirements';
import { driveVariants, type DriveVariant } from './drive-variants';
import { shapesOf, type LadderShape } from './ladder-shapes';
import { evaluateQuickly, type QuickEvaluation } from './quick-evaluation';
import { ShapeTable, type ShapeResponse } from './shape-response';
import type { CapacitorPart, DiodePart, Stocks } from './stock';
import { costsOf, TradeOff, type Costs, type FamilyOf } from './trade-off';

/** What a search works on. */
export type SearchTask = { requirements: Requirements; base: Design; stocks: Stocks };

/** One way to build the ladder, with what the closed form says of it. */
export type Candidate = {
  shape: LadderShape;
  variant: DriveVariant;
  capacitor: CapacitorPart;
  capacitorSeries: number;
  parallel: number;
  diode: DiodePart;
  diodeSeries: number;
  capacitorsWanted: number;
  diodesWanted: number;
  evaluation: QuickEvaluation;
  costs: Costs;
  /** How many of each are not there. */
  capacitorsMissing: number;
  diodesMissing: number;
};

export type SearchState = {
  evaluated: number;
  of: number;
  /** That reach the target. */
  fitting: number;
  kept: TradeOff<Candidate>;
  /** Reaching it with more of one part than there are, by that part. */
  purchases: Map<string, TradeOff<Candidate>>;
  /** Coming nearest where nothing reaches it, nearest first. */
  nearest: Candidate[];
};

/** What the quick evaluation may be off by before a candidate is dropped; what is left is predicted whole. */
const SLACK = { volts: 0.02, ripple: 0.1 };
/** Candidates up to which nothing is dropped for being nearly beaten, and how nearly past that. */
const ROOMY = 400;
const NEARLY = 0.03;
const ROOMY_PURCHASES = 20;
const MOST_NEAREST = 40;
/** Without load this many times the lowest that reaches the target asks for a droop that nobody wants. */
const FAR_ABOVE = 4;
const LOOKS_A_STEP = 100;
/** By how many parts a string is tried longer than its stress asks for: more margin, for more parts. */
const LENGTHENED = [0, 1];
/** Both strings longer than need be is a ladder for more volts, which another shape is better at. */
const isTried = (more: number, diodesMore: number) => more + diodesMore <= 1;
/** Candidates of one capacitor and diode: as short as they may be, and either string longer. */
const LENGTHS = LENGTHENED.flatMap((more) => LENGTHENED.filter((diodesMore) => isTried(more, diodesMore))).length;
/** Drives are calculated anew for capacitances at the input that differ by more than this fraction. */
const FOOT_STEP = 0.04;

/** The same ladder on whatever drive. */
export const candidateFamily: FamilyOf<Candidate> = ({ shape, capacitor, parallel, diode }) =>
  `${shape.topology} ${shape.stages} ${shape.grading} ${shape.units} ${capacitor.id} ${parallel} ${diode.id}`;

/** Stage counts that a topology takes within the limits required. */
function stageCounts(topology: Topology, { fewestStages, mostStages }: Requirements): number[] {
  const kind = TOPOLOGY_KINDS[topology].stages;
  if (kind === 'fixed') return [1];
  const step = kind === 'whole' ? 1 : 0.5;
  const counts: number[] = [];
  for (let stages = Math.ceil(fewestStages / step) * step; stages <= mostStages; stages += step) counts.push(stages);
  return counts;
}

/**
 * Every way to build a ladder that the task leaves open, by the closed form:
 * topologies, stage counts, gradings, drives, capacitors in strings and banks,
 * diodes in strings. Strings are the shortest that carry the stress with the
 * required margin, and one of the two by one part longer. Kept is what no other
 * beats.
 *
 * @yields after every hundred candidates the same state, further on; those that
 *   cannot reach the target even without droop are passed over in one go, and
 *   evaluated last, only if nothing else does
 */
export function* search(task: SearchTask): Generator<SearchState, SearchState> {
  const { requirements, base, stocks } = task;
  const variants = driveVariants(base, requirements);
  const shapes = requirements.topologies.flatMap((topology) =>
    stageCounts(topology, requirements).flatMap((stages) => shapesOf(topology, stages, requirements.graded)),
  );
  const each = stocks.capacitors.length * requirements.mostParallel * stocks.diodes.length * LENGTHS;
  const state: SearchState = {
    evaluated: 0,
    of: shapes.length * variants.length * each,
    fitting: 0,
    kept: new TradeOff(ROOMY, NEARLY, candidateFamily),
    purchases: new Map(),
    nearest: [],
  };
  const drives = new DrivesAtTheFoot(variants);
  // However a ladder is graded, without strays it climbs alike.
  const climbing = new Map<string, number>();
  const offered = shapes.map((shape) => {
    const { topology, stages } = shape;
    const form = scaledToOne(onLadder(base, turningOf(topology), drives.at(variants[0], 0, turningOf(topology))));
    const key = `${topology} ${stages}`;
    const idealPerPeak = climbing.get(key) ?? idealVolts(TOPOLOGY_KINDS[topology].build(stages, 1), form, 0);
    climbing.set(key, idealPerPeak);
    return { shape, table: new ShapeTable(shape, form), idealPerPeak };
  });
  const noLoadVolts = (idealPerPeak: number, variant: DriveVariant) =>
    idealPerPeak * amplitudeVolts(drives.at(variant, 0));
  const { volts } = requirements.target;
  const lowest = offered.reduce((least, { idealPerPeak }) => {
    const reached = variants.map((variant) => noLoadVolts(idealPerPeak, variant)).filter((one) => one >= volts);
    return Math.min(least, ...reached);
  }, Infinity);
  const passedOver: { shape: LadderShape; variant: DriveVariant; table: ShapeTable }[] = [];
  for (const { shape, table, idealPerPeak } of offered) {
    for (const variant of variants) {
      const climbs = noLoadVolts(idealPerPeak, variant);
      if (climbs < volts || climbs > FAR_ABOVE * lowest) {
        if (climbs > 0 && climbs < volts) passedOver.push({ shape, variant, table });
        state.evaluated += each;
        continue;
      }
      yield* evaluations(task, state, drives, shape, variant, table);
    }
    yield state;
  }
  if (state.fitting === 0 && state.purchases.size === 0) {
    // The last are those with most stages on the fullest drive.
    for (const { shape, variant, table } of passedOver.reverse()) {
      state.evaluated -= each;
      yield* evaluations(task, state, drives, shape, variant, table);
    }
  }
  return state;
}

function* evaluations(
  { requirements, base, stocks }: SearchTask,
  state: SearchState,
  drives: DrivesAtTheFoot,
  shape: LadderShape,
  variant: DriveVariant,
  table: ShapeTable,
): Generator<SearchState, void> {
  const { target, leastMargin, mostParallel } = requirements;
  const free = table.at(0);
  const least = amplitudeVolts(drives.at(variant, 0));
  // Strings carry the margin with the drive at its highest.
  const highest = atHighest(base.spread) * least;
  const diodes = stocks.diodes.flatMap(({ part, free: count }) => {
    // Strays bring less across a diode, never more.
    const stress = (free?.reversePerPeak ?? 2) * highest;
    const shortest = seriesFor('diode', { ratedVolts: part.peakInverseVolts, tolerance: 0 }, stress, leastMargin);
    if (shortest === null) return [];
    const { forwardVolts, forwardAmps, junctionFarads, junctionVolts } = part;
    return LENGTHENED.map((more) => {
      const series = shortest + more;
      const junction = effectiveJunction(junctionFarads, junctionVolts, (2 * least) / series, forwardVolts) / series;
      return {
        part,
        count,
        more,
        series,
        wanted: series * shape.diodes,
        strayFarads: base.ladder.strayFarads + junction,
        drop: series * forwardDrop(forwardVolts, forwardAmps, target.amps),
      };
    });
  });
  const capacitors = stocks.capacitors.flatMap(({ part, free: count }) => {
    const series = seriesFor('capacitor', part, (free?.workingPerPeak ?? 2) * highest, leastMargin);
    return series === null ? [] : LENGTHENED.map((more) => ({ part, count, more, series: series + more }));
  });
  state.evaluated +=
    LENGTHS *
    mostParallel *
    (stocks.capacitors.length * stocks.diodes.length - (capacitors.length * diodes.length) / LENGTHENED.length ** 2);
  let looked = 0;
  for (const { part, count, more, series } of capacitors)
    for (let parallel = 1; parallel <= mostParallel; parallel += 1) {
      // The first capacitor stands half of what the others do and keeps more: a little is given away here.
      const kept =
        part.dcBiasDerating === null
          ? 1
          : biasDerating(((free?.workingPerPeak ?? 2) * least) / series, part.ratedVolts!, part.dcBiasDerating);
      const farads = (kept * part.farads * parallel) / series;
      const wanted = series * parallel * shape.units;
      for (const diode of diodes) {
        if (!isTried(more, diode.more)) continue;
        state.evaluated += 1;
        const [capacitorsMissing, diodesMissing] = [
          Math.max(0, wanted - count),
          Math.max(0, diode.wanted - diode.count),
        ];
        // One purchase may be named, not two.
        if (requirements.parts === 'drawer' && capacitorsMissing > 0 && diodesMissing > 0) continue;
        const response = table.at(diode.strayFarads / farads);
        if (!response) continue;
        const inputFarads = response.inputFarads.reduce((sum, input) => sum + input * farads, 0);
        const drive = onLadder(
          base,
          turningOf(shape.topology),
          drives.at(variant, inputFarads, turningOf(shape.topology)),
        );
        const { drop } = diode;
        // What cannot reach it is not evaluated closer, once something does.
        if (
          state.fitting > 0 &&
          bestVolts(response, farads, drive, drop, target.of === 'peak' ? 0 : target.amps) <
            target.volts * (1 - SLACK.volts)
        )
          continue;
        const evaluation = evaluateQuickly({ shape, response, farads, forwardVolts: drop }, drive, {
          amps: target.amps,
          output: base.output,
        });
        if (++looked % LOOKS_A_STEP === 0) yield state;
        if (!evaluation) continue;
        if (diode.part.averageAmps !== null && evaluation.diodeAmps * (1 + leastMargin) > diode.part.averageAmps)
          continue;
        const candidate = {
          shape,
          variant,
          capacitor: part,
          capacitorSeries: series,
          parallel,
          diode: diode.part,
          diodeSeries: diode.series,
          capacitorsWanted: wanted,
          diodesWanted: diode.wanted,
          evaluation: { ...evaluation, joules: evaluation.joules / kept },
          capacitorsMissing,
          diodesMissing,
        };
        keep(state, requirements, { ...candidate, costs: quickCosts(requirements, candidate, atHighest(base.spread)) });
      }
    }
}

/** More than a ladder can give at a load: its droop is never under half that of the light load, which wide pulses lift. */
function bestVolts(response: ShapeResponse, farads: number, drive: Drive, drop: number, amps: number): number {
  const noLoadVolts = response.outputPerPeak * amplitudeVolts(drive) - response.outputPerDrop * drop;
  return noLoadVolts - (0.5 * amps * response.droop) / farads / drive.frequencyHertz;
}

function keep(state: SearchState, { target, parts }: Requirements, candidate: Candidate): void {
  const { evaluation, capacitor, diode, capacitorsMissing, diodesMissing } = candidate;
  const missing =
    parts !== 'drawer' ? null : capacitorsMissing > 0 ? capacitor.id : diodesMissing > 0 ? diode.id : null;
  if (!targetOutcome(target, reachedQuickly(target, evaluation), SLACK).met) {
    if (missing === null && state.fitting === 0) addNearest(state.nearest, target, candidate);
    return;
  }
  if (missing === null) {
    state.fitting += 1;
    state.kept.add(candidate);
    return;
  }
  const purchase = state.purchases.get(missing) ?? new TradeOff(ROOMY_PURCHASES, NEARLY, candidateFamily);
  state.purchases.set(missing, purchase);
  purchase.add(candidate);
}

const reachedQuickly = (
  { amps }: Requirements['target'],
  { meanVolts, ripplePeakToPeakVolts }: QuickEvaluation,
): Reached => ({ volts: meanVolts, amps, rippleFraction: ripplePeakToPeakVolts / meanVolts });

/** By how much an evaluation falls short of the target: the greater of volts and ripple, as a logarithm; zero or less where it does not. */
function shortfall(target: Requirements['target'], evaluation: QuickEvaluation): number {
  const { volts, ripplePeakToPeakFraction } = target;
  const byVolts = Math.log(volts / Math.max(voltsFor(target, reachedQuickly(target, evaluation))!, 1e-9));
  if (ripplePeakToPeakFraction === null) return byVolts;
  return Math.max(
    byVolts,
    Math.log(evaluation.ripplePeakToPeakVolts / evaluation.meanVolts / ripplePeakToPeakFraction),
  );
}

function addNearest(nearest: Candidate[], target: Requirements['target'], candidate: Candidate): void {
  const by = shortfall(target, candidate.evaluation);
  if (nearest.length === MOST_NEAREST && by >= shortfall(target, nearest[nearest.length - 1].evaluation)) return;
  let at = nearest.length;
  while (at > 0 && shortfall(target, nearest[at - 1].evaluation) > by) at -= 1;
  nearest.splice(at, 0, candidate);
  if (nearest.length > MOST_NEAREST) nearest.pop();
}

/** Space that one part takes, m³; null where its size is not known. */
export function cubicMetresOf({ lengthMetres, diameterMetres }: CapacitorPart): number | null {
  return lengthMetres === null || diameterMetres === null ? null : (Math.PI / 4) * diameterMetres ** 2 * lengthMetres;
}

function quickCosts({ target }: Requirements, candidate: Omit<Candidate, 'costs'>, high: number): Costs {
  const { evaluation, capacitor, capacitorsWanted, capacitorSeries, diode, diodesWanted, diodeSeries } = candidate;
  const size = cubicMetresOf(capacitor);
  const margins = [
    stringRating('capacitor', capacitor, capacitorSeries) / (high * evaluation.workingVolts) - 1,
    stringRating('diode', { ratedVolts: diode.peakInverseVolts, tolerance: 0 }, diodeSeries) /
      (high * evaluation.reverseVolts) -
      1,
    ...(diode.averageAmps !== null && evaluation.diodeAmps > 0 ? [diode.averageAmps / evaluation.diodeAmps - 1] : []),
  ];
  return costsOf({
    parts: capacitorsWanted + diodesWanted,
    missing: candidate.capacitorsMissing + candidate.diodesMissing,
    price: priceOf(capacitor, capacitorsWanted, diode, diodesWanted),
    joules: evaluation.joules,
    cubicMetres: size === null ? null : size * capacitorsWanted,
    rippleAllowed: target.ripplePeakToPeakFraction,
    rippleFraction: evaluation.ripplePeakToPeakVolts / evaluation.meanVolts,
    margin: Math.min(...margins),
    excess: evaluation.meanVolts / target.volts - 1,
    efficiency: evaluation.efficiency,
  });
}

/** Price of so many of each; null where one that is wanted is not known. */
export function priceOf(capacitor: CapacitorPart, capacitors: number, diode: DiodePart, diodes: number): number | null {
  const of = (price: number | null, count: number) => (count === 0 ? 0 : price === null ? NaN : price * count);
  const price = of(capacitor.price, capacitors) + of(diode.price, diodes);
  return Number.isNaN(price) ? null : price;
}

/** What of a ladder decides how its drive is turned, and how many windings it stands on. */
type Turning = { topology: Topology; return: string; windings: number };
const TURNINGS = new Map<Topology, Turning>();
function turningOf(topology: Topology): Turning {
  const known = TURNINGS.get(topology);
  if (known) return known;
  const network = TOPOLOGY_KINDS[topology].build(1, 1);
  const found = { topology, return: network.return, windings: network.sources.length };
  TURNINGS.set(topology, found);
  return found;
}

/** A drive with its amplitude brought to one volt. */
function scaledToOne(drive: Drive): Drive {
  const amplitude = amplitudeVolts(drive) || 1;
  return {
    ...drive,
    positivePeakVolts: drive.positivePeakVolts / amplitude,
    negativePeakVolts: drive.negativePeakVolts / amplitude,
    samples: drive.samples && drive.samples.map((volts) => volts / amplitude),
  };
}

/** The drives of a search by variant and by capacitance at the ladder's input, each calculated once for much the same. */
class DrivesAtTheFoot {
  private readonly known = new Map<DriveVariant, Map<string, Drive>>();

  constructor(variants: readonly DriveVariant[]) {
    for (const variant of variants) this.known.set(variant, new Map());
  }

  at(variant: DriveVariant, farads: number, { windings }: Pick<Turning, 'windings'> = { windings: 1 }): Drive {
    const place = farads > 0 ? Math.round(Math.log(farads) / FOOT_STEP) : -Infinity;
    const drives = this.known.get(variant)!;
    const key = `${windings} ${place}`;
    const before = drives.get(key);
    if (before) return before;
    const ladderFarads = farads > 0 ? Math.exp(place * FOOT_STEP) : 0;
    const { drive } = makeDrive(variant.design, { ...unloadedContext(ladderFarads, windings), driveOnly: true });
    drives.set(key, drive);
    return drive;
  }
}
