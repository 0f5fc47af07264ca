import type { Design } from '../design/design-schema';
import type { Drive } from '../drive/drive';
import { limitingOhms } from '../output/elements';
import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import { atHighest, CHOSEN_MARGIN, fitOf } from '../quantity/margin';
import { CONDITIONS, formatSubject, ratingKind, type Margin } from '../quantity/ratings';

/** Part of a diode's heat from which what makes it is named. */
const WORTH_NAMING = 0.05;

type RatedPart = { id: string; ratedVolts: number | null; margin: number | null };

/** What rating findings are read from. */
export type RatingFindingInput = {
  capacitors: readonly (RatedPart & { workingVolts: number })[];
  diodes: readonly (RatedPart & { reverseVolts: number; recoveryWatts: number | null })[];
  margins: readonly Margin[];
  drive: Pick<Drive, 'frequencyHertz'>;
};

/** Recovery time over which a diode is called slow, as a fraction of a period (common practice, no source). */
const SLOW_RECOVERY_FRACTION = 0.02;

/**
 * Parts against their ratings: one table over the margins, what its few words
 * cannot say by hand: which of the ladder's many parts are meant, surges, and
 * what makes a diode hot.
 */
export function ratingFindings(design: Design, input: RatingFindingInput): Finding[] {
  return [
    ...diodeVoltages(design, input),
    ...capacitorVoltages(design, input),
    ...input.margins.flatMap(byTable),
    ...diodeSurge(design, input),
    ...diodeHeat(input),
    ...slowDiode(design, input),
  ];
}

/** What the catalogue of ratings says of a margin. */
function byTable(margin: Margin): Finding[] {
  const { over, close, where, rating, unit, advice } = ratingKind(margin.id);
  const fit = fitOf(margin.margin);
  const found = fit === 'over' ? over : fit === 'close' ? close : null;
  if (!found) return [];
  const [stress, rated] = [formatQuantity(margin.stress, unit), formatQuantity(margin.rated, unit)];
  return [
    {
      ...found,
      where,
      message: `${formatSubject(margin)}, ${rating}: ${stress} ${CONDITIONS[margin.condition]}, ${fit === 'over' ? 'over its' : 'close to its'} ${rated}.`,
      advice: margin.remedy ?? advice,
    },
  ];
}

/** Parts named as a short list: one, two, or from first to last. */
function listParts(ids: string[]): string {
  return ids.length <= 2 ? ids.join(' and ') : `${ids[0]} to ${ids[ids.length - 1]} (${ids.length} of them)`;
}

type StressedPart = RatedPart & { stressVolts: number };

function voltageFindings(
  parts: StressedPart[],
  high: number,
  words: { over: string; thin: string; rating: string; path: string; stress: string },
): Finding[] {
  const worst = (group: StressedPart[]) => group.reduce((a, b) => (b.stressVolts > a.stressVolts ? b : a));
  const over = parts.filter((part) => fitOf(part.margin) === 'over');
  const highVolts = (part: StressedPart) => part.stressVolts * high;
  const overWhenHigh = (part: StressedPart) => part.ratedVolts !== null && highVolts(part) > part.ratedVolts;
  const thin = parts.filter(
    (part) => fitOf(part.margin) === 'close' || (fitOf(part.margin) === 'fits' && overWhenHigh(part)),
  );
  const findings: Finding[] = [];
  if (over.length) {
    const { stressVolts, ratedVolts } = worst(over);
    findings.push({
      code: words.over,
      severity: 'stop',
      where: listParts(over.map((part) => part.id)),
      message: `${words.stress} ${formatQuantity(stressVolts, 'V')} without load, over the ${words.rating} of ${formatQuantity(ratedVolts!, 'V')}.`,
      advice: `Use parts rated at least ${formatQuantity(stressVolts * (1 + CHOSEN_MARGIN), 'V')}, put two in series, or lower the drive.`,
    });
  }
  if (thin.length) {
    const part = worst(thin);
    const { stressVolts, ratedVolts, margin } = part;
    const left = `margin ${formatQuantity(margin!, '%', 2)}${margin! < CHOSEN_MARGIN ? `, less than ${formatQuantity(CHOSEN_MARGIN, '%', 2)}` : ''}`;
    const whenHigh = overWhenHigh(part)
      ? ` With the drive at its highest it is ${formatQuantity(highVolts(part), 'V')}, over the rating.`
      : '';
    findings.push({
      code: words.thin,
      severity: 'warn',
      where: listParts(thin.map((part) => part.id)),
      message: `${words.stress} ${formatQuantity(stressVolts, 'V')}, rated ${formatQuantity(ratedVolts!, 'V')}: ${left}.${whenHigh}`,
      advice: `Use parts rated at least ${formatQuantity(highVolts(part) * (1 + CHOSEN_MARGIN), 'V')}.`,
    });
  }
  if (parts.length && parts[0].ratedVolts === null)
    findings.push({
      code: 'rating-unknown',
      severity: 'note',
      where: words.path,
      message: `No ${words.rating} is given, so no margin can be stated.`,
      advice: `Enter the ${words.rating} from the part's marking or data.`,
    });
  return findings;
}

