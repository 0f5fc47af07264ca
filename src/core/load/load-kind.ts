import type { FieldDescription } from '../quantity/field-description';
import type * as z from '../zod';

/**
 * What a load draws at a voltage across it in the time domain: never falling
 * with voltage, so that every step has one answer.
 */
export type LoadBranch = {
  amps: (volts: number, arc: boolean) => number;
  /** Slope of that, S. */
  slope: (volts: number, arc: boolean) => number;
  /** Which of its straight pieces a voltage lies on; null for a law that is nowhere straight. */
  pieceOf: ((volts: number) => number) | null;
  /** Where it strikes, and under which current its arc goes out; null for a load that does neither. */
  gap: { strikeVolts: number; quenchAmps: number } | null;
};

/** A kind of load, whole: the fields it has in the document and on screen, where it starts, and what it draws. */
export type LoadKind<S extends z.ZodType<{ kind: string }>> = {
  kind: z.output<S>['kind'];
  name: string;
  schema: S;
  fields: readonly FieldDescription[];
  /** A load of this kind that draws about the same as what is drawn now, A at V; both above zero. */
  start: (drawn: { amps: number; volts: number }) => Omit<z.input<S>, 'kind'>;
  /** Current through a resistance before it from this voltage, magnitudes, A. */
  ampsAt: (load: z.output<S>, volts: number, seriesOhms: number) => number;
  /** Current that does not depend on voltage, A; null where it does. */
  steadyAmps: (load: z.output<S>) => number | null;
  /** Its resistance, Ω; null where it is none. */
  ohms: (load: z.output<S>) => number | null;
  /** The same in the time domain, unless it is a resistance or open; `peakToPeakVolts` of the drive. */
  branch: (load: z.output<S>, peakToPeakVolts: number) => LoadBranch | null;
};

/** Declares a kind, so that its schema types its law. */
export function loadKind<S extends z.ZodType<{ kind: string }>>(
  schema: S,
  kind: Omit<LoadKind<S>, 'schema'>,
): LoadKind<S> {
  return { ...kind, schema };
}

/** A kind whatever its schema. */
export type AnyLoadKind = LoadKind<z.ZodType<{ kind: string }>>;

/** Three digits are as much as a starting point is worth. */
export const rough = (value: number) => Number(value.toPrecision(3));

/** What a resistance draws behind another one. */
export const throughOhms = (ohms: number, volts: number, seriesOhms: number) => volts / (ohms + seriesOhms);
