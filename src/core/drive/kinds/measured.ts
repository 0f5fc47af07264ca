import { VOLTAGE_FORMS } from '../../quantity/voltage-forms';
import { choice, fraction, quantity, saying } from '../../schema/fields';
import * as z from '../../zod';
import { BURST_FIELDS, BURST_SCHEMA } from '../bursts';
import { amplitudeVolts, type Drive } from '../drive';
import { DriveCollector, plainDrive, type DriveContext, type DriveResult } from '../drive-result';
import { driverKind } from '../driver-kind';
import { meterReadings } from '../meter-sense';

const schema = z.strictObject({
  kind: z.literal('measured'),
  waveform: choice(['sine', 'square', 'pulse', 'sampled']).default('sine'),
  /** One period as it was recorded, evenly from its rising crossing of the middle, V; stands for the peaks. */
  samples: z
    .array(z.number({ error: saying('a list of volts, or null') }), { error: saying('a list of volts, or null') })
    .min(16, { error: () => 'has fewer than 16 values; must have 16 to 512' })
    .max(512, { error: () => 'has more than 512 values; must have 16 to 512' })
    .refine((volts) => Math.min(...volts) < 0 && Math.max(...volts) > 0, {
      error: () => 'never changes sign; must go above and below zero, or no ladder is pumped',
    })
    .nullable()
    .default(null),
  positivePeakVolts: quantity('V', '5200', 'above zero'),
  negativePeakVolts: quantity('V', '5200', 'above zero').optional(),
  duty: fraction('0.3').default(0.5),
  frequencyHertz: quantity('Hz', '38000', 'above zero'),
  seriesOhms: quantity('Ω', '12000', 'zero or more').default(0),
  seriesHenries: quantity('H', '0.05', 'zero or more').default(0),
  maxAmps: quantity('A', '0.005', 'above zero').nullable().default(null),
  maxWatts: quantity('W', '20', 'above zero').nullable().default(null),
  ...BURST_SCHEMA,
  enteredAs: choice(VOLTAGE_FORMS).default('peak'),
});
export type MeasuredDriver = z.output<typeof schema>;

/** The waveform at the ladder's input as it was measured: it stands for everything before it. */
export const measured = driverKind(schema, {
  kind: 'measured',
  name: 'Measured waveform',
  needs: { supply: [], transformer: false, inductance: false },
  fields: BURST_FIELDS,
  start: ({ drive }) => ({
    driver: {
      waveform: drive.waveform,
      samples: drive.samples && [...drive.samples],
      positivePeakVolts: drive.positivePeakVolts,
      ...(drive.negativePeakVolts === drive.positivePeakVolts ? {} : { negativePeakVolts: drive.negativePeakVolts }),
      duty: drive.duty,
      frequencyHertz: drive.frequencyHertz,
      seriesOhms: drive.seriesOhms,
      seriesHenries: drive.seriesHenries,
      maxWatts: drive.maxWatts,
      maxAmps: drive.maxAmps,
    },
  }),
  places: [],
  ratings: () => [],
  drive: ({ driver }, context) => measuredDrive(driver, context),
  firstRun: null,
  beforePower: () => [],
});

/** A waveform that was measured, with what meters show of it; an absent negative peak mirrors the positive one. */
function measuredDrive(driver: MeasuredDriver, { driveOnly }: DriveContext): DriveResult {
  const result = new DriveCollector();
  const { waveform, duty, frequencyHertz, samples } = driver;
  const drive: Drive = plainDrive({
    waveform,
    samples,
    positivePeakVolts: samples ? Math.max(...samples) : driver.positivePeakVolts,
    negativePeakVolts: samples ? -Math.min(...samples) : (driver.negativePeakVolts ?? driver.positivePeakVolts),
    duty: waveform === 'pulse' ? duty : 0.5,
    frequencyHertz,
    seriesOhms: driver.seriesOhms,
    seriesHenries: driver.seriesHenries,
    maxWatts: driver.maxWatts,
    maxAmps: driver.maxAmps,
  });
  if (driveOnly) return result.with(drive);
  if (samples) {
    const { positivePeakVolts, negativePeakVolts } = drive;
    result.figure('positivePeakVolts', positivePeakVolts);
    result.figure('negativePeakVolts', negativePeakVolts);
    result.figure('peakToPeakVolts', 2 * amplitudeVolts(drive));
    result.figure(
      'peakRatio',
      Math.max(positivePeakVolts, negativePeakVolts) / Math.min(positivePeakVolts, negativePeakVolts),
    );
    result.sampledAsSine('$.driver');
  }
  const readings = meterReadings(drive);
  result.figure('trueRmsVolts', readings.trueRmsVolts);
  result.figure('averageRespondingVolts', readings.averageRespondingVolts);
  result.figure('meterMeanVolts', readings.meanVolts);
  return result.with(drive);
}
