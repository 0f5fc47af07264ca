import { transformerSchema } from '../magnetics/transformer';
import type { Rating } from '../quantity/ratings';
import { kindOf } from '../schema/fields';
import * as z from '../zod';
import { inBursts } from './bursts';
import { mostWatts, type Drive } from './drive';
import { unloadedContext, type DriveContext, type DriveResult } from './drive-result';
import type { AnyDriverKind, Source } from './driver-kind';
import { directFeed } from './feed';
import type { DriveFigures } from './figures';
import { blockingOscillator } from './kinds/blocking-oscillator';
import { capacitorDischarge } from './kinds/capacitor-discharge';
import { directMains } from './kinds/direct-mains';
import { flyback } from './kinds/flyback';
import { inverter } from './kinds/inverter';
import { mains } from './kinds/mains';
import { measured } from './kinds/measured';
import { boughtModule } from './kinds/module';
import { resonantPushPull } from './kinds/resonant-push-pull';
import { supplySchema, type Supply } from './supply';
import type { FedNode, NoCircuit, SupplyCircuit } from './supply-circuit';
import { transformerRatings } from './transformer-checks';

/** Every kind of driver, in the order in which they are offered: one line each. */
const KINDS = [
  measured,
  mains,
  directMains,
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
  const result = inBursts(source.driver, DRIVER_KINDS[source.driver.kind].drive(source, context));
  if (context.driveOnly) return result;
  const { maxAmps } = result.drive;
  const watts = mostWatts(result.drive);
  return {
    ...result,
    figures: {
      ...withSwitching(source.driver, result.figures),
      ...(watts === null ? {} : { mostWatts: watts }),
      ...(maxAmps === null ? {} : { mostAmps: maxAmps }),
    },
  };
}

/** The whole supply as a circuit that feeds these nodes of a ladder; null where its drive is one already. */
export function supplyCircuitOf(
  source: DriveSource,
  result: DriveResult,
  fed: readonly FedNode[],
  ladderFarads: number,
): SupplyCircuit | NoCircuit | null {
  const { circuit } = DRIVER_KINDS[source.driver.kind];
  if (!circuit) return null;
  return result.drive.burst ? { reason: 'it runs in bursts' } : circuit(source, result, fed, ladderFarads);
}

/** A driver's figures with what its transistors lose at their edges, where it has any that do. */
export function withSwitching(driver: Driver, figures: DriveFigures): DriveFigures {
  const watts = DRIVER_KINDS[driver.kind].switching?.(driver, figures) ?? NaN;
  return Number.isFinite(watts) ? { ...figures, switchingWatts: watts } : figures;
}

/** What the drive of a kind leaves out that its circuit has, a sentence; null where they are one. */
export const leftOutBy = ({ kind }: Driver): string | null => DRIVER_KINDS[kind].leavesOut ?? null;

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
 * @param ladderFarads what the ladder's input shows beside the charge it takes, F
 */
export function driverOfKind(
  id: DriverKindId,
  present: Pick<DriveSource, 'supply'>,
  drive: Drive,
  ladderFarads = 0,
): DriveSource {
  const kind = DRIVER_KINDS[id];
  const supply = supplyFor(kind.needs.supply, present.supply);
  const { least, most } = FERRITE_HERTZ;
  const peakVolts = peakOf(drive);
  const { driver, transformer } = kind.start({
    drive,
    peakVolts,
    hertz: Number(Math.min(most, Math.max(least, drive.frequencyHertz)).toPrecision(2)),
    feedVolts: supply && supply.kind !== 'mains' ? directFeed(supply).volts || USUAL_SUPPLY_VOLTS : USUAL_SUPPLY_VOLTS,
    ladderFarads,
  });
  const source = {
    supply,
    driver: driverSchema.parse({ ...driver, kind: id }),
    transformer: transformer ? transformerSchema.parse(transformer) : null,
  };
  const start = { ...source, transformer: matched(source, peakVolts, ladderFarads) };
  return { ...start, transformer: unsaturated(start, ladderFarads) };
}

/** Part of what a core saturates at that a start works it to. */
const START_FLUX = 0.6;

/** The transformer with more turns on either side, the inductance kept, where its core would be worked too hard. */
function unsaturated(source: DriveSource, ladderFarads: number): DriveSource['transformer'] {
  const { transformer } = source;
  if (!transformer) return null;
  const { fluxTesla = 0 } = DRIVER_KINDS[source.driver.kind].drive(source, unloadedContext(ladderFarads)).figures;
  const times = fluxTesla / (START_FLUX * transformer.saturationTesla);
  if (times <= 1) return transformer;
  const primaryTurns = Math.ceil(transformer.primaryTurns * times);
  return {
    ...transformer,
    primaryTurns,
    secondaryTurns: Number(((transformer.secondaryTurns * primaryTurns) / transformer.primaryTurns).toPrecision(3)),
  };
}

const peakOf = ({ positivePeakVolts, negativePeakVolts }: Drive) => Math.max(positivePeakVolts, negativePeakVolts);

/** How near the peak asked for a start is brought, as a fraction, in how many tries. */
const MATCHED = 0.02;
const MOST_TRIES = 12;

/** The transformer with the secondary turns that give a peak, as far as turns can: what it shows the driver grows with them. */
function matched(source: DriveSource, peakVolts: number, ladderFarads: number): DriveSource['transformer'] {
  let { transformer } = source;
  for (let tries = 0; transformer && tries < MOST_TRIES; tries += 1) {
    const context = { ...unloadedContext(ladderFarads), driveOnly: true };
    const given = peakOf(DRIVER_KINDS[source.driver.kind].drive({ ...source, transformer }, context).drive);
    if (Math.abs(given / peakVolts - 1) < MATCHED) break;
    // Half of the way in logarithms: a secondary that is mostly capacitance answers little, and not in proportion.
    const turns = transformer.secondaryTurns * Math.sqrt(peakVolts / given);
    transformer = { ...transformer, secondaryTurns: Math.max(1, Number(turns.toPrecision(3))) };
  }
  return transformer;
}

function supplyFor(fits: readonly Supply['kind'][], present: Supply | null): Supply | null {
  if (fits.length === 0) return null;
  if (present && fits.includes(present.kind)) return present;
  return supplySchema.parse(fits.includes('dc') ? { kind: 'dc', volts: USUAL_SUPPLY_VOLTS } : { kind: 'mains' });
}
