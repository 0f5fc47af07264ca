import { quantityField } from '../../quantity/field-description';
import { choice, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { DriveCollector, plainDrive, type DriveResult } from '../drive-result';
import { driverKind, needed } from '../driver-kind';
import { lineWave, reportDimmer } from '../feed';
import type { Supply } from '../supply';

const schema = z.strictObject({
  kind: z.literal('direct-mains'),
  /** What keeps the ladder apart from the line. */
  isolation: choice(['none', 'isolating-transformer']).default('none'),
  /** A resistor or lamp in series, with what the line itself has. */
  seriesOhms: quantity('Ω', '100', 'zero or more').default(0),
});

export const directMains = driverKind(schema, {
  kind: 'direct-mains',
  name: 'Mains, no step-up',
  needs: { supply: ['mains'], transformer: false, inductance: false },
  fields: [
    {
      as: 'choice',
      name: 'isolation',
      label: 'Isolated by',
      options: [
        { value: 'none', name: 'Nothing' },
        { value: 'isolating-transformer', name: 'Isolating transformer' },
      ],
      hint: 'A variable transformer isolates nothing by itself.',
    },
    quantityField('seriesOhms', 'In series: resistor, lamp, line', 'Ω', {
      hint: 'Limits the surge when it is switched on. A cold lamp has a tenth of its hot resistance.',
    }),
  ],
  // A line has the voltage that it has: what was there cannot be kept.
  start: () => ({ driver: { isolation: 'isolating-transformer' as const, seriesOhms: 100 } }),
  places: [],
  ratings: () => [],
  drive: ({ supply, driver }, { ladderWatts }) => {
    const line = needed(supply);
    if (line.kind !== 'mains') throw new RangeError('drive: mains needs a mains supply');
    return lineDrive(line, driver, ladderWatts);
  },
  firstRun: null,
  beforePower: () => [
    {
      code: 'line-isolation',
      text: 'Plug out: measure from each terminal of the ladder to each pin of the plug and to earth. Behind an isolating transformer there is no path to any of them.',
    },
  ],
});

/** The line itself: a sine, or what a dimmer leaves of it, behind what is in series. */
function lineDrive(
  line: Extract<Supply, { kind: 'mains' }>,
  { isolation, seriesOhms }: z.output<typeof schema>,
  ladderWatts: number | null,
): DriveResult {
  const result = new DriveCollector();
  const lineVolts = line.volts * line.setting;
  result.figure('mainsVolts', lineVolts);
  const wave = lineWave(result, line, lineVolts);
  result.figure('shortPeakAmps', wave.positivePeakVolts / seriesOhms);
  if (ladderWatts !== null && lineVolts > 0) result.figure('mainsAmps', ladderWatts / lineVolts);
  if (isolation !== 'none') reportDimmer(result, line.dimmedDegrees);
  if (isolation === 'none' || !line.isolated)
    result.finding(
      'stop',
      'mains-not-isolated',
      isolation === 'none' ? '$.driver.isolation' : '$.supply.isolated',
      'The ladder is connected to the mains without isolation: every part of it, ground side too, can kill, and a fault draws what the fuse allows.',
      'Shown for understanding. Put an isolating transformer before it, and say so here.',
    );
  else
    result.finding(
      'note',
      'isolated-line',
      '$.driver.isolation',
      'Behind an isolating transformer no single touch finds earth, until something earths the ladder: a scope, a meter or a fault makes the other terminal live to earth by all of it, and no residual-current device sees it.',
      'Earth at one point on purpose or nowhere, and treat both terminals as live.',
    );
  return result.with(plainDrive({ ...wave, seriesOhms }));
}
