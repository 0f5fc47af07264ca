import { quantityField } from '../../quantity/field-description';
import { choice, partId, quantity, text, yes } from '../../schema/fields';
import * as z from '../../zod';
import { DriveCollector, plainDrive, type DriveResult } from '../drive-result';
import { driverKind } from '../driver-kind';

const schema = z.strictObject({
  kind: z.literal('module'),
  waveform: choice(['sine', 'square']).default('sine'),
  /** Peak without load. */
  openVolts: quantity('V', '4000', 'above zero'),
  frequencyHertz: quantity('Hz', '30000', 'above zero'),
  seriesOhms: quantity('Ω', '20000', 'zero or more').default(0),
  maxAmps: quantity('A', '0.01', 'above zero').nullable().default(null),
  maxWatts: quantity('W', '15', 'above zero').nullable().default(null),
  /** How it is switched on and set, and what it needs before it starts. */
  startNote: text(500),
  heatSinkLive: yes.default(false),
  partId,
});

export const boughtModule = driverKind(schema, {
  kind: 'module',
  name: 'Bought module',
  needs: { supply: [], transformer: false, inductance: false },
  fields: [
    {
      as: 'choice',
      name: 'waveform',
      label: 'Waveform',
      options: [
        { value: 'sine', name: 'Sine' },
        { value: 'square', name: 'Square' },
      ],
    },
    quantityField('openVolts', 'No load, peak', 'V'),
    quantityField('frequencyHertz', 'Frequency', 'Hz'),
    quantityField('maxAmps', 'Current limit, RMS', 'A', { optional: true }),
    quantityField('maxWatts', 'Power limit', 'W', { optional: true }),
    quantityField('seriesOhms', 'Source resistance', 'Ω'),
    { as: 'text', name: 'startNote', label: 'How it starts', more: true },
    { as: 'yes', name: 'heatSinkLive', label: 'Heat sink live', more: true },
  ],
  start: ({ peakVolts, drive }) => ({
    driver: {
      openVolts: peakVolts,
      frequencyHertz: drive.frequencyHertz,
      seriesOhms: drive.seriesOhms,
    },
  }),
  places: [
    {
      id: 'module',
      name: 'Module',
      takes: 'module',
      partId: 'driver.partId',
      fields: ['openVolts', 'frequencyHertz', 'maxAmps', 'maxWatts'].map((field) => `driver.${field}`),
      count: () => 1,
      fit: (_read, part) =>
        part.kind !== 'module'
          ? null
          : {
              words: '',
              values: {
                'driver.openVolts': part.openVolts,
                'driver.maxAmps': part.maxAmps,
                'driver.maxWatts': part.maxWatts,
                ...(part.frequencyHertz === null ? {} : { 'driver.frequencyHertz': part.frequencyHertz }),
              },
            },
    },
  ],
  ratings: () => [],
  drive: ({ driver }) => moduleDrive(driver),
  beforePower: ({ startNote, heatSinkLive }) => [
    ...(startNote.trim() ? [{ code: 'module-start', text: `To start the module: ${startNote.trim()}` }] : []),
    ...(heatSinkLive
      ? [
          {
            code: 'heat-sink-live',
            text: 'The module’s heat sink is live: cover it, and measure it to ground before touching.',
          },
        ]
      : []),
  ],
});

/** A bought board, known by what it gives without load and what it is limited to. */
function moduleDrive(driver: z.output<typeof schema>): DriveResult {
  const result = new DriveCollector();
  const { openVolts, frequencyHertz, seriesOhms, maxAmps, maxWatts, waveform } = driver;
  result.figure('openPeakVolts', openVolts);
  result.figure('openRmsVolts', waveform === 'sine' ? openVolts / Math.SQRT2 : openVolts);
  if (maxAmps === null && maxWatts === null)
    result.finding(
      'note',
      'module-limit-unknown',
      '$.driver.maxAmps',
      'Neither a current nor a power limit of the module is known, so none is counted.',
      'Enter what its data say, or measure where its output falls.',
    );
  if (driver.heatSinkLive)
    result.finding(
      'warn',
      'module-heat-sink-live',
      '$.driver.heatSinkLive',
      'Its heat sink is live.',
      'Keep it off the case and covered, and measure it to ground before touching.',
    );
  return result.with(
    plainDrive({
      waveform,
      positivePeakVolts: openVolts,
      negativePeakVolts: openVolts,
      frequencyHertz,
      seriesOhms,
      maxAmps,
      maxWatts,
    }),
  );
}
