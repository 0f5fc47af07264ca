import type { Part, PartKind } from './part-schema';

/** Stresses that decide how many of a part a place takes; null where the closed form has no figure. V, A. */
export type PlaceNeeds = {
  /** Greatest voltage without load across one ladder capacitor, and against one diode, with the drive at its highest. */
  capacitorVolts: number;
  diodeVolts: number;
  noLoadVolts: number;
  /** What a transistor blocks, peak. */
  transistorVolts: number | null;
  /** Across and through the whole tank, peak and RMS. */
  tankVolts: number | null;
  tankAmps: number | null;
  /** Through the primary, RMS. */
  primaryAmps: number | null;
};

/** A section or field of the document, whatever it holds. */
export type Reading = (path: string) => unknown;

/** What a part in a place comes to: in words, and the fields that it sets, by their paths. */
type Fitted = { words: string; values: Readonly<Record<string, unknown>> };

/**
 * Where a design can take a part of the drawer: what kind it takes, which field
 * names the part, which fields come from it, how many there are, and how many
 * of a part carry the stress there. Paths are those of the document without `$.`.
 */
export type Place = {
  id: string;
  /** What stands there, as a button names it. */
  name: string;
  takes: PartKind;
  /** The field that names the part. */
  partId: string;
  /** Fields that come from the part; one typed over leaves it. */
  fields: readonly string[];
  /** Parts that the place takes in the document as it is; 0 where it is not there. */
  count: (read: Reading) => number;
  /** Null where the place cannot take the part, or the one figure that matters is not known. */
  fit: (read: Reading, part: Part, needs: PlaceNeeds) => Fitted | null;
};

/** A value of the document by its path; undefined where a section on the way is absent. */
export const readingOf =
  (document: object): Reading =>
  (path) =>
    path
      .split('.')
      .reduce<unknown>((node, key) => (node as Record<string, unknown> | null | undefined)?.[key], document);
