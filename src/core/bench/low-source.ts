import type { Design } from '../design/design-schema';
import { DRIVER_KINDS } from '../drive/driver-kinds';
import { measured } from '../drive/kinds/measured';
import { timesAsHigh } from '../drive/recorded-driver';
import { turnedDown } from '../drive/supply';
import { kindOf, listOf, quantity, saying } from '../schema/fields';
import * as z from '../zod';

const FRACTION = 'a fraction from 0.01 to 1, such as 0.25';
/** Of the design's full drive. */
const driveFraction = z
  .number({ error: saying(FRACTION) })
  .gte(0.01, { error: saying(FRACTION) })
  .lte(1, { error: saying(FRACTION) });

/** The most steps on the way up. */
const MOST_STEPS = 12;

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
    z.strictObject({ kind: z.literal('turned-down'), fraction: driveFraction.default(0.1) }),
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
export const benchSettingsSchema = z.strictObject({
  source: lowSourceSchema.prefault({ kind: 'winding' }),
  /** Fractions of the full drive at which one stops on the way up. */
  fractions: listOf(driveFraction, 'steps', MOST_STEPS)
    .min(1, { error: () => 'has no step; must have one at least, such as 100 %' })
    .default([0.25, 0.5, 0.75, 1]),
});

/**
 * A design with its drive turned down to a fraction, its supply's limit of
 * current as it was.
 *
 * @returns null for a drive of which nothing is known but what it gives in full
 */
export function atFraction(design: Design, fraction: number): Design | null {
  if (fraction === 1) return design;
  const { supply, driver } = design;
  switch (driver.kind) {
    case 'measured':
      return { ...design, driver: timesAsHigh(driver, fraction) };
    case 'capacitor-discharge':
      return { ...design, driver: { ...driver, storageVolts: fraction * driver.storageVolts } };
    default: {
      if (!supply || DRIVER_KINDS[driver.kind].needs.supply.length === 0) return null;
      const turned = turnedDown(supply, fraction);
      return {
        ...design,
        supply: 'maxAmps' in supply ? ({ ...turned, maxAmps: supply.maxAmps } as typeof supply) : turned,
      };
    }
  }
}

/** A design's ladder on what it is tried on, its load gone; null where its drive cannot be turned down. */
export function onLowSource(design: Design, source: LowSource): Design | null {
  const bare: Design = { ...design, load: { kind: 'open' } };
  if (source.kind === 'turned-down') return atFraction(bare, source.fraction);
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
