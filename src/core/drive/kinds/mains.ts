import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { choice, count, partId, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { DriveCollector, plainDrive, type DriveContext, type DriveResult } from '../drive-result';
import { driverKind, needed } from '../driver-kind';
import { lineWave, reportDimmer } from '../feed';
import { SILENT_VOLTS } from '../drive';
import type { Supply } from '../supply';

const schema = z.strictObject({
  kind: z.literal('mains'),
  style: choice(['plain', 'current-limited', 'oven']).default('plain'),
  /** RMS without load at rated mains, one transformer. */
  secondaryVolts: quantity('V', '2500', 'above zero'),
  secondaryOhms: quantity('Ω', '800', 'zero or more').default(0),
  /** Primaries in parallel, secondaries in series. */
  count: count(8).default(1),
  /** Of these, with their secondary the other way round. */
  reversed: count(8, 0).default(0),
  /** RMS into a short, where that is known or the transformer limits it. */
  shortAmps: quantity('A', '0.03', 'above zero').nullable().default(null),
  /** In series with the secondaries. */
  seriesFarads: quantity('F', '0.5e-6', 'above zero').nullable().default(null),
  /** RMS into the primary without load. */
  magnetisingAmps: quantity('A', '0.4', 'above zero').nullable().default(null),
  partId,
});

export const mains = driverKind(schema, {
  kind: 'mains',
  name: 'Mains transformer',
  needs: { supply: ['mains'], transformer: false, inductance: false },
  fields: [
    {
      as: 'choice',
      name: 'style',
      label: 'Style',
      options: [
        { value: 'plain', name: 'Plain' },
        { value: 'current-limited', name: 'Limited' },
        { value: 'oven', name: 'Oven' },
      ],
      hint: 'Limited: ignition and sign types.',
    },
    quantityField('secondaryVolts', 'Secondary, no load, RMS', 'V'),
    quantityField('shortAmps', 'Short-circuit current, RMS', 'A', {
      optional: true,
      hint: 'Or its volt-amperes over its volts.',
    }),
    quantityField('secondaryOhms', 'Secondary resistance', 'Ω'),
    quantityField('seriesFarads', 'Capacitor in series', 'F', {
      optional: true,
      absent: 'none',
      more: true,
      hint: 'Between secondary and ladder, as ballast or to tune out the leakage.',
    }),
    quantityField('count', 'How many', '', { more: true, hint: 'Primaries in parallel, secondaries in series.' }),
    quantityField('reversed', 'Of these, secondary reversed', '', {
      more: true,
      hint: 'Against the others: each takes its own voltage and one more off the sum.',
    }),
    quantityField('magnetisingAmps', 'Primary, no load, RMS', 'A', { optional: true, more: true }),
  ],
  start: ({ peakVolts }) => ({
    driver: { secondaryVolts: Number((peakVolts / Math.SQRT2).toPrecision(4)) },
  }),
  places: [
    {
      id: 'mains',
      name: 'Transformer',
      takes: 'transformer',
      partId: 'driver.partId',
      fields: ['secondaryVolts', 'secondaryOhms', 'shortAmps'].map((field) => `driver.${field}`),
      count: (read) => read('driver.count') as number,
      fit: (_read, part) =>
        part.kind !== 'transformer' || part.secondaryVolts === null
          ? null
          : {
              words: '',
              values: {
                'driver.secondaryVolts': part.secondaryVolts,
                'driver.shortAmps': part.shortAmps,
                ...(part.secondaryOhms === null ? {} : { 'driver.secondaryOhms': part.secondaryOhms }),
              },
            },
    },
  ],
  ratings: () => [],
  drive: ({ supply, driver }, context) => {
    const line = needed(supply);
    if (line.kind !== 'mains') throw new RangeError('drive: a mains driver needs a mains supply');
    return mainsDrive(line, driver, context);
  },
  firstRun:
    'On a few volts from a low winding first: the ratio is read there. The line only when everything below is done, fused, one hand.',
  beforePower: ({ count, seriesFarads }) => [
    ...(count > 1
      ? [
          {
            code: 'secondary-phase',
            text: 'Secondaries in series: prove their phase with a few volts on the primaries. They must read the sum; where one is reversed they read less than either, or nothing.',
          },
          {
            code: 'second-core',
            text: 'Every transformer but the lowest stands with the low end of its secondary, and its core if that is tied to it, at the high end of the one below: set its core and primary up for that voltage.',
          },
        ]
      : []),
    ...(seriesFarads === null
      ? []
      : [
          {
            code: 'series-capacitor-holds',
            text: 'The capacitor in series keeps a charge of its own: fit a resistor across it, and measure it too before touching.',
          },
        ]),
  ],
});

/**
 * A transformer at mains frequency.
 *
 * Several have their primaries in parallel and secondaries in series: voltages
 * and impedances add. A current into a short gives the impedance, Voc / Isc, of
 * which the winding's resistance is a part and reactance the rest (handbook).
 * The capacitor that takes the magnetising current off the line: I / (2 pi f V)
 * (handbook), as if that current were all reactive.
 */
function mainsDrive(
  supply: Extract<Supply, { kind: 'mains' }>,
  driver: z.output<typeof schema>,
  { ladderWatts }: DriveContext,
): DriveResult {
  const result = new DriveCollector();
  const { style, count, reversed, secondaryVolts, shortAmps, magnetisingAmps, seriesFarads } = driver;
  const { hertz } = supply;
  const primaryVolts = supply.volts * supply.setting;
  const adding = Math.abs(count - 2 * Math.min(reversed, count));
  const openVolts = adding * secondaryVolts * supply.setting;
  const ohms = count * driver.secondaryOhms;
  const impedance = shortAmps === null ? ohms : (count * secondaryVolts) / shortAmps;
  const henries = Math.sqrt(Math.max(0, impedance ** 2 - ohms ** 2)) / (2 * Math.PI * hertz);
  result.figure('mainsVolts', primaryVolts);
  reportDimmer(result, supply.dimmedDegrees);
  const wave = lineWave(result, supply, openVolts);
  if (shortAmps !== null) {
    result.figure('impedanceOhms', impedance);
    result.figure('reactanceOhms', 2 * Math.PI * hertz * henries);
    result.figure('voltAmperes', openVolts ** 2 / impedance);
  }
  if (seriesFarads !== null)
    reportBallast(result, seriesFarads, { hertz, henries, ohms, peakVolts: wave.positivePeakVolts });
  if (ladderWatts !== null && primaryVolts > 0) result.figure('mainsAmps', ladderWatts / primaryVolts);
  if (adding < count)
    result.finding(
      adding === 0 ? 'stop' : 'warn',
      'secondaries-oppose',
      '$.driver.reversed',
      adding === 0
        ? 'The secondaries in series cancel each other: nothing comes out.'
        : `Of ${count} secondaries in series the sum is that of ${adding}: the rest cancel each other, and add resistance and leakage all the same.`,
      'Change over the ends of one secondary, or of its primary, and prove the sum with a few volts first.',
    );
  if (magnetisingAmps !== null) {
    result.figure('magnetisingAmps', count * magnetisingAmps * supply.setting);
    result.figure('powerFactorFarads', (count * magnetisingAmps) / (2 * Math.PI * hertz * supply.volts));
  }
  if (!supply.isolated)
    result.finding(
      'stop',
      'mains-not-isolated',
      '$.supply.isolated',
      'The ladder is connected to the mains without isolation: every part of it, ground side too, can kill, and a fault draws what the fuse allows.',
      'Use a transformer whose secondary is apart from its primary, or put an isolating one before it.',
    );
  if (style === 'oven')
    result.finding(
      'stop',
      'oven-transformer',
      '$.driver.style',
      'An oven transformer is not limited in current: at its secondary a touch or an arc draws amperes, and its core end of the winding is earthed.',
      'People die of these. Use a current-limited transformer or a small driver instead.',
    );
  if (style === 'current-limited' && shortAmps === null)
    result.finding(
      'warn',
      'short-current-unknown',
      '$.driver.shortAmps',
      'A current-limited transformer is given without its short-circuit current, so it is counted as stiff.',
      `Enter the current into a short: VA divided by ${formatQuantity(secondaryVolts, 'V')}, or as measured.`,
    );
  return result.with(
    plainDrive({
      ...wave,
      positivePeakVolts: Math.max(SILENT_VOLTS, wave.positivePeakVolts),
      negativePeakVolts: Math.max(SILENT_VOLTS, wave.negativePeakVolts),
      seriesOhms: ohms,
      seriesHenries: henries,
      seriesFarads,
    }),
  );
}

/** How near the resonance with the leakage a capacitor in series counts as tuned to it, as a part of the reactance. */
const TUNED = 0.4;

/** A capacitor in series with the secondary: its reactance, and what is left where it tunes out the transformer's. */
function reportBallast(
  result: DriveCollector,
  farads: number,
  { hertz, henries, ohms, peakVolts }: { hertz: number; henries: number; ohms: number; peakVolts: number },
): void {
  const omega = 2 * Math.PI * hertz;
  const [own, leakage] = [1 / (omega * farads), omega * henries];
  const shorted = peakVolts / Math.hypot(ohms, own - leakage);
  result.figure('ballastOhms', own);
  result.figure('shortPeakAmps', shorted);
  if (leakage > 0 && Math.abs(own / leakage - 1) < TUNED)
    result.finding(
      'warn',
      'series-resonance',
      '$.driver.seriesFarads',
      `The capacitor tunes out most of the transformer’s reactance: what limited the current is gone, up to ${formatQuantity(shorted, 'A', 2)} peak may flow into a heavy load, and ${formatQuantity(shorted * own, 'V', 2)} stand across the capacitor.`,
      'Rate capacitor and winding for that, or stay well off the resonance.',
    );
}
