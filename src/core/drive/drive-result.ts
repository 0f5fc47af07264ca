import type { Transformer } from '../design/driver-schema';
import type { Finding } from '../quantity/finding';
import type { Unit } from '../quantity/units';
import type { Drive, Feed } from './drive';

/** A figure on the way from the wall to the ladder's foot, and the link of the chain it belongs to. */
export type SourceFigure = {
  link: 'supply' | 'driver' | 'transformer';
  key: string;
  label: string;
  value: number;
  unit: Unit;
};

/** What supply, driver and transformer make together. */
export type Made = { drive: Drive; figures: SourceFigure[]; findings: Finding[] };

/** What a driver sees: its feed, where it runs from one, the ladder at its output and what that takes. */
export type Surroundings = {
  /** What the ladder's foot shows beside the charge it takes, F. */
  ladderFarads: number;
  /** What the loaded ladder takes, W; null where it is not known yet. */
  ladderWatts: number | null;
  /** Part of the full peaks that the loaded ladder leaves standing, 0..1. */
  level: number;
  /** Whether the drive is all that is asked for: what takes time beside it is left out. */
  driveOnly?: boolean;
};

/** Figures that a driver adds up, with its findings. */
export class Report {
  readonly figures: SourceFigure[] = [];
  readonly findings: Finding[] = [];

  figure(link: SourceFigure['link'], key: string, label: string, value: number, unit: Unit): void {
    if (Number.isFinite(value)) this.figures.push({ link, key, label, value, unit });
  }

  /** That the closed form takes a waveform of samples for a sine of the same peaks. */
  sampledAsSine(where: string): void {
    this.finding(
      'note',
      'sampled-as-sine',
      where,
      'The closed form takes this waveform as a sine of the same peaks; the time domain runs it as it is.',
      'Trust the time-domain figures here.',
    );
  }

  finding(severity: Finding['severity'], code: string, where: string, message: string, advice: string): void {
    this.findings.push({ severity, code, where, message, advice });
  }
}

/** A drive with nothing in its way, to be filled in. */
export function plainDrive(
  peaks: Pick<Drive, 'waveform' | 'positivePeakVolts' | 'negativePeakVolts' | 'frequencyHertz'> & Partial<Drive>,
): Drive {
  return {
    duty: 0.5,
    edgeSeconds: 0,
    samples: null,
    seriesOhms: 0,
    seriesHenries: 0,
    maxWatts: null,
    maxAmps: null,
    heldWatts: 0,
    supply: null,
    yields: 'both',
    ...peaks,
  };
}

/**
 * Time in which a released primary swings from its forward stroke to the top of
 * its pulse, s: an arc of the ring of inductance and capacitance (handbook), both
 * seen from the primary.
 *
 * @param freeVolts what the ring would climb to
 */
export function swingSeconds(
  henries: number,
  farads: number,
  { forwardVolts, topVolts, freeVolts }: { forwardVolts: number; topVolts: number; freeVolts: number },
): number {
  const arc = (volts: number) => Math.asin(Math.min(1, volts / freeVolts));
  const seconds = Math.sqrt(henries * farads) * (arc(topVolts) + arc(forwardVolts));
  return Number.isFinite(seconds) ? seconds : 0;
}

/** RMS of a current that rises evenly from zero for a part of each period, A: peak times sqrt(part / 3) (handbook). */
export const triangleRms = (peakAmps: number, part: number) => peakAmps * Math.sqrt(part / 3);

/** Secondary over whole primary. */
export const ratioOf = ({ primaryTurns, secondaryTurns }: Transformer) => secondaryTurns / primaryTurns;

/**
 * Leakage inductance of a transformer seen from its secondary with the primary
 * shorted, H: (1 - k^2) L2 with L2 = L1 (N2 / N1)^2 (handbook); 0 where the
 * primary's inductance is not known.
 */
export function leakageHenries(transformer: Transformer): number {
  const { primaryHenries, coupling } = transformer;
  return primaryHenries === null ? 0 : (1 - coupling ** 2) * primaryHenries * ratioOf(transformer) ** 2;
}

/**
 * Voltage of a feed that has to give this much power, V: V = V0 - R P / V
 * solved; half of V0 where it cannot (the most that a resistance lets through).
 */
export function sagged({ volts, seriesOhms }: Pick<Feed, 'volts' | 'seriesOhms'>, watts: number): number {
  return (volts + Math.sqrt(Math.max(0, volts ** 2 - 4 * seriesOhms * watts))) / 2;
}
