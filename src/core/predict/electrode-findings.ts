import type { Design } from '../design/design-schema';
import { isHazardous } from '../output/discharge';
import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import type { Prediction } from './prediction';

/** What hangs on the output does that the closed form has no figure for, or that no resistor stands before. */
export function electrodeFindings({ output }: Design, prediction: Prediction): Finding[] {
  const { front } = prediction.contact;
  if (!front) return [];
  const smoothed = output.smoothing.length > 0 && output.seriesOhms === 0;
  const where = smoothed ? '$.output.smoothing' : '$.output.electrodeFarads';
  const { alternating, noLoadPeakVolts } = prediction.output;
  if (alternating) {
    const amps =
      2 * Math.PI * prediction.drive.frequencyHertz * output.electrodeFarads * (alternating.noLoadRmsVolts ?? 0);
    return [
      {
        code: 'electrode-alternating',
        severity: 'note',
        where,
        message: `What hangs on the output takes some ${formatQuantity(amps, 'A', 2)} RMS of alternating current, which the closed form leaves out.`,
        advice: 'The time domain has it.',
      },
    ];
  }
  return isHazardous(noLoadPeakVolts, front.coulombs, front.joules)
    ? [
        {
          code: 'electrode-hazardous',
          severity: 'warn',
          where,
          message: `${smoothed ? 'The last smoothing capacitor, with what hangs on the output,' : 'What hangs on the output'} holds ${formatQuantity(front.coulombs, 'C')} and ${formatQuantity(front.joules, 'J')}, over the limit of IEC 61010-1, and no series resistor stands before it.`,
          advice:
            'Put the series resistor at what is touched, or keep hands off it by a barrier, and give it a bleeder of its own.',
        },
      ]
    : [];
}
