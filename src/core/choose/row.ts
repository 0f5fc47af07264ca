import { MOST_NOTES, type Design } from '../design/design-schema';
import { mostWatts } from '../drive/drive';
import { capacitorValues, diodeValues } from '../parts/part-values';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { predict } from '../predict/predict';
import type { Prediction } from '../predict/prediction';
import type { PartMargin } from '../stress/margins';
import { sayBank } from '../stress/strings';
import { sayQuantity } from '../quantity/format-quantity';
import type { Ask } from './requirements';
import type { DriveVariant } from './drive-variants';
import { candidateFamily, cubicMetresOf, priceOf, type Candidate } from './search';
import { costsOf, type Costs } from './trade-off';

/** A part a ladder takes, how many, and how many of them are not there. */
type PartTaken = { name: string; count: number; lacking: number };

/** One way to build the ladder as a table and a chart show it; SI base units. */
export type ChoiceRow = {
  key: string;
  /** Whole, ready to be put on the shelf. */
  design: Design;
  /** In a few words: "5 stages, half-wave". */
  form: string;
  capacitors: string;
  diodes: string;
  /** How the drive is set, where it is not as it was: "drive at 75 %"; else empty. */
  drive: string;
  taken: PartTaken[];
  parts: number;
  price: number | null;
  /** Of what is lacking. */
  toBuyPrice: number | null;
  meanVolts: number;
  /** Over the target, as a part of it. */
  excess: number;
  rippleFraction: number;
  joules: number;
  cubicMetres: number | null;
  efficiency: number | null;
  /** Of the ladder's parts, surges and heat included. */
  margin: number | null;
  /** Whether the target is met, by the closed form. */
  met: boolean;
  /** What leaves least to spare, and how much. */
  limit: string;
  warnings: string[];
  costs: Costs;
  /** The same ladder on whatever drive. */
  family: string;
};

