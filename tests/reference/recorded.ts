import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** Results of integrations that take long, by a hash of all that went into them; made by `npm run references`. */
const RECORDS = path.resolve('tests/reference/integrations');

/** Set by `npm run references`: integrate anew and write down, rather than read. */
const writing = process.env.REFERENCES === 'write';

/** Inputs that differ by less than rounding are the same. */
const rounded = (_key: string, value: unknown) => (typeof value === 'number' ? Number(value.toPrecision(9)) : value);

const keyOf = (inputs: unknown) =>
  createHash('sha256').update(JSON.stringify(inputs, rounded)).digest('hex').slice(0, 16);

/**
 * An integration whose results are read from what was written down, so that a
 * test need not wait for it.
 *
 * @param name of the file that its results stand in
 * @returns the same function; it throws where nothing was written down for these inputs
 */
export function recorded<A extends unknown[], R>(name: string, integrate: (...inputs: A) => R): (...inputs: A) => R {
  const file = path.join(RECORDS, `${name}.json`);
  const read = (): Record<string, R> => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {});
  return (...inputs) => {
    const key = keyOf(inputs);
    const results = read();
    if (!writing) {
      if (key in results) return results[key];
      throw new Error(
        `${name}: these inputs were never integrated; run "npm run references" and look at what it changes`,
      );
    }
    results[key] = integrate(...inputs);
    writeRecord(file, Object.fromEntries(Object.entries(results).sort(([a], [b]) => (a < b ? -1 : 1))));
    return results[key];
  };
}

/** Writes a result down where `npm run references` makes them anew; does nothing in a test. */
export function writeRecord(file: string, result: unknown): void {
  if (!writing) return;
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileSync(file, `${JSON.stringify(result, null, 1)}\n`);
}
