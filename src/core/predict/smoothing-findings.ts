import type { Design } from '../design/design-schema';
import { outputElements } from '../output/elements';
import { passedAt } from '../output/filter';
import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import type { Prediction } from './prediction';

/** What smoothing behind a ladder does that its ripple figure alone does not tell. */
export function smoothingFindings({ output, load }: Design, prediction: Prediction): Finding[] {
  const { smoothing } = output;
  if (smoothing.length === 0) return [];
  const where = '$.output.smoothing';
  const { alternating, smoothedValidity } = prediction.output;
  if (alternating)
    return [
      {
        code: 'smoothing-alternating',
        severity: 'warn',
        where,
        message: 'Nothing rectifies here, and smoothing is for what is rectified: the closed form has no figure.',
        advice: 'Take the sections away, or choose a topology that rectifies; the time domain shows what they do.',
      },
    ];
  const findings: Finding[] = [];
  if (smoothedValidity === 'beyond')
    findings.push({
      code: 'smoothing-takes-swing',
      severity: 'warn',
      where,
      message:
        'The drive swings this output as a whole, and the first section takes so much of that swing that it is part of the ladder: the closed form has no figure.',
      advice: 'Use a larger resistor or choke there, or the figures of the time domain.',
    });
  if (smoothedValidity === 'rough')
    findings.push({
      code: 'smoothing-rough',
      severity: 'note',
      where,
      message:
        'The first section takes a good part of what flows in the ladder between its pulses: the mean is rough by some of the droop.',
      advice:
        'A larger resistor or choke there smooths more and loads the ladder’s swing less; or see the time domain.',
    });
  const { frequencyHertz } = prediction.drive;
  const elements = outputElements(output, load);
  const gains = [1, 2].map((times) => {
    const { re, im } = passedAt(elements, 0, times * frequencyHertz).gain;
    return Math.hypot(re, im);
  });
  if (Math.max(...gains) > 1)
    findings.push({
      code: 'smoothing-resonates',
      severity: 'warn',
      where,
      message: `A choke resonates with its capacitor near the ripple: at ${formatQuantity(frequencyHertz * (gains[0] > 1 ? 1 : 2), 'Hz')} what comes out of it is ${formatQuantity(Math.max(...gains), '', 2)} times as large as what goes in.`,
      advice: 'Use more inductance or capacitance, so that it resonates well under the drive’s frequency.',
    });
  if (smoothing.some(({ henries }) => henries > 0))
    findings.push({
      code: 'choke-overshoots',
      severity: 'note',
      where,
      message:
        'At a sudden start, or when the load goes off, a choke carries its capacitor above the output, at most to twice; what is behind it is rated here for the output without load alone. Its winding stands all of the output against a grounded core.',
      advice:
        'Raise the drive slowly, or rate what stands behind the choke for it; insulate choke and core for the output.',
    });
  return findings;
}
