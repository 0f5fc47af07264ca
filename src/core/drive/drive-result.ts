import type { Finding } from '../quantity/finding';
import type { Condition, RatingId, Stress } from '../quantity/ratings';
import type { Drive } from './drive';
import type { DriveFigureId, DriveFigures } from './figures';

/** What supply, driver and transformer make together. */
export type DriveResult = { drive: Drive; figures: DriveFigures; stresses: Stress[]; findings: Finding[] };

/** What a driver sees: the ladder at its output and what that takes. */
export type DriveContext = {
  /** What the ladder's input shows beside the charge it takes, over all windings, F, and how many there are. */
  ladderFarads: number;
  windings: number;
  /** What the loaded ladder takes, W, and RMS from a winding, A; null where it is not known yet. */
  ladderWatts: number | null;
  ladderRmsAmps: number | null;
  /** Fraction of the full peaks that the loaded ladder leaves, 0..1. */
  driveScale: number;
  /** Whether the drive is all that is asked for: what takes time beside it is left out. */
  driveOnly?: boolean;
};

/** The context of a drive whose ladder takes nothing, or whose load is not known. */
export const unloadedContext = (ladderFarads: number, windings = 1): DriveContext => ({
  ladderFarads,
  windings,
  ladderWatts: null,
  ladderRmsAmps: null,
  driveScale: 1,
});

/** What all of a secondary shows together with the ladder, F: each of its windings has its own capacitance. */
export const footFarads = (
  { secondaryFarads }: { secondaryFarads: number },
  { ladderFarads, windings }: Pick<DriveContext, 'ladderFarads' | 'windings'>,
): number => windings * secondaryFarads + ladderFarads;

/** Collects what a driver's kind finds out on the way to its drive. */
export class DriveCollector {
  readonly figures: DriveFigures = {};
  readonly stresses: Stress[] = [];
  readonly findings: Finding[] = [];

  figure(id: DriveFigureId, value: number): void {
    if (Number.isFinite(value)) this.figures[id] = value;
  }

  stress(id: RatingId, condition: Condition, value: number, remedy?: string): void {
    if (Number.isFinite(value)) this.stresses.push({ id, condition, value, part: null, ...(remedy ? { remedy } : {}) });
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

  with(drive: Drive): DriveResult {
    const { figures, stresses, findings } = this;
    return { drive, figures, stresses, findings };
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
    seriesFarads: null,
    maxWatts: null,
    maxAmps: null,
    chargingLossWatts: 0,
    lift: null,
    forwardLift: null,
    supply: null,
    rough: false,
    burst: null,
    collapsingPeak: 'both',
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

/** RMS of a current that rises evenly from zero for a fraction of each period, A: peak times sqrt(fraction / 3) (handbook). */
export const triangleRms = (peakAmps: number, fraction: number) => peakAmps * Math.sqrt(fraction / 3);

/**
 * What of a ladder's power comes from the supply directly, through the forward
 * stroke, W: each stroke's share of the power is its share of the height
 * (derived: the same charge passes at either peak).
 *
 * @param watts what the ladder asks of the driver; null where it is not known
 * @param strokes as the load leaves them
 */
export function forwardShare(
  watts: number | null,
  { backVolts, forwardVolts }: { backVolts: number; forwardVolts: number },
): number {
  const height = backVolts + forwardVolts;
  return watts === null || height === 0 ? 0 : (watts * forwardVolts) / height;
}
