import type { Design } from '../design/design-schema';
import { measured } from '../drive/kinds/measured';
import { turnedDown } from '../drive/supply';
import { kindOf, quantity, saying } from '../schema/fields';
import * as z from '../zod';

const PART = 'a part from 0.01 to 1, such as 0.25';
/** Of the design's full drive. */
const partSchema = z
  .number({ error: saying(PART) })
  .gte(0.01, { error: saying(PART) })
  .lte(1, { error: saying(PART) });

/** What a ladder is tried on at low voltage. */
export const lowSourceSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({
      kind: z.literal('winding'),
      /** Of a sine, as it was measured. */
      rmsVolts: quantity('V', '12', 'above zero').default(12),
      hertz: quantity('Hz', '50', 'above zero').default(50),
      /** Of the winding and what is in series with it. */
      ohms: quantity('Ω', '10', 'zero or more').default(1),
    }),
    z.strictObject({ kind: z.literal('turned-down'), part: partSchema.default(0.1) }),
  ],
  { error: kindOf(['winding', 'turned-down']) },
);
export type LowSource = z.output<typeof lowSourceSchema>;
export type LowSourceKind = LowSource['kind'];

export const LOW_SOURCE_NAMES: Record<LowSourceKind, string> = {
  winding: 'A low winding or generator, sine',
  'turned-down': 'The design’s own drive, turned down',
};

/** How somebody tries things at low voltage: of the workshop, and not of a design. */
export const benchSettingsSchema = z.strictObject({ source: lowSourceSchema.prefault({ kind: 'winding' }) });

/** A design with its drive turned down to a part, its supply's limit of current as it was. */
export function atPart(design: Design, part: number): Design {
  const { supply, driver } = design;
  if (driver.kind === 'measured') {
    const { positivePeakVolts, negativePeakVolts, samples } = driver;
    return {
      ...design,
      driver: {
        ...driver,
        positivePeakVolts: part * positivePeakVolts,
        ...(negativePeakVolts === undefined ? {} : { negativePeakVolts: part * negativePeakVolts }),
        samples: samples && samples.map((volts) => part * volts),
      },
    };
  }
  if (!supply || part === 1) return design;
  const turned = turnedDown(supply, part);
  return {
    ...design,
    supply: 'maxAmps' in supply ? ({ ...turned, maxAmps: supply.maxAmps } as typeof supply) : turned,
  };
}

/** A design's ladder on what it is tried on, its load gone. */
export function onLowSource(design: Design, source: LowSource): Design {
  const bare: Design = { ...design, load: { kind: 'open' } };
  if (source.kind === 'turned-down') return atPart(bare, source.part);
  return {
    ...bare,
    supply: null,
    transformer: null,
    driver: measured.schema.parse({
      kind: 'measured',
      positivePeakVolts: Math.SQRT2 * source.rmsVolts,
      frequencyHertz: source.hertz,
      seriesOhms: source.ohms,
    }),
  };
}
