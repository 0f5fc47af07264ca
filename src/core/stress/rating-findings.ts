import type { Design } from '../design/design-schema';
import type { Finding } from '../quantity/finding';
import { sayQuantity } from '../quantity/format-quantity';
import { atHighest, CHOSEN_MARGIN, fitOf } from '../quantity/margin';
import type { Rated } from './margins';
import type { CapacitorPrediction, DiodePrediction, Prediction } from '../predict/prediction';

/** One thing that a design may be found to be wrong in. */
export type Check = (design: Design, prediction: Prediction) => Finding[];

/** Recovery time over which a diode is called slow, as part of a period (common practice, no source). */
const SLOW_RECOVERY_FRACTION = 0.02;

/** Parts named as a short list: one, two, or from first to last. */
function listParts(ids: string[]): string {
  return ids.length <= 2 ? ids.join(' and ') : `${ids[0]} to ${ids[ids.length - 1]} (${ids.length} of them)`;
}

type RatedPart = (CapacitorPrediction | DiodePrediction) & { stressVolts: number };

function ratingFindings(
  parts: RatedPart[],
  high: number,
  words: { over: string; thin: string; rating: string; path: string; stress: string },
): Finding[] {
  const worst = (group: RatedPart[]) => group.reduce((a, b) => (b.stressVolts > a.stressVolts ? b : a));
  const over = parts.filter((part) => fitOf(part.margin) === 'over');
  const highVolts = (part: RatedPart) => part.stressVolts * high;
  const overWhenHigh = (part: RatedPart) => part.ratedVolts !== null && highVolts(part) > part.ratedVolts;
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
      message: `${words.stress} ${sayQuantity(stressVolts, 'V')} without load, over the ${words.rating} of ${sayQuantity(ratedVolts!, 'V')}.`,
      advice: `Use parts rated at least ${sayQuantity(stressVolts * (1 + CHOSEN_MARGIN), 'V')}, put two in series, or lower the drive.`,
    });
  }
  if (thin.length) {
    const part = worst(thin);
    const { stressVolts, ratedVolts, margin } = part;
    const inHand = `${sayQuantity(margin!, '%', 2)} in hand${margin! < CHOSEN_MARGIN ? `, less than ${sayQuantity(CHOSEN_MARGIN, '%', 2)}` : ''}`;
    const whenHigh = overWhenHigh(part)
      ? ` With the drive at its highest it is ${sayQuantity(highVolts(part), 'V')}, over the rating.`
      : '';
    findings.push({
      code: words.thin,
      severity: 'warn',
      where: listParts(thin.map((part) => part.id)),
      message: `${words.stress} ${sayQuantity(stressVolts, 'V')} of ${sayQuantity(ratedVolts!, 'V')}: ${inHand}.${whenHigh}`,
      advice: `Use parts rated at least ${sayQuantity(highVolts(part) * (1 + CHOSEN_MARGIN), 'V')}.`,
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

const diodeRatings: Check = ({ spread }, prediction) =>
  ratingFindings(
    prediction.diodes.map((part) => ({ ...part, stressVolts: part.reverseVolts })),
    atHighest(spread),
    {
      over: 'diode-over-peak-inverse',
      thin: 'diode-margin-thin',
      rating: 'peak inverse voltage',
      path: '$.ladder.diode.peakInverseVolts',
      stress: 'Diodes block up to',
    },
  );

const capacitorRatings: Check = ({ spread }, prediction) =>
  ratingFindings(
    prediction.capacitors.map((part) => ({ ...part, stressVolts: part.workingVolts })),
    atHighest(spread),
    {
      over: 'capacitor-over-rating',
      thin: 'capacitor-margin-thin',
      rating: 'rated voltage',
      path: '$.ladder.capacitor.ratedVolts',
      stress: 'Capacitors stand',
    },
  );

const resistorRatings: Check = (_design, { margins }) =>
  margins
    .filter(({ of, margin }) => (of === 'bleeder' || of === 'series') && margin < CHOSEN_MARGIN)
    .map(({ of, part, what, case: when, stress, rated, unit, margin }) => ({
      code: margin < 0 ? 'resistor-over-rating' : 'resistor-margin-thin',
      severity: margin < 0 ? ('stop' as const) : ('warn' as const),
      where: of === 'bleeder' ? '$.output.bleederOhms' : '$.output.seriesOhms',
      message: `${part}, ${what}: ${sayQuantity(stress, unit as 'W' | 'V' | 'J')} on each with ${when === 'shorted output' ? 'the output shorted' : when === 'no load' ? 'no load' : 'this load'}, rated ${sayQuantity(rated, unit as 'W' | 'V' | 'J')}.`,
      advice: 'Put more in series, or use ones of higher rating.',
    }));

const diodeSurge: Check = ({ output, ladder }, { margins }) => {
  const over = margins.filter(({ what, margin }) => what === 'surge' && margin < 0);
  const findings: Finding[] = over.map(({ case: when, stress, rated }) => ({
    code: 'diode-surge',
    severity: 'warn',
    where: when === 'shorted output' ? '$.output.seriesOhms' : '$.ladder.diode.surgeAmps',
    message: `${when === 'shorted output' ? 'With the output shorted' : 'When it is switched on'} a diode may carry up to ${sayQuantity(stress, 'A')}, over the ${sayQuantity(rated, 'A')} that its surge rating allows for so long.`,
    advice:
      when === 'shorted output'
        ? `Put at least ${sayQuantity((output.seriesOhms * stress) / rated, 'Ω', 2)} in series with the output.`
        : 'Raise the drive slowly, or see Charge-up for the surge itself; this is an upper bound.',
  }));
  if (output.seriesOhms === 0 && ladder.diode.surgeAmps !== null)
    findings.push({
      code: 'short-unlimited',
      severity: 'note',
      where: '$.output.seriesOhms',
      message: 'Without a series resistor only the diodes themselves limit the current when the output is shorted.',
      advice: 'A resistor in series with the output keeps a spark or a short within their surge rating.',
    });
  return findings;
};

const diodeCurrent: Check = (design, prediction) => {
  const rated = design.ladder.diode.averageAmps;
  const amps = Math.max(...prediction.diodes.map((part) => part.averageAmps ?? 0));
  if (rated === null || amps <= rated) return [];
  return [
    {
      code: 'diode-over-current',
      severity: 'stop',
      where: '$.ladder.diode.averageAmps',
      message: `A diode carries up to ${sayQuantity(amps, 'A')} on average, over its ${sayQuantity(rated, 'A')}.`,
      advice: 'Draw less, or use diodes of more average current.',
    },
  ];
};

/** What is said of RMS current over its rating; the tank's is said where the driver is judged. */
const OVER_CURRENT: Partial<
  Record<Rated, Pick<Finding, 'code' | 'severity' | 'where' | 'advice'> & { words: string }>
> = {
  capacitors: {
    code: 'capacitor-over-current',
    severity: 'warn',
    where: '$.ladder.capacitor.ratedRmsAmps',
    words: 'that each is rated for',
    advice: 'Put more of them side by side, or draw less.',
  },
  transistor: {
    code: 'transistor-over-current',
    severity: 'warn',
    where: '$.driver.ratedAmps',
    words: 'that each is rated for',
    advice: 'Use transistors of more current, or draw less.',
  },
  primary: {
    code: 'primary-wire-thin',
    severity: 'note',
    where: '$.transformer',
    words: 'that its copper is commonly given',
    advice: 'Use more strands or thicker wire; a short winding in moving air stands more.',
  },
  secondary: {
    code: 'secondary-wire-thin',
    severity: 'note',
    where: '$.transformer',
    words: 'that its copper is commonly given',
    advice: 'Use thicker wire if it goes in, or see how warm the winding gets.',
  },
};

/** Heat and current of capacitors, diodes and the primary, as far as their margins tell; all of them estimates. */
const heating: Check = (_design, { margins, diodes }) =>
  margins
    .filter(({ margin }) => margin < 0)
    .flatMap(({ of, part, what, stress, rated }): Finding[] => {
      if (what === 'warmer by')
        return [
          {
            code: 'capacitor-warms',
            severity: 'warn',
            where: '$.ladder.capacitor.lossTangent',
            message: `${part} may warm themselves by about ${sayQuantity(stress, '', 2)} K at this load; ${rated} K is the most that they commonly should.`,
            advice: 'Use a dielectric of lower loss, larger bodies or several side by side, or draw less.',
          },
        ];
      if (what === 'heat') {
        const recovery = Math.max(...diodes.map(({ recoveryWatts }) => recoveryWatts ?? 0));
        return [
          {
            code: 'diode-heats',
            severity: 'warn',
            where: '$.ladder.diode.averageAmps',
            message: `${part} may turn ${sayQuantity(stress, 'W', 2)} each into heat at this load, over the ${sayQuantity(rated, 'W', 2)} that their average current makes${recovery > 0 ? `; recovery makes up to about ${sayQuantity(recovery, 'W', 2)}` : ''}.`,
            advice:
              recovery > stress / 2
                ? 'Use diodes that recover sooner, or a lower frequency.'
                : 'Draw less, or use diodes of more average current.',
          },
        ];
      }
      const said = what === 'current, RMS' ? OVER_CURRENT[of] : undefined;
      if (!said) return [];
      const { code, severity, where, words, advice } = said;
      const message = `${part}: about ${sayQuantity(stress, 'A')} RMS, over the ${sayQuantity(rated, 'A')} ${words}.`;
      return [{ code, severity, where, message, advice }];
    });

const slowDiode: Check = (design, { drive }) => {
  const seconds = design.ladder.diode.recoverySeconds;
  if (seconds === null) return [];
  const fraction = seconds * drive.frequencyHertz;
  if (fraction <= SLOW_RECOVERY_FRACTION) return [];
  return [
    {
      code: 'slow-diode',
      severity: 'warn',
      where: '$.ladder.diode.recoverySeconds',
      message: `Recovery of ${sayQuantity(seconds, 's')} is ${sayQuantity(fraction, '%', 2)} of a period at ${sayQuantity(drive.frequencyHertz, 'Hz')}: charge flows back, the diodes heat and the output falls short of this prediction.`,
      advice: `Use diodes that recover within ${sayQuantity(SLOW_RECOVERY_FRACTION / drive.frequencyHertz, 's', 2)}, or a frequency under ${sayQuantity(SLOW_RECOVERY_FRACTION / seconds, 'Hz', 2)}.`,
    },
  ];
};

/** Parts against their ratings. */
export const RATING_CHECKS: readonly Check[] = [
  diodeRatings,
  capacitorRatings,
  diodeCurrent,
  diodeSurge,
  heating,
  resistorRatings,
  slowDiode,
];
