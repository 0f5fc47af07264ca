import { partsUsed } from '@/core/drawer/parts-used';
import { readDesign } from '@/core/design/read-design';
import type { Design } from '@/core/design/design-schema';
import { buildWords, shelfRow, type ShelfRow } from '@/core/predict/shelf-row';
import { COUNTINGS } from '@/core/quantity/counting';
import type { Fault } from '@/core/schema/faults';

/** What the database keeps of a design beside it, so that lists need not read every document. */
export type ShelfFigures =
  | {
      row: ShelfRow;
      /** Parts of the drawer that it takes, by their ids. */
      uses: Record<string, number>;
      /** What a search looks through besides name and notes. */
      words: string;
    }
  /** Of a document that cannot be read: the first of what is wrong. */
  | { faults: Fault[]; faultCount: number };

const MOST_FAULTS = 3;

export const NOT_BUILT = 'not built';

/** The core that computes, by a digest of its sources, as the build notes it. */
export const CORE_VERSION: string = process.env.CORE_VERSION || NOT_BUILT;

const usesOf = (design: Design): Record<string, number> => Object.fromEntries(partsUsed(design));

/** What a document takes of the drawer, by the ids of parts; null where it cannot be read. */
export function usesOfDocument(document: unknown): Record<string, number> | null {
  const reading = readDesign(document);
  return reading.ok ? usesOf(reading.design) : null;
}

function figuresOfDesign(design: Design): ShelfFigures {
  const row = shelfRow(design);
  const words = COUNTINGS.map((counting) => buildWords(row, counting)).join(' ');
  return { row, uses: usesOf(design), words };
}

export function figuresOfDocument(document: unknown): ShelfFigures {
  const reading = readDesign(document);
  return reading.ok
    ? figuresOfDesign(reading.design)
    : { faults: reading.faults.slice(0, MOST_FAULTS), faultCount: reading.faults.length };
}