const diodeVoltages = ({ spread }: Design, { diodes }: RatingFindingInput) =>
  voltageFindings(
    diodes.map((part) => ({ ...part, stressVolts: part.reverseVolts })),
    atHighest(spread),
    {
      over: 'diode-over-peak-inverse',
      thin: 'diode-margin-thin',
      rating: 'peak inverse voltage',
      path: '$.ladder.diode.peakInverseVolts',
      stress: 'Diodes block up to',
    },
  );

const capacitorVoltages = ({ spread }: Design, { capacitors }: RatingFindingInput) =>
  voltageFindings(
    capacitors.map((part) => ({ ...part, stressVolts: part.workingVolts })),
    atHighest(spread),
    {
      over: 'capacitor-over-rating',
      thin: 'capacitor-margin-thin',
      rating: 'rated voltage',
      path: '$.ladder.capacitor.ratedVolts',
      stress: 'Capacitors work at',
    },
  );

function diodeSurge({ output, ladder }: Design, { margins, diodes }: RatingFindingInput): Finding[] {
  if (diodes.length === 0) return [];
  const over = margins.filter(({ id, margin }) => id === 'diodeSurge' && margin < 0);
  const findings = over.map(({ condition, stress, rated }): Finding => {
    const shorted = condition === 'shortedOutput';
    return {
      code: 'diode-surge',
      severity: 'warn',
      where: shorted ? '$.output.seriesOhms' : '$.ladder.diode.surgeAmps',
      message: `${shorted ? 'With the output shorted' : 'When it is switched on'} a diode may carry up to ${formatQuantity(stress, 'A')}, over the ${formatQuantity(rated, 'A')} that its surge rating allows for so long.`,
      advice: shorted
        ? `Put at least ${formatQuantity((limitingOhms(output) * stress) / rated, 'Ω', 2)} in series with the output.`
        : 'Raise the drive slowly, or see Charge-up for the surge itself; this is an upper bound.',
    };
  });
  const rated = ladder.diode.surgeAmps !== null;
  if (rated && !margins.some(({ id, condition }) => id === 'diodeSurge' && condition === 'switchedOn'))
    findings.push({
      code: 'switch-on-unlimited',
      severity: 'note',
      where: '$.ladder.diode.surgeAmps',
      message: 'Nothing in the design limits what a diode carries when the drive is switched on with the ladder empty.',
      advice: 'Enter the resistance of the source, and of the diodes if it is known; or raise the drive slowly.',
    });
  if (limitingOhms(output) === 0 && rated)
    findings.push({
      code: 'short-unlimited',
      severity: 'note',
      where: '$.output.seriesOhms',
      message: 'Without a series resistor only the diodes themselves limit the current when the output is shorted.',
      advice: 'A resistor in series with the output keeps a spark or a short within their surge rating.',
    });
  return findings;
}

/** Heat over what a diode's average current makes of it, with how much of it recovery is: estimates. */
const diodeHeat = ({ margins, diodes }: RatingFindingInput): Finding[] =>
  margins
    .filter(({ id, margin }) => id === 'diodeHeat' && margin < 0)
    .map((margin) => {
      const recovery = Math.max(...diodes.map(({ recoveryWatts }) => recoveryWatts ?? 0));
      return {
        code: 'diode-heats',
        severity: 'warn',
        where: '$.ladder.diode.averageAmps',
        message: `${formatSubject(margin)} may turn ${formatQuantity(margin.stress, 'W', 2)} each into heat at this load, over the ${formatQuantity(margin.rated, 'W', 2)} that their average current makes${recovery > WORTH_NAMING * margin.stress ? `; recovery makes up to about ${formatQuantity(recovery, 'W', 2)}` : ''}.`,
        advice:
          recovery > margin.stress / 2
            ? 'Use diodes that recover sooner, or a lower frequency.'
            : 'Draw less, or use diodes of more average current.',
      };
    });

function slowDiode({ ladder }: Design, { drive }: RatingFindingInput): Finding[] {
  const seconds = ladder.diode.recoverySeconds;
  if (seconds === null) return [];
  const fraction = seconds * drive.frequencyHertz;
  if (fraction <= SLOW_RECOVERY_FRACTION) return [];
  return [
    {
      code: 'slow-diode',
      severity: 'warn',
      where: '$.ladder.diode.recoverySeconds',
      message: `Recovery of ${formatQuantity(seconds, 's')} is ${formatQuantity(fraction, '%', 2)} of a period at ${formatQuantity(drive.frequencyHertz, 'Hz')}: charge flows back, the diodes heat and the output falls short of this prediction.`,
      advice: `Use diodes that recover within ${formatQuantity(SLOW_RECOVERY_FRACTION / drive.frequencyHertz, 's', 2)}, or a frequency under ${formatQuantity(SLOW_RECOVERY_FRACTION / seconds, 'Hz', 2)}.`,
    },
  ];
}
