import type { Transformer } from '../magnetics/transformer';
import type { Place } from '../parts/place';
import type { FieldDescription } from '../quantity/field-description';
import type { Rating } from '../quantity/ratings';
import type { Drive } from './drive';
import type { DriveContext, DriveResult } from './drive-result';
import type { DriveFigures } from './figures';
import type { Supply, SupplyKind } from './supply';
import type { FedNode, NoCircuit, SupplyCircuit } from './supply-circuit';
import type * as z from '../zod';

/** The three sections of a document that a driver works from. */
export type Source<D = unknown> = { supply: Supply | null; driver: D; transformer: Transformer | null };

/** What a driver starts from when another kind is chosen: the drive there is, and what it runs from. */
type Present = {
  drive: Drive;
  /** The greater of its peaks, V, and its frequency as one that a ferrite works at, Hz. */
  peakVolts: number;
  hertz: number;
  /** Direct voltage of the supply there is, or a usual one, V. */
  feedVolts: number;
  /** What the ladder's input shows beside the charge it takes, F. */
  ladderFarads: number;
};

/** One check before the supply is switched on. */
export type PowerCheck = { code: string; text: string };

/**
 * A kind of driver, whole: the fields it has in the document and on screen, what
 * it needs before and after it, where it starts, where parts of the drawer go,
 * what they are rated for, and what it makes of the supply.
 */
export type DriverKind<S extends z.ZodType<{ kind: string }>> = {
  kind: z.output<S>['kind'];
  name: string;
  needs: {
    /** Supplies it can run from; none where it has its own. */
    supply: readonly SupplyKind[];
    transformer: boolean;
    /** Whether the transformer's inductance must be known. */
    inductance: boolean;
  };
  schema: S;
  /** In the order of a form; a measured waveform has a form of its own. */
  fields: readonly FieldDescription[];
  /** A driver of this kind, with its transformer, near the peak of the present drive; its secondary is then matched to it. */
  start: (present: Present) => { driver: Omit<z.input<S>, 'kind'>; transformer?: Transformer };
  places: readonly Place[];
  ratings: (driver: z.output<S>) => Rating[];
  drive: (source: Source<z.output<S>>, context: DriveContext) => DriveResult;
  /**
   * The same as a circuit, for the time domain; not there where `drive` is one already, or nothing is known of what makes it.
   *
   * @param result of `drive`, to start from
   * @param fed the ladder's nodes that its windings feed
   * @param ladderFarads what the ladder's input shows beside the charge it takes, F
   */
  circuit?: (
    source: Source<z.output<S>>,
    result: DriveResult,
    fed: readonly FedNode[],
    ladderFarads: number,
  ) => SupplyCircuit | NoCircuit;
  /** What its transistors lose as they turn off, estimated from its own figures, of closed form or circuit, W. */
  switching?: (driver: z.output<S>, figures: DriveFigures) => number;
  /** The chief thing that `drive` leaves out or only estimates and `circuit` has, a sentence. */
  leavesOut?: string;
  /** How it is first tried with its transformer, the ladder not on it yet, a sentence or more; null where there is nothing to try (common practice, no source). */
  firstRun: string | null;
  /** What is to be checked before power because of it (common practice, no source). */
  beforePower: (driver: z.output<S>, figures: DriveFigures) => PowerCheck[];
};

/** Declares a kind, so that its schema types its physics. */
export function driverKind<S extends z.ZodType<{ kind: string }>>(
  schema: S,
  kind: Omit<DriverKind<S>, 'schema'>,
): DriverKind<S> {
  return { ...kind, schema };
}

/** A kind whatever its schema. */
export type AnyDriverKind = DriverKind<z.ZodType<{ kind: string }>>;

/** Supplies of direct voltage. */
export const DIRECT = ['battery', 'dc', 'smoothed-mains'] as const;

/** A section that the document's rules have made sure of. */
export function needed<T>(section: T | null): T {
  if (section === null)
    throw new RangeError('drive: a supply or transformer that this kind of driver needs is missing');
  return section;
}
