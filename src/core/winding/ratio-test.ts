import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import { sentence } from '../quantity/sentence';

/** A reading this much of its neighbours' median or less is none (common practice, no source). */
const NO_READING = 0.05;
/** Outside this range about the neighbours' median a reading is far from them (common practice, no source). */
const FAR = { low: 0.75, high: 1 / 0.75 };
/** Within this part of the sum, and of one section, sums count as alike: readings of a hand meter (common practice, no source). */
const ALIKE = 0.05;
const ALIKE_OF_ONE = 0.4;

const HAZARDOUS_VOLTS = 30;

export type SectionWord = 'fits' | 'low' | 'high' | 'none';

export type RatioTest = {
  /** RMS fed into the primary. */
  fedVolts: number;
  /** RMS read at each secondary section by itself, all with one meter. */
  readings: readonly number[];
  /** RMS read over all sections in series, where they were so read. */
  seriesVolts: number | null;
};

export type RatioReading = {
  /** Secondary over primary, of the whole; by the series reading where that adds up, else by the sum. */
  ratio: number;
  sumVolts: number;
  sections: { volts: number; ratio: number; word: SectionWord }[];
  findings: Finding[];
};

const numbers = (sections: readonly number[]) =>
  sections.length === 1 ? `section ${sections[0] + 1}` : `one of sections ${sections.map((at) => at + 1).join(', ')}`;

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/**
 * Turns ratio from a low-voltage test, and what the readings say of the
 * windings: sections are compared with the median of all, and their sum
 * with the reading in series. A section that falls out of the series is shorted
 * if it reads low by itself too, earthed or bridged if it does not; one that
 * counts backwards takes twice its own reading off. For sections of about equal
 * turns (common practice, no source).
 *
 * @returns null without a feed or any reading
 */
export function readRatioTest({ fedVolts, readings, seriesVolts }: RatioTest): RatioReading | null {
  const sumVolts = readings.reduce((sum, volts) => sum + volts, 0);
  if (!(fedVolts > 0) || readings.length === 0 || sumVolts === 0) return null;
  const findings: Finding[] = [];
  const say = (severity: Finding['severity'], code: string, message: string, advice: string) =>
    findings.push({ severity, code, where: '$.winding.ratio', message, advice });
  // Of two, the other one; of more, what most of them read.
  const neighboursOf = (at: number) => (readings.length === 2 ? readings[1 - at] : median(readings));
  const sections = readings.map((volts, at) => {
    const usual = neighboursOf(at);
    const part = usual === 0 ? 1 : volts / usual;
    const word: SectionWord = part <= NO_READING ? 'none' : part < FAR.low ? 'low' : part > FAR.high ? 'high' : 'fits';
    return { volts, ratio: volts / fedVolts, word };
  });
  // Of two sections the low one cannot be told from the high one: only the low one is named as the suspect.
  if (sections.length === 2 && sections.some(({ word }) => word === 'low'))
    for (const section of sections) if (section.word === 'high') section.word = 'fits';
  const neighbours = (at: number) => formatQuantity(neighboursOf(at), 'V', 3);
  sections.forEach(({ volts, word }, at) => {
    if (word === 'none')
      say(
        'stop',
        'section-silent',
        `Section ${at + 1} gives nothing beside ${neighbours(at)}: it is open, or shorted from end to end.`,
        'Take the feed off and measure its resistance: open reads nothing, a short far less than its neighbours.',
      );
    if (word === 'low')
      say(
        'stop',
        'section-low',
        `Section ${at + 1} reads ${formatQuantity(volts, 'V', 3)} beside ${neighbours(at)}: turns in it are shorted, or it has fewer.`,
        'If it was wound like the others, do not use it: shorted turns burn under load.',
      );
    if (word === 'high')
      say(
        'warn',
        'section-high',
        `Section ${at + 1} reads ${formatQuantity(volts, 'V', 3)} beside ${neighbours(at)}: it has more turns, or the others are the faulty ones.`,
        'Compare the resistances of all sections.',
      );
  });
  let ratio = sumVolts / fedVolts;
  if (seriesVolts !== null) {
    const missing = sumVolts - seriesVolts;
    const room = Math.min(ALIKE * sumVolts, ALIKE_OF_ONE * median(readings));
    const near = (volts: number) => Math.abs(missing - volts) <= room;
    const matching = (times: number) => readings.flatMap((volts, at) => (near(times * volts) ? [at] : []));
    const [reversed, absent] = [matching(2), matching(1)];
    const silent = sections.some(({ word }) => word === 'none');
    if (near(0)) ratio = seriesVolts / fedVolts;
    else if (missing < 0)
      say(
        'warn',
        'series-over-sum',
        `In series ${formatQuantity(seriesVolts, 'V', 3)} are read, more than the ${formatQuantity(sumVolts, 'V', 3)} of the sections together.`,
        'Read all of them again at the same feed with the same meter.',
      );
    else if (reversed.length > 0)
      say(
        'warn',
        'section-reversed',
        `The series falls short by twice ${numbers(reversed)}: that one counts backwards.`,
        'Swap its two leads and read the series again.',
      );
    else if (absent.length > 0) {
      const low = absent.filter((at) => sections[at].word !== 'fits');
      say(
        'stop',
        'section-falls-out',
        low.length > 0
          ? `${sentence(numbers(low))} falls out of the series and reads low by itself: shorted.`
          : `${sentence(numbers(absent))} falls out of the series though it reads right by itself: it is earthed to the core, or bridged.`,
        'With the feed off measure each lead to the core: any reading says earthed. Do not use it at high voltage.',
      );
    } else if (!silent)
      say(
        'stop',
        'series-falls-short',
        `In series ${formatQuantity(seriesVolts, 'V', 3)} are read, ${formatQuantity(missing, 'V', 3)} short of the sections’ sum: a joint is poor, or a winding is earthed within.`,
        'With the feed off measure each joint, and each lead to the core.',
      );
  }
  if (sumVolts > HAZARDOUS_VOLTS)
    say(
      'note',
      'test-voltage-live',
      `Up to ${formatQuantity(Math.max(sumVolts, seriesVolts ?? 0), 'V', 3)} RMS stand at the secondary in this test, over the usual limit of ${HAZARDOUS_VOLTS} V RMS (IEC 61010-1, from memory).`,
      'Feed less, and take the feed off before you move a lead.',
    );
  return { ratio, sumVolts, sections, findings };
}
