import type { Design } from '../design/design-schema';

/** What a ladder sees at its foot, whatever made it. */
export type Drive = {
  waveform: 'sine';
  positivePeakVolts: number;
  negativePeakVolts: number;
  frequencyHertz: number;
  seriesOhms: number;
  maxWatts: number | null;
  maxAmps: number | null;
};

/** The drive of a design whose waveform was measured; an absent negative peak mirrors the positive one. */
export function driveOf(design: Design): Drive {
  const { waveform, positivePeakVolts, negativePeakVolts, frequencyHertz, seriesOhms, maxWatts, maxAmps } =
    design.driver;
  return {
    waveform,
    positivePeakVolts,
    negativePeakVolts: negativePeakVolts ?? positivePeakVolts,
    frequencyHertz,
    seriesOhms,
    maxWatts,
    maxAmps,
  };
}

/** Half the drive's peak-to-peak voltage, V: the peak of a sine, whatever its offset. */
export function amplitudeVolts(drive: Drive): number {
  return (drive.positivePeakVolts + drive.negativePeakVolts) / 2;
}
