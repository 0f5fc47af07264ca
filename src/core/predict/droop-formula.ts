import type { Design } from '../design/design-schema';
import { hasFastEdges, type Drive } from '../drive/drive';

/** A droop and ripple as handbooks would print them for a ladder, in units of I / f C. */
export type DroopFormula = {
  droop: string;
  ripple: string;
  textbook: string | null;
  /** What a symbol stands for, where it is not n. */
  where?: string;
};

/**
 * The formula that charge bookkeeping reduces to for this kind of ladder, or
 * null where it has no short form: unlike capacitors, or a square on a topology
 * whose sums are not printed.
 */
export function droopFormula(design: Design, drive: Pick<Drive, 'waveform'>): DroopFormula | null {
  const { topology, grading, capacitorFarads, stages, capacitor } = design.ladder;
  // Voltage leaves each capacitor something else.
  if (capacitorFarads || (capacitor.dcBiasDerating !== null && capacitor.ratedVolts !== null)) return null;
  const square = hasFastEdges(drive);
  const whole = Number.isInteger(stages);
  if (topology === 'half-wave' && grading === 'equal' && whole)
    return square
      ? {
          droop: '2n³/3 + n²/2 + n/3 − d n(n+1)/2 + n d²/4',
          ripple: 'n(n+1)/2 − n d/2',
          textbook: null,
        }
      : { droop: '2n³/3 + n²/2 + n/3', ripple: 'n(n+1)/2', textbook: '2n³/3 + n²/2 − n/6' };
  if (square) return null;
  if (topology === 'half-wave' && grading === 'equal')
    return { droop: 'k(k+1)(2k+1)/3 + (k+1)²/2', ripple: '(k+1)(k+2)/2', textbook: null, where: 'N = 2k + 1' };
  if (topology === 'half-wave' && grading === 'tapered' && whole)
    return { droop: 'n² + (1 + 1/2 + … + 1/n)/2', ripple: 'n', textbook: null };
  if (topology === 'half-wave' && grading === 'first-doubled' && whole)
    return { droop: '2n³/3 + n/3', ripple: 'n(n+1)/2', textbook: null };
  if (grading !== 'equal') return null;
  if (topology === 'full-wave') return { droop: 'n³/6 + n²/4 + n/3', ripple: 'n/2', textbook: null };
  if (topology === 'bridge-doubler') return { droop: '1', ripple: '1', textbook: null };
  if (topology === 'rectifier') return { droop: '1/2', ripple: '1', textbook: null };
  if (topology === 'clamp') return { droop: '1/2', ripple: '1, beside the drive’s own swing', textbook: null };
  if (topology === 'two-ended') return { droop: '4n³/3 + 8n² + 2n/3', ripple: 'n', textbook: null, where: 'n a side' };
  return whole ? { droop: '2 (2n³/3 + n²/2 + n/3)', ripple: 'n', textbook: null } : null;
}
