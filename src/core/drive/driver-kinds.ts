import { transformerSchema } from '../magnetics/transformer';
import type { Rating } from '../quantity/ratings';
import { kindOf } from '../schema/fields';
import * as z from '../zod';
import { mostWatts, type Drive } from './drive';
import type { DriveContext, DriveResult } from './drive-result';
import type { AnyDriverKind, Source } from './driver-kind';
import { directFeed } from './feed';
import { blockingOscillator } from './kinds/blocking-oscillator';
import { capacitorDischarge } from './kinds/capacitor-discharge';
import { flyback } from './kinds/flyback';
import { inverter } from './kinds/inverter';
import { mains } from './kinds/mains';
import { measured } from './kinds/measured';
import { boughtModule } from './kinds/module';
import { resonantPushPull } from './kinds/resonant-push-pull';
import { supplySchema, type Supply } from './supply';
import { transformerRatings } from './transformer-checks';

/** Every kind of driver, in the order in which they are offered: one line each. */
const KINDS = [
  measured,
  mains,
  resonantPushPull,
  flyback,
  blockingOscillator,
  inverter,
  boughtModule,
  capacitorDischarge,
] as const;

type SchemasOf<T extends readonly { schema: unknown }[]> = { [At in keyof T]: T[At]['schema'] };
export type DriverKindId = (typeof KINDS)[number]['kind'];

/** What turns the supply into alternating voltage, by what can be read off parts or measured. */
export const driverSchema = z.discriminatedUnion(
  'kind',
  KINDS.map(({ schema }) => schema) as unknown as SchemasOf<typeof KINDS>,
  {
    error: kindOf(KINDS.map(({ kind }) => kind)),
  },
);
export type Driver = z.output<typeof driverSchema>;

/** The kinds by their ids; each knows only drivers of its own, which the id has made sure of. */
export const DRIVER_KINDS = Object.fromEntries(KINDS.map((kind) => [kind.kind, kind])) as unknown as Record<
  DriverKindId,
  AnyDriverKind
>;
export const DRIVER_KIND_IDS: readonly DriverKindId[] = KINDS.map(({ kind }) => kind);

/** The sections of a document that make its drive. */
export type DriveSource = Source<Driver>;

/**
 * What stands at the ladder's input, whatever makes it, with the figures,
 * stresses and findings of every link before it.
 *
 * @param source that the schema has let through, so that what its kind of
 *   driver needs is there
 * @throws RangeError when supply or transformer is missing all the same
 */
export function makeDrive(source: DriveSource, context: DriveContext): DriveResult {
  const result = DRIVER_KINDS[source.driver.kind].drive(source, context);
  if (context.driveOnly) return result;
  const { maxAmps } = result.drive;
  const watts = mostWatts(result.drive);
  return {
    ...result,
    figures: {
      ...result.figures,
      ...(watts === null ? {} : { mostWatts: watts }),
      ...(maxAmps === null ? {} : { mostAmps: maxAmps }),
    },
  };
}

/** What driver and transformer are rated for, as far as the document knows. */
export function sourceRatings({ driver, transformer }: DriveSource): Rating[] {
  return [...DRIVER_KINDS[driver.kind].ratings(driver), ...(transformer ? transformerRatings(transformer) : [])];
}

const USUAL_SUPPLY_VOLTS = 24;
const FERRITE_HERTZ = { least: 15e3, most: 200e3 };

/**
 * A driver of another kind, with supply and transformer as it needs them, that
 * gives about the peak of the present drive: a starting point whose every value
 * is to be replaced by one's own. What fits is kept.
 *
 * @param drive at the ladder's input at present
 */
export function driverOfKind(id: DriverKindId, present: Pick<DriveSource, 'supply'>, drive: Drive): DriveSource {
  const kind = DRIVER_KINDS[id];
  const supply = supplyFor(kind.needs.supply, present.supply);
  const { least, most } = FERRITE_HERTZ;
  const { driver, transformer } = kind.start({
    drive,
    peakVolts: Math.max(drive.positivePeakVolts, drive.negativePeakVolts),
    hertz: Number(Math.min(most, Math.max(least, drive.frequencyHertz)).toPrecision(2)),
    feedVolts: supply?.kind === 'dc' ? directFeed(supply).volts : USUAL_SUPPLY_VOLTS,
  });
  return {
    supply,
    driver: driverSchema.parse({ ...driver, kind: id }),
    transformer: transformer ? transformerSchema.parse(transformer) : null,
  };
}

function supplyFor(fits: readonly Supply['kind'][], present: Supply | null): Supply | null {
  if (fits.length === 0) return null;
  if (present && fits.includes(present.kind)) return present;
  return supplySchema.parse(fits.includes('dc') ? { kind: 'dc', volts: USUAL_SUPPLY_VOLTS } : { kind: 'mains' });
}
