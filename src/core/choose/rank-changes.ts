import { changeDesign } from '../design/change-design';
import { MOST_STAGES, type Design } from '../design/design-schema';
import { readDesign } from '../design/read-design';
import type { DesignChange } from '../quantity/finding';
import { GRADINGS } from '../topology/grading';
import { addedStages, type Counting } from '../quantity/counting';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { DIODE_KIND, DIODE_KINDS, kindOfDiode } from '../parts/diode-kinds';
import { withUsualDiode } from '../drawer/usual-diode';
import { preferredAtLeast, preferredAtMost } from '../quantity/preferred-values';
import { formatQuantity } from '../quantity/format-quantity';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { Prediction } from '../predict/prediction';

/** What one change does to the figures one chooses by; null where either side has no figure. */
export type RankedChange = DesignChange & {
  /** To the mean output, V. */
  gainVolts: number | null;
  /** To the ripple peak to peak, V. */
  rippleChangeVolts: number | null;
  /** To the stored energy, J. */
  energyChangeJoules: number;
  /** The smallest margin it leaves, as a fraction; null where nothing is rated. */
  smallestMargin: number | null;
  /** Whether a stop is found in the changed design that is not in this one. */
  newStop: string | null;
};

/** A gain worth offering, as a fraction of the output. */
const LEAST_GAIN = 1e-4;

/**
 * The change that raises the mean output most of those ranked, so that what is
 * offered first is what the list begins with; one that brings a stop about is
 * never it.
 *
 * @returns null when nothing helps, or the present output has no figure
 */
export function largestGain(ranked: readonly RankedChange[], presentVolts: number | null): RankedChange | null {
  const best = ranked.find(({ newStop }) => newStop === null);
  return best && presentVolts !== null && (best.gainVolts ?? 0) > LEAST_GAIN * presentVolts ? best : null;
}

const FASTER = 1.25;

/**
 * The single changes that a practitioner would think of, each with what it does,
 * the greatest gain of output first, those that bring no stop about before those
 * that do: stages more or fewer, the next capacitor value that is sold, a
 * grading, full-wave, a higher frequency, diodes of another kind, a stiffer
 * drive. A change that the design's own rules refuse is left out.
 *
 * @param counting how stages are counted in what changes are called
 * @yields after each change evaluated, how many are done of how many
 */
export function* rankChanges(
  design: Design,
  counting: Counting,
): Generator<{ done: number; of: number }, RankedChange[]> {
  const present = predict(design, WITHOUT_OPTIMUM);
  const stops = new Set(stopsOf(present));
  const changes = singleChanges(design, present, counting);
  const ranked: RankedChange[] = [];
  for (const [at, change] of changes.entries()) {
    const read = readDesign(changeDesign(design, change));
    if (read.ok) ranked.push(effectOf(change, present, predict(read.design, WITHOUT_OPTIMUM), stops));
    yield { done: at + 1, of: changes.length };
  }
  return ranked.sort(
    (a, b) =>
      Number(a.newStop !== null) - Number(b.newStop !== null) ||
      (b.gainVolts ?? -Infinity) - (a.gainVolts ?? -Infinity),
  );
}

const stopsOf = ({ findings }: Prediction) =>
  findings.filter(({ severity }) => severity === 'stop').map(({ code }) => code);

function effectOf(
  change: DesignChange,
  before: Prediction,
  after: Prediction,
  stops: ReadonlySet<string>,
): RankedChange {
  const difference = (to: number | null, from: number | null) => (to === null || from === null ? null : to - from);
  const added = after.findings.find(({ severity, code }) => severity === 'stop' && !stops.has(code));
  return {
    ...change,
    gainVolts: difference(after.output.meanVolts, before.output.meanVolts),
    rippleChangeVolts: difference(after.output.ripplePeakToPeakVolts, before.output.ripplePeakToPeakVolts),
    energyChangeJoules: after.energy.joules - before.energy.joules,
    smallestMargin: after.smallestMargin,
    newStop: added?.message ?? null,
  };
}

function singleChanges(design: Design, prediction: Prediction, counting: Counting): DesignChange[] {
  const { drive } = prediction;
  const { ladder, driver, transformer } = design;
  const { stages, topology, capacitor, capacitorFarads, grading, diode } = ladder;
  const changes: DesignChange[] = [];
  const add = (label: string, path: string, value: unknown) => changes.push({ label, path, value });
  if (TOPOLOGY_KINDS[topology].stages !== 'fixed') {
    if (stages + 1 <= MOST_STAGES) add(`${addedStages(1, counting)} more`, '$.ladder.stages', stages + 1);
    if (stages > 1) add(`${addedStages(1, counting)} fewer`, '$.ladder.stages', stages - 1);
  }
  if (!capacitorFarads) {
    const next = preferredAtLeast(6, capacitor.farads * 1.01);
    add(`Capacitors of ${formatQuantity(next, 'F', 2)}`, '$.ladder.capacitor.farads', next);
    for (const other of GRADINGS) if (other !== grading) add(GRADING_LABELS[other], '$.ladder.grading', other);
  }
  if (topology === 'half-wave' && Number.isInteger(stages) && !capacitorFarads)
    add('Full-wave, from a second, equal half winding', '$.ladder.topology', 'full-wave');
  const present = kindOfDiode(diode);
  for (const kind of DIODE_KINDS)
    if (kind !== present)
      add(
        `Diodes: ${DIODE_KIND[kind].name.toLowerCase()}, usual values`,
        '$.ladder.diode',
        withUsualDiode(design, kind, prediction),
      );
  if ('frequencyHertz' in driver && driver.frequencyHertz !== null) {
    const hertz = Number((drive.frequencyHertz * FASTER).toPrecision(3));
    add(`Frequency of ${formatQuantity(hertz, 'Hz')}`, '$.driver.frequencyHertz', hertz);
  }
  if (driver.kind === 'resonant-push-pull') {
    const farads = preferredAtMost(6, driver.tankFarads / FASTER);
    add(`Tank capacitors of ${formatQuantity(farads, 'F', 2)}: faster`, '$.driver.tankFarads', farads);
  }
  const halved = (path: string, label: string, ohms: number) => {
    if (ohms > 0) add(`${label} of ${formatQuantity(ohms / 2, 'Ω')}`, path, ohms / 2);
  };
  if (driver.kind === 'measured' || driver.kind === 'module')
    halved('$.driver.seriesOhms', 'Source resistance', driver.seriesOhms);
  if (driver.kind === 'mains') halved('$.driver.secondaryOhms', 'Winding resistance', driver.secondaryOhms);
  if (transformer) halved('$.transformer.secondaryOhms', 'Secondary resistance', transformer.secondaryOhms);
  if (design.output.seriesOhms > 0) {
    const ohms = preferredAtMost(6, design.output.seriesOhms / 2);
    add(`Series resistor of ${formatQuantity(ohms, 'Ω', 2)}`, '$.output.seriesOhms', ohms);
  }
  return changes;
}

const GRADING_LABELS: Record<(typeof GRADINGS)[number], string> = {
  equal: 'All capacitors equal',
  'first-doubled': 'First capacitor doubled',
  tapered: 'Capacitors tapered towards the input',
};
