import type { Design } from '../design/design-schema';

/** What a ladder sees at its foot, whatever made it. */
export type Drive = {
  waveform: 'sine' | 'square' | 'pulse';
  positivePeakVolts: number;
  negativePeakVolts: number;
  /** Part of the period that a square or pulse stands at its positive peak, 0..1; one half for a sine. */
  duty: number;
  frequencyHertz: number;
  /** Of each winding. */
  seriesOhms: number;
  /** Leakage inductance in series with each winding, H. */
  seriesHenries: number;
  maxWatts: number | null;
  maxAmps: number | null;
};

/** The drive of a design whose waveform was measured; an absent negative peak mirrors the positive one. */
export function driveOf(design: Design): Drive {
  const { waveform, positivePeakVolts, negativePeakVolts, duty, frequencyHertz, seriesOhms, seriesHenries } =
    design.driver;
  return {
    waveform,
    positivePeakVolts,
    negativePeakVolts: negativePeakVolts ?? positivePeakVolts,
    duty: waveform === 'pulse' ? duty : 0.5,
    frequencyHertz,
    seriesOhms,
    seriesHenries,
    maxWatts: design.driver.maxWatts,
    maxAmps: design.driver.maxAmps,
  };
}

/** The drive as a negative ladder sees it when it is computed as its positive mirror. */
export function mirroredDrive(drive: Drive): Drive {
  return {
    ...drive,
    positivePeakVolts: drive.negativePeakVolts,
    negativePeakVolts: drive.positivePeakVolts,
    duty: 1 - drive.duty,
  };
}

/** Half the drive's peak-to-peak voltage, V: the peak of a sine, whatever its offset. */
export function amplitudeVolts(drive: Drive): number {
  return (drive.positivePeakVolts + drive.negativePeakVolts) / 2;
}

/** Middle between the two peaks, V. */
export function centreVolts(drive: Drive): number {
  return (drive.positivePeakVolts - drive.negativePeakVolts) / 2;
}

/** Mean over a period, V: the middle for a sine; a pulse stands at each peak for its part of the period. */
export function meanDriveVolts(drive: Drive): number {
  return centreVolts(drive) + (2 * drive.duty - 1) * amplitudeVolts(drive);
}

/** Whether the drive jumps between its peaks, so that charging takes no part of the cycle. */
export function hasFastEdges(drive: Pick<Drive, 'waveform'>): boolean {
  return drive.waveform !== 'sine';
}
