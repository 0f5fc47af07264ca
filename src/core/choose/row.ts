import { MOST_NOTES, type Design } from '../design/design-schema';
import { mostWatts } from '../drive/drive';
import { capacitorValues, diodeValues } from '../drawer/part-values';
import type { Counting } from '../quantity/counting';
import { stagesInWords } from '../topology/stage-words';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { Prediction } from '../predict/prediction';
import { formatBank } from '../parts/bank';
import { formatQuantity } from '../quantity/format-quantity';
import { formatSubject, RATINGS, type Margin, type RatingId } from '../quantity/ratings';
import type { Requirements } from './requirements';
import type { DriveVariant } from './drive-variants';
import { candidateFamily, cubicMetresOf, priceOf, type Candidate } from './search';
import { costsOf, type Costs } from './trade-off';

/** A part a ladder takes, how many, and how many of them are not there. */
type PartTaken = { name: string; count: number; missing: number };

/** One way to build the ladder as a table and a chart show it; SI base units. */
export type ChoiceRow = {
  key: string;
  /** Whole, ready to be put on the shelf. */
  design: Design;
  shape: Pick<Candidate['shape'], 'topology' | 'stages' | 'grading'>;
  capacitors: string;
  diodes: string;
  /** How the drive is set, where it is not as it was: "drive at 75 %"; else empty. */
  drive: string;
  taken: PartTaken[];
  parts: number;
  price: number | null;
  /** Of what is missing. */
  toBuyPrice: number | null;
  meanVolts: number;
  /** Over the target, as a fraction of it. */
  excess: number;
  rippleFraction: number;
  joules: number;
  cubicMetres: number | null;
  efficiency: number | null;
  /** Of the ladder's parts, surges and heat included. */
  margin: number | null;
  /** Whether the target is met, by the closed form. */
  met: boolean;
  /** The limiting factor, and its margin. */
  limit: string;
  warnings: string[];
  costs: Costs;
  /** The same ladder on whatever drive. */
  family: string;
};

/** Place by place what a candidate's ladder is, as a complete design. */
export function designOf(candidate: Candidate, { target, parts }: Requirements): Design {
  const { shape, variant, capacitor, diode, capacitorSeries, parallel, diodeSeries } = candidate;
  const { design } = variant;
  const fromDrawer = parts !== 'any';
  const placed = shape.grading === 'placed';
  return {
    ...design,
    name: nameOf(target, shape, 'two-of-each'),
    ladder: {
      ...design.ladder,
      polarity: target.polarity,
      topology: shape.topology,
      stages: shape.stages,
      grading: placed ? 'equal' : (shape.grading as Design['ladder']['grading']),
      capacitorFarads: placed
        ? shape.multiples.map((multiple) =>
            Number(((multiple * capacitor.farads * parallel) / capacitorSeries).toPrecision(12)),
          )
        : null,
      capacitor: {
        ...capacitorValues(capacitor),
        series: capacitorSeries,
        parallel,
        partId: fromDrawer ? capacitor.id : null,
      },
      diode: {
        ...design.ladder.diode,
        ...diodeValues(diode),
        series: diodeSeries,
        partId: fromDrawer ? diode.id : null,
      },
    },
  };
}

function nameOf(
  { volts, polarity }: Pick<Requirements['target'], 'volts' | 'polarity'>,
  shape: ChoiceRow['shape'],
  counting: Counting,
): string {
  return `${formatQuantity(polarity === 'negative' ? -volts : volts, 'V')}, ${formOf(shape, counting)}`;
}

const GRADED: Record<Candidate['shape']['grading'], string> = {
  equal: '',
  'first-doubled': ', first doubled',
  tapered: ', tapered',
  placed: ', graded',
};

/** A ladder in a few words: "5 stages, half-wave". */
export function formOf({ topology, stages, grading }: ChoiceRow['shape'], counting: Counting): string {
  const kind = TOPOLOGY_KINDS[topology];
  const name = kind.name.toLowerCase();
  if (kind.stages === 'fixed') return `${name}${GRADED[grading]}`;
  return `${stagesInWords(topology, stages, counting)}, ${name}${GRADED[grading]}`;
}

/** What the asked margin is kept of: voltages of the ladder's parts and their average current; the rest is shown. */
const REQUIRED_OF: readonly RatingId[] = ['capacitorVoltage', 'diodeReverseVoltage', 'diodeAverageCurrent'];
const isRequired = ({ id }: Margin) => REQUIRED_OF.includes(id);

const OF_LADDER: readonly RatingId[] = [
  ...REQUIRED_OF,
  'capacitorAlternatingVoltage',
  'capacitorCurrent',
  'capacitorTemperatureRise',
  'diodeSurge',
  'diodeHeat',
];
const isOfLadder = ({ id }: Margin) => OF_LADDER.includes(id);

/** The smallest margin among the parts that are chosen: the ladder's; those of the drive are as they are. */
export const weakestOfLadder = ({ margins }: Pick<Prediction, 'margins'>): Margin | null =>
  margins.find(isOfLadder) ?? null;

/**
 * A candidate predicted whole.
 *
 * @returns null where the prediction finds what must stop it, gives no figure, or
 *   leaves a ladder part less than the asked margin
 */
