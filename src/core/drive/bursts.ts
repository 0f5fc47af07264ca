import { quantityField } from '../quantity/field-description';
import { formatQuantity } from '../quantity/format-quantity';
import { fraction, quantity } from '../schema/fields';
import { isSilent, SILENT_VOLTS, type Burst, type Drive } from './drive';
import type { DriveResult } from './drive-result';

/** What a driver that may be interrupted has of it in the document. */
export const BURST_SCHEMA = {
  /** How often it is let run; null where it runs all the time. */
  burstHertz: quantity('Hz', '100', 'above zero').nullable().default(null),
  /** For what part of the time. */
  burstFraction: fraction('0.3').default(0.3),
};

export const BURST_FIELDS = [
  quantityField('burstHertz', 'Bursts a second', 'Hz', {
    optional: true,
    absent: 'none',
    more: true,
    hint: 'Of an interrupted oscillator; none where it runs all the time.',
  }),
  quantityField('burstFraction', 'Of that time it runs', '%', { more: true, hint: 'Counts with bursts a second.' }),
];

/** Cycles of a burst past which the time domain would take too long. */
const MOST_CYCLES = 4000;

/**
 * A drive that is let run in bursts only. Between them it stands at no voltage,
 * through its own resistance; each burst is taken to begin and end at once, at full
 * peaks. A burst of less than a cycle gives nothing; one of very many is taken
 * for running all the time, as it is for as long as it lasts.
 */
export function inBursts(driver: Interruptible, result: DriveResult): DriveResult {
  const { drive, findings } = result;
  const burst = burstOf(driver);
  if (!burst || isSilent(drive)) return result;
  const cycles = burstCycles(drive, burst);
  if (cycles === 0)
    return {
      ...result,
      drive: { ...drive, samples: null, positivePeakVolts: SILENT_VOLTS, negativePeakVolts: SILENT_VOLTS },
      findings: [
        ...findings,
        {
          severity: 'stop',
          code: 'burst-too-short',
          where: '$.driver.burstHertz',
          message: `${formatQuantity(burst.onFraction, '%')} of ${formatQuantity(1 / burst.hertz, 's')} is less than one cycle at ${formatQuantity(drive.frequencyHertz, 'Hz')}: counted as giving nothing.`,
          advice: 'Let it run for longer, or in fewer bursts a second.',
        },
      ],
    };
  if (cycles > MOST_CYCLES)
    return {
      ...result,
      findings: [
        ...findings,
        {
          severity: 'warn',
          code: 'bursts-too-long',
          where: '$.driver.burstHertz',
          message: `It runs for ${cycles} cycles at a time, more than are followed one by one (${MOST_CYCLES}). All figures are those while it runs; between bursts the output falls, which is not counted.`,
          advice:
            'Enter more bursts a second, or look under Discharge, its resistor the load’s, for how far the output falls between two.',
        },
      ],
    };
  return {
    ...result,
    drive: { ...drive, burst },
    findings: [
      ...findings,
      {
        severity: 'note',
        code: 'in-bursts',
        where: '$.driver.burstHertz',
        message: `It runs for ${cycles} ${cycles === 1 ? 'cycle' : 'cycles'} at a time. The closed form has no loaded output of that, the time domain has; figures of supply, driver and transformer are those while it runs, and that each burst takes time to build up is not counted.`,
        advice: 'Look at the time-domain figures, and size supply and fuse by what it draws while it runs.',
      },
    ],
  };
}

/** Whole cycles that a burst lasts. */
export const burstCycles = ({ frequencyHertz }: Pick<Drive, 'frequencyHertz'>, { hertz, onFraction }: Burst): number =>
  // A product that is whole but for rounding counts as whole.
  Math.floor((onFraction * frequencyHertz) / hertz + 1e-6);

/** For what part of the time a drive runs: all of it but where it runs in bursts, 0..1. */
export const runningPart = ({ frequencyHertz, burst }: Pick<Drive, 'frequencyHertz' | 'burst'>): number =>
  burst ? (burstCycles({ frequencyHertz }, burst) * burst.hertz) / frequencyHertz : 1;

/** Any driver; those that cannot be interrupted lack the fields. */
type Interruptible = { kind: string; burstHertz?: number | null; burstFraction?: number };

function burstOf({ burstHertz = null, burstFraction = 1 }: Interruptible): Burst | null {
  return burstHertz === null ? null : { hertz: burstHertz, onFraction: burstFraction };
}
