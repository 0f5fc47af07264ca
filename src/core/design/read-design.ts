import type * as z from '../zod';
import { designSchema, type Design } from './design-schema';

/** One thing wrong with a document: where (a JSON path), what, and what would be right. */
export type Fault = { path: string; message: string };
export type DesignReading = { ok: true; design: Design } | { ok: false; faults: Fault[] };

/** A path as it is written in JSON: `$.ladder.capacitor.farads`, `$.list[2]`. */
export function jsonPath(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, key) => text + (typeof key === 'number' ? `[${key}]` : `.${String(key)}`), '$');
}

/** zod's issues as faults; unknown fields become one fault each, at their own path. */
export function faultsOf(error: z.ZodError): Fault[] {
  const faults = error.issues.flatMap((issue) => {
    if (issue.code === 'unrecognized_keys')
      return issue.keys.map((key) => ({
        path: jsonPath([...issue.path, key]),
        message: 'is not a field of this document; remove it or correct its name',
      }));
    const generic = issue.code === 'invalid_type' && issue.expected === 'object';
    const missing = generic && issue.input === undefined;
    return [
      {
        path: jsonPath(issue.path),
        message: generic
          ? `${missing ? 'is missing' : 'is not an object'}; must be an object in braces`
          : issue.message,
      },
    ];
  });
  return faults.filter(
    (fault, index) =>
      faults.findIndex((other) => other.path === fault.path && other.message === fault.message) === index,
  );
}

/**
 * A design from parsed JSON, with defaults filled in.
 *
 * @param document anything; nothing about it is trusted
 * @returns the design, or every fault found, each with its JSON path. Never throws.
 */
export function readDesign(document: unknown): DesignReading {
  const result = designSchema.safeParse(document, { reportInput: true });
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