export function rowOf(candidate: Candidate, requirements: Requirements): ChoiceRow | null {
  const design = designOf(candidate, requirements);
  const prediction = predict(design, WITHOUT_OPTIMUM);
  const { output, findings, energy, input, target } = prediction;
  const { meanVolts, ripplePeakToPeakFraction } = output;
  if (meanVolts === null || ripplePeakToPeakFraction === null) return null;
  if (findings.some(({ severity }) => severity === 'stop')) return null;
  if (prediction.margins.some((one) => isRequired(one) && one.margin < requirements.leastMargin - 1e-9)) return null;
  const { capacitor, diode, capacitorsWanted, diodesWanted, capacitorSeries, parallel, diodeSeries } = candidate;
  const { capacitorsMissing, diodesMissing } = candidate;
  const size = cubicMetresOf(capacitor);
  const figures = {
    parts: capacitorsWanted + diodesWanted,
    missing: capacitorsMissing + diodesMissing,
    price: priceOf(capacitor, capacitorsWanted, diode, diodesWanted),
    joules: energy.joules,
    cubicMetres: size === null ? null : size * capacitorsWanted,
    rippleFraction: ripplePeakToPeakFraction,
    rippleAllowed: requirements.target.ripplePeakToPeakFraction,
    margin: weakestOfLadder(prediction)?.margin ?? null,
    excess: target!.voltsExcess!,
    efficiency: input.efficiency,
  };
  return {
    ...figures,
    key: [
      candidate.shape.topology,
      candidate.shape.stages,
      candidate.shape.multiples.join('.'),
      capacitor.id,
      capacitorSeries,
      parallel,
      diode.id,
      diodeSeries,
      candidate.variant.driveScale,
      candidate.variant.frequencyFactor,
    ].join(' '),
    design,
    shape: { topology: candidate.shape.topology, stages: candidate.shape.stages, grading: candidate.shape.grading },
    capacitors: banked(capacitor.name, capacitorSeries, parallel),
    diodes: banked(diode.name, diodeSeries, 1),
    drive: settingOf(candidate.variant, prediction.drive.frequencyHertz),
    taken: [
      { name: capacitor.name, count: capacitorsWanted, missing: capacitorsMissing },
      { name: diode.name, count: diodesWanted, missing: diodesMissing },
    ],
    toBuyPrice: priceOf(capacitor, capacitorsMissing, diode, diodesMissing),
    meanVolts,
    met: target?.met ?? false,
    limit: limitOf(requirements, prediction),
    warnings: findings.filter(({ severity }) => severity === 'warn').map(({ message }) => message),
    costs: costsOf(figures),
    family: candidateFamily(candidate),
  };
}

function settingOf({ driveScale, frequencyFactor }: DriveVariant, frequencyHertz: number): string {
  const words = [
    ...(driveScale < 1 ? [`at ${formatQuantity(driveScale, '%', 2)}`] : []),
    ...(frequencyFactor === 1 ? [] : [`at ${formatQuantity(frequencyHertz, 'Hz')}`]),
  ];
  return words.length === 0 ? '' : `drive ${words.join(', ')}`;
}

function banked(name: string, series: number, parallel: number): string {
  const said = formatBank(series, parallel);
  return said === '' ? name : `${name}, ${said}`;
}

/** Fraction of the drive's peaks under which their fall is named. */
const FELT_SCALE = 0.99;

/** Which of the target's and the parts' limits is the limiting factor. */
function limitOf({ target, leastMargin }: Requirements, prediction: Prediction): string {
  const { output, drive, input, source } = prediction;
  const fraction = output.ripplePeakToPeakFraction!;
  const limits: { slack: number; words: string }[] = [];
  const excess = prediction.target!.voltsExcess!;
  limits.push({
    slack: excess,
    words:
      excess < 0
        ? `Output: ${formatQuantity(-excess, '%', 2)} short of the target`
        : `Output: ${formatQuantity(excess, '%', 2)} over the target`,
  });
  const allowed = target.ripplePeakToPeakFraction;
  if (allowed !== null)
    limits.push({
      slack: allowed / fraction - 1,
      words: `Ripple: ${formatQuantity(fraction, '%', 2)} of ${formatQuantity(allowed, '%', 2)} allowed`,
    });
  const weakest = weakestOfLadder(prediction);
  if (weakest)
    limits.push({
      slack: (1 + weakest.margin) / (1 + leastMargin) - 1,
      words: `${formatSubject(weakest)}, ${RATINGS[weakest.id].rating}: margin ${formatQuantity(weakest.margin, '%', 2)}`,
    });
  const most = mostWatts(drive);
  if (source.driveScale < FELT_SCALE)
    limits.push({ slack: 0, words: `The drive: its peaks fall to ${formatQuantity(source.driveScale, '%', 3)}` });
  else if (most !== null && input.watts !== null)
    limits.push({
      slack: most / input.watts - 1,
      words: `The drive: ${formatQuantity(input.watts, 'W')} of ${formatQuantity(most, 'W')}`,
    });
  return limits.reduce((a, b) => (b.slack < a.slack ? b : a)).words;
}

/**
 * What a choice makes of a design: a new one, or a revision of a standing one,
 * whose name, output resistors and notes stay and whose ladder, drive, target
 * and load become the choice's. The reasons go to the notes.
 */
export function appliedTo(
  standing: Design | null,
  { design, shape }: ChoiceRow,
  reasons: string,
  counting: Counting,
): Design {
  if (!standing)
    return {
      ...design,
      name: nameOf({ volts: design.target!.volts, polarity: design.ladder.polarity }, shape, counting),
      notes: reasons,
    };
  const { ladder, target, load, supply, driver } = design;
  const notes = [standing.notes, reasons].filter((text) => text !== '').join('\n\n');
  return { ...standing, ladder, target, load, supply, driver, notes: notes.slice(-MOST_NOTES) };
}
