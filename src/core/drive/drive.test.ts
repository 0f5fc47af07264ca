import { newDesign } from '../design/new-design';
import { driveOf } from '../operating/ladder-of-design';
import { amplitudeVolts, centreVolts, meanDriveVolts, mirroredDrive } from './drive';

const drive = (changes: object) => {
  const base = newDesign('drive');
  return driveOf({ ...base, driver: { ...base.driver, ...changes } });
};

it('an absent negative peak mirrors the positive one, and only a pulse has a duty', () => {
  expect(drive({}).negativePeakVolts).toBe(1000);
  expect(drive({ waveform: 'square', duty: 0.2 }).duty).toBe(0.5);
  expect(drive({ waveform: 'pulse', duty: 0.2 }).duty).toBe(0.2);
});

it('a pulse has the mean that its duty gives it', () => {
  const pulse = drive({ waveform: 'pulse', duty: 0.2, positivePeakVolts: 900, negativePeakVolts: 100 });
  expect(meanDriveVolts(pulse)).toBeCloseTo(0.2 * 900 - 0.8 * 100, 9);
  expect([amplitudeVolts(pulse), centreVolts(pulse)]).toEqual([500, 400]);
});

it('mirrored twice is itself, and mirrored once has the opposite mean', () => {
  const pulse = drive({ waveform: 'pulse', duty: 0.3, positivePeakVolts: 900, negativePeakVolts: 100 });
  const mirrored = mirroredDrive(pulse);
  expect(meanDriveVolts(mirrored)).toBeCloseTo(-meanDriveVolts(pulse), 9);
  expect(mirroredDrive(mirrored)).toEqual({ ...pulse, duty: expect.closeTo(0.3, 12) });
});
