import * as z from '../zod';

/** One thing wrong with a document: where (a JSON path), what, and what would be right. */
export const faultSchema = z.strictObject({ path: z.string(), message: z.string() });
export type Fault = z.output<typeof faultSchema>;

/** A path as it is written in JSON: `$.ladder.capacitor.farads`, `$.list[2]`. */
export function jsonPath(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, key) => text + (typeof key === 'number' ? `[${key}]` : `.${String(key)}`), '$');
}

/** Faults that are told of one document; who mends these finds the rest. */
export const MOST_FAULTS = 100;

/** zod's issues as faults, the first of them; unknown fields become one fault each, at their own path. */
export function faultsOf(error: z.ZodError): Fault[] {
  const faults = error.issues.slice(0, 2 * MOST_FAULTS).flatMap((issue) => {
    if (issue.code === 'unrecognized_keys')
      return issue.keys.slice(0, 2 * MOST_FAULTS).map((key) => ({
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
  const told = new Map(faults.map((fault) => [`${fault.path} ${fault.message}`, fault]));
  return [...told.values()].slice(0, MOST_FAULTS);
}

/** Faults in one line, for a message or a log. */
export const formatFaults = (faults: readonly Fault[]) =>
  faults.map(({ path, message }) => (path === '$' ? message : `${path} ${message}`)).join('; ');