/** Place by place what a candidate's ladder is, as a complete design. */
export function designOf(candidate: Candidate, { target, parts }: Ask): Design {
  const { shape, variant, capacitor, diode, capacitorSeries, parallel, diodeSeries } = candidate;
  const { design } = variant;
  const fromDrawer = parts !== 'any';
  const placed = shape.grading === 'placed';
  return {
    ...design,
    name: nameOf(target, shape),
    ladder: {
      ...design.ladder,
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

function nameOf({ volts, polarity }: Ask['target'], shape: Candidate['shape']): string {
  return `${sayQuantity(polarity === 'negative' ? -volts : volts, 'V')}, ${formOf(shape)}`;
}

const GRADED: Record<Candidate['shape']['grading'], string> = {
  equal: '',
  'first-doubled': ', first doubled',
  tapered: ', tapered',
  placed: ', more where it helps',
};

function formOf({ topology, stages, grading }: Candidate['shape']): string {
  const kind = TOPOLOGY_KINDS[topology];
  const name = kind.name.toLowerCase();
  if (kind.stages === 'fixed') return `${name}${GRADED[grading]}`;
  const counted = `${stages} ${stages === 1 ? 'stage' : 'stages'}${topology === 'bipolar' ? ' a side' : ''}`;
  return `${counted}, ${name}${GRADED[grading]}`;
}

/** What the asked margin is kept of: voltages of the ladder's parts and their average current; the rest is shown. */
const isAsked = (one: PartMargin) => isOfLadder(one) && ['voltage', 'reverse', 'average'].includes(one.what);

const isOfLadder = ({ of }: PartMargin) => of === 'capacitors' || of === 'diodes';

/** What leaves least to spare among the parts that are chosen: the ladder's; those of the drive are as they are. */
export const weakestOfLadder = ({ margins }: Pick<Prediction, 'margins'>): PartMargin | null =>
  margins.find(isOfLadder) ?? null;

/**
 * A candidate predicted whole.
 *
 * @returns null where the prediction finds what must stop it, gives no figure, or
 *   leaves a ladder part less than the asked margin
 */
export function rowOf(candidate: Candidate, ask: Ask): ChoiceRow | null {
  const design = designOf(candidate, ask);
  const prediction = predict(design, false);
  const { output, findings, energy, input, target } = prediction;
  const { meanVolts, ripplePeakToPeakFraction } = output;
  if (meanVolts === null || ripplePeakToPeakFraction === null) return null;
  if (findings.some(({ severity }) => severity === 'stop')) return null;
  if (prediction.margins.some((one) => isAsked(one) && one.margin < ask.leastMargin - 1e-9)) return null;
  const { capacitor, diode, capacitorsWanted, diodesWanted, capacitorSeries, parallel, diodeSeries } = candidate;
  const { capacitorsLacking, diodesLacking } = candidate;
  const size = cubicMetresOf(capacitor);
  const figures = {
    parts: capacitorsWanted + diodesWanted,
    lacking: capacitorsLacking + diodesLacking,
    price: priceOf(capacitor, capacitorsWanted, diode, diodesWanted),
    joules: energy.joules,
    cubicMetres: size === null ? null : size * capacitorsWanted,
    rippleFraction: ripplePeakToPeakFraction,
    rippleAllowed: ask.target.ripplePeakToPeakFraction,
    margin: weakestOfLadder(prediction)?.margin ?? null,
    excess: meanVolts / ask.target.volts - 1,
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
      candidate.variant.level,
      candidate.variant.frequencyFactor,
    ].join(' '),
    design,
    form: formOf(candidate.shape),
    capacitors: banked(capacitor.name, capacitorSeries, parallel),
    diodes: banked(diode.name, diodeSeries, 1),
    drive: settingOf(candidate.variant, prediction.drive.frequencyHertz),
    taken: [
      { name: capacitor.name, count: capacitorsWanted, lacking: capacitorsLacking },
      { name: diode.name, count: diodesWanted, lacking: diodesLacking },
    ],
    toBuyPrice: priceOf(capacitor, capacitorsLacking, diode, diodesLacking),
    meanVolts,
    met: target?.met ?? false,
    limit: limitOf(ask, prediction),
    warnings: findings.filter(({ severity }) => severity === 'warn').map(({ message }) => message),
    costs: costsOf(figures),
    family: candidateFamily(candidate),
  };
}

function settingOf({ level, frequencyFactor }: DriveVariant, frequencyHertz: number): string {
  const words = [
    ...(level < 1 ? [`at ${sayQuantity(level, '%', 2)}`] : []),
    ...(frequencyFactor === 1 ? [] : [`at ${sayQuantity(frequencyHertz, 'Hz')}`]),
  ];
  return words.length === 0 ? '' : `drive ${words.join(', ')}`;
}

function banked(name: string, series: number, parallel: number): string {
  const said = sayBank(series, parallel);
  return said === '' ? name : `${name}, ${said}`;
}

/** Part of the drive's peaks under which their fall is named. */
const FELT_LEVEL = 0.99;

/** Which of the target's and the parts' limits leaves least to spare. */
function limitOf({ target, leastMargin }: Ask, prediction: Prediction): string {
  const { output, drive, input, source } = prediction;
  const fraction = output.ripplePeakToPeakFraction!;
  const limits: { slack: number; words: string }[] = [];
  const excess = output.meanVolts! / target.volts - 1;
  limits.push({
    slack: excess,
    words:
      excess < 0
        ? `Output: ${sayQuantity(-excess, '%', 2)} short of the target`
        : `Output: ${sayQuantity(excess, '%', 2)} over the target`,
  });
  const allowed = target.ripplePeakToPeakFraction;
  if (allowed !== null)
    limits.push({
      slack: allowed / fraction - 1,
      words: `Ripple: ${sayQuantity(fraction, '%', 2)} of ${sayQuantity(allowed, '%', 2)} allowed`,
    });
  const weakest = weakestOfLadder(prediction);
  if (weakest)
    limits.push({
      slack: (1 + weakest.margin) / (1 + leastMargin) - 1,
      words: `${weakest.part}, ${weakest.what}: ${sayQuantity(weakest.margin, '%', 2)} in hand`,
    });
  const most = mostWatts(drive);
  if (source.level < FELT_LEVEL)
    limits.push({ slack: 0, words: `The drive: its peaks fall to ${sayQuantity(source.level, '%', 3)}` });
  else if (most !== null && input.watts !== null)
    limits.push({
      slack: most / input.watts - 1,
      words: `The drive: ${sayQuantity(input.watts, 'W')} of ${sayQuantity(most, 'W')}`,
    });
  return limits.reduce((a, b) => (b.slack < a.slack ? b : a)).words;
}

/**
 * What a choice makes of a design: a new one, or a revision of a standing one,
 * whose name, output resistors and notes stay and whose ladder, drive, target
 * and load become the choice's. The reasons go to the notes.
 */
export function appliedTo(standing: Design | null, { design }: ChoiceRow, reasons: string): Design {
  if (!standing) return { ...design, notes: reasons };
  const { ladder, target, load, supply, driver } = design;
  const notes = [standing.notes, reasons].filter((text) => text !== '').join('\n\n');
  return { ...standing, ladder, target, load, supply, driver, notes: notes.slice(-MOST_NOTES) };
}
