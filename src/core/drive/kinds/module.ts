import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { choice, partId, quantity, share, text, yes } from '../../schema/fields';
import * as z from '../../zod';
import { BURST_FIELDS, BURST_SCHEMA } from '../bursts';
import { SILENT_VOLTS } from '../drive';
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
  /** Whether it never swings below zero: its pulses stand on it. */
  onePolarity: yes.default(false),
  /** What it is set to, where its current is set by duty, and between which it starts. */
  duty: share('0.6').nullable().default(null),
  leastDuty: share('0.3').nullable().default(null),
  mostDuty: share('0.9').nullable().default(null),
  ...BURST_SCHEMA,
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
    quantityField('maxAmps', 'Current limit, RMS', 'A', {
      optional: true,
      hint: 'At full duty, where it is set by duty.',
    }),
    quantityField('maxWatts', 'Power limit', 'W', { optional: true }),
    quantityField('seriesOhms', 'Source resistance', 'Ω'),
    { as: 'yes', name: 'onePolarity', label: 'Pulses of one polarity', more: true },
    quantityField('duty', 'Current set by duty to', '%', { optional: true, more: true }),
    quantityField('leastDuty', 'Starts from a duty of', '%', { optional: true, more: true }),
    quantityField('mostDuty', 'Starts up to a duty of', '%', { optional: true, more: true }),
    ...BURST_FIELDS,
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
  firstRun: 'By itself, as its maker says, nothing on its output but a probe made for its peak.',
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

/**
 * A bought board, known by what it gives without load and what it is limited to.
 * Where its current is set by duty, the limit goes in proportion, and outside the
 * duties between which it starts there is nothing (common practice). Pulses of one
 * polarity have half the swing of their peak either way.
 */
function moduleDrive(driver: z.output<typeof schema>): DriveResult {
  const result = new DriveCollector();
  const { openVolts, frequencyHertz, seriesOhms, maxWatts, waveform, onePolarity } = driver;
  const { duty, leastDuty, mostDuty } = driver;
  const starts = duty === null || (duty > 0 && duty >= (leastDuty ?? 0) && duty <= (mostDuty ?? 1));
  const maxAmps = driver.maxAmps === null || duty === null ? driver.maxAmps : driver.maxAmps * duty;
  result.figure('openPeakVolts', openVolts);
  result.figure('openRmsVolts', openRmsVolts(driver));
  if (!starts)
    result.finding(
      'stop',
      'module-does-not-start',
      '$.driver.duty',
      `It starts between ${formatQuantity(leastDuty ?? 0, '%', 2)} and ${formatQuantity(mostDuty ?? 1, '%', 2)} of duty, and is set to ${formatQuantity(duty, '%', 2)}.`,
      'Set it within that range; turn it down only once it runs, if its data allow that.',
    );
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
      positivePeakVolts: starts ? openVolts : SILENT_VOLTS,
      negativePeakVolts: starts && !onePolarity ? openVolts : SILENT_VOLTS,
      frequencyHertz,
      seriesOhms,
      maxAmps,
      maxWatts,
    }),
  );
}

/** RMS without load, of whatever stands on zero its mean as well (handbook). */
function openRmsVolts({ openVolts, waveform, onePolarity }: z.output<typeof schema>): number {
  if (!onePolarity) return waveform === 'sine' ? openVolts / Math.SQRT2 : openVolts;
  return waveform === 'sine' ? openVolts * Math.sqrt(3 / 8) : openVolts / Math.SQRT2;
}
