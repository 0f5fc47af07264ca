import type { Design } from '../design/design-schema';
import type { Polarity } from '../quantity/polarity';
import { DRIVER_KINDS } from '../drive/driver-kinds';
import type { PartColumn } from '../topology/network';
import type { Counting } from '../quantity/counting';
import { stagesInWords } from '../topology/stage-words';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { FIGURES } from './figures';
import type { Prediction } from './prediction';
import { predict, WITHOUT_OPTIMUM } from './predict';
import { reachedBy } from './reached';
import { voltsFor } from './target';

/** A Climb small enough for a row: magnitudes, V. */
export type SmallClimb = {
  rungs: { volts: number; noLoadVolts: number; column: PartColumn }[];
  highest: number;
  lowest: number;
  targetVolts: number | null;
};

/** What the shelf tells of a design at a glance. */
export type ShelfRow = {
  name: string;
  polarity: Polarity;
  targetVolts: number | null;
  targetAmps: number | null;
  /** Whether nothing rectifies, so that the output has an RMS and no polarity. */
  alternating: boolean;
  /** Mean, or RMS of an output that alternates. */
  reachedVolts: number | null;
  /** What a target asks for and does not get; null where it is met, or none is set. */
  missed: 'volts' | 'amps' | 'ripple' | null;
  smallestMargin: number | null;
  /** Null where nothing climbs. */
  climb: SmallClimb | null;
  driver: Design['driver']['kind'];
  topology: Design['ladder']['topology'];
  stages: number;
};

/** The row of one design, from the same prediction that its screen shows; volts, amperes, margin as a fraction. */
export function shelfRow(design: Design): ShelfRow {
  const prediction = predict(design, WITHOUT_OPTIMUM);
  return {
    name: design.name,
    polarity: prediction.output.polarity,
    targetVolts: design.target?.volts ?? null,
    targetAmps: design.target?.amps ?? null,
    alternating: prediction.output.alternating !== null,
    reachedVolts: voltsFor(design.target ?? { of: 'mean' }, reachedBy(prediction.output)),
    missed: missedOf(prediction),
    smallestMargin: FIGURES.smallestMargin.read(prediction),
    climb: smallClimb(prediction, design.target?.volts ?? null),
    driver: design.driver.kind,
    topology: design.ladder.topology,
    stages: design.ladder.stages,
  };
}

/** Rungs that a small picture can show apart. */
const MOST_RUNGS = 24;

function smallClimb({ nodes, output, terminals }: Prediction, targetVolts: number | null): SmallClimb | null {
  if (output.alternating) return null;
  const all = nodes.flatMap(({ column, meanVolts, noLoadVolts }) =>
    column === 'ground' || column === 'source' ? [] : [{ column, volts: meanVolts ?? noLoadVolts, noLoadVolts }],
  );
  const every = Math.ceil(all.length / MOST_RUNGS);
  const rungs = all.filter((_, index) => (all.length - 1 - index) % every === 0);
  // A target across two sides stands half on either.
  const target = targetVolts === null ? null : terminals.return === 'ground' ? targetVolts : targetVolts / 2;
  const heights = [0, target ?? 0, ...all.flatMap(({ volts, noLoadVolts }) => [volts, noLoadVolts])];
  return { rungs, highest: Math.max(...heights), lowest: Math.min(...heights), targetVolts: target };
}

function missedOf({ target }: Prediction): ShelfRow['missed'] {
  if (!target || target.met) return null;
  return target.voltsMet ? (target.ampsMet ? 'ripple' : 'amps') : 'volts';
}

/** Driver, topology and stages in a line. */
export function buildWords(
  { driver, topology, stages }: Pick<ShelfRow, 'driver' | 'topology' | 'stages'>,
  counting: Counting,
): string {
  const { name, stages: kind } = TOPOLOGY_KINDS[topology];
  const counted = stagesInWords(topology, stages, counting);
  return [DRIVER_KINDS[driver].name, name.toLowerCase(), ...(kind === 'fixed' ? [] : [counted])].join(' · ');
}
