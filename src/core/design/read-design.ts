import { boundsFault, DESIGN_BOUNDS } from '../schema/bounds';
import { faultsOf, type Fault } from '../schema/faults';
import { designSchema, type Design } from './design-schema';
import { upgradeDesign } from './upgrade';

export type DesignReading = { ok: true; design: Design } | { ok: false; faults: Fault[] };

/**
 * A design from parsed JSON of this or an older version, with defaults filled in.
 *
 * @param document anything; nothing about it is trusted
 * @returns the design, or every fault found, each with its JSON path. Never throws.
 */
export function readDesign(document: unknown): DesignReading {
  const tooMuch = boundsFault(document, DESIGN_BOUNDS);
  if (tooMuch) return { ok: false, faults: [tooMuch] };
  const result = designSchema.safeParse(upgradeDesign(document), { reportInput: true });
  return result.success ? { ok: true, design: result.data } : { ok: false, faults: faultsOf(result.error) };
}

/** The same from the text of a `*.ladder.json` file; text that is not JSON is one fault at `$`. */
export function readDesignText(text: string): DesignReading {
  let document: unknown;
  try {
    document = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    return {
      ok: false,
      faults: [{ path: '$', message: `is not JSON (${(error as Error).message}); must be one JSON object` }],
    };
  }
  return readDesign(document);
}

/** The text of a design file: indented, fields in the schema's order, a newline at the end. */
export function writeDesignText(design: Design): string {
  return `${JSON.stringify(design, null, 2)}\n`;
}
