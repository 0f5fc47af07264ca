import { randomBytes, randomInt, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';
import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { wordlist } from '@scure/bip39/wordlists/english.js';
import * as z from '@/core/zod';

/** Five of 2048 words: 55 bits, against which a few tries a minute come to nothing. */
const WORDS = 5;
const HASH_BYTES = 32;
/** A tenth of a second and 32 MiB for each try; common practice. */
const COST = { N: 2 ** 15, r: 8, p: 1 };
const MOST_BYTES = 64 * 1024 * 1024;

const base64 = z.base64().min(1);
const entrySchema = z.strictObject({
  salt: base64,
  hash: base64,
  cost: z.strictObject({ N: z.int().positive(), r: z.int().positive(), p: z.int().positive() }),
  /** Signs the sessions that were opened with this pass phrase. */
  sessionKey: base64,
});
type Entry = z.output<typeof entrySchema>;

const fileIn = (folder: string) => path.join(folder, 'pass-phrase.json');

function readEntry(folder: string): Entry | null {
  let text: string;
  try {
    text = readFileSync(fileIn(folder), 'utf8');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
  const read = entrySchema.safeParse(parsed(text));
  if (read.success) return read.data;
  throw new Error(`${fileIn(folder)} cannot be read; start once with --new-pass-phrase to make a new one`);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** As it is compared: typed on a telephone it may come with capitals, hyphens or a space at its end. */
const asCompared = (phrase: string): string =>
  phrase
    .normalize('NFKC')
    .trim()
    .toLowerCase()
    .split(/[\s-]+/)
    .join(' ');

function hashOf(phrase: string, salt: Buffer, cost: ScryptOptions): Promise<Buffer> {
  return new Promise((resolve, reject) =>
    scrypt(asCompared(phrase), salt, HASH_BYTES, { ...cost, maxmem: MOST_BYTES }, (error, hash) =>
      error ? reject(error) : resolve(hash),
    ),
  );
}

/** Whether a pass phrase has been made in this folder. */
export const hasPassPhrase = (folder: string): boolean => readEntry(folder) !== null;

/**
 * Makes a pass phrase and keeps what it is checked by, never itself. One made
 * before is no good any more, nor are the sessions opened with it.
 *
 * @returns the pass phrase; nothing can tell it again
 */
export async function makePassPhrase(folder: string): Promise<string> {
  const phrase = Array.from({ length: WORDS }, () => wordlist[randomInt(wordlist.length)]).join(' ');
  const salt = randomBytes(16);
  const entry: Entry = {
    salt: salt.toString('base64'),
    hash: (await hashOf(phrase, salt, COST)).toString('base64'),
    cost: COST,
    sessionKey: randomBytes(32).toString('base64'),
  };
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const aside = `${fileIn(folder)}.making-${process.pid}`;
  try {
    writeFileSync(aside, JSON.stringify(entry), { mode: 0o600 });
    renameSync(aside, fileIn(folder));
  } finally {
    rmSync(aside, { force: true });
  }
  return phrase;
}

/** Whether this is the pass phrase; false as well where none has been made. */
export async function isPassPhrase(folder: string, phrase: string): Promise<boolean> {
  const entry = readEntry(folder);
  if (!entry) return false;
  const hash = await hashOf(phrase, Buffer.from(entry.salt, 'base64'), entry.cost);
  return timingSafeEqual(hash, Buffer.from(entry.hash, 'base64'));
}

/** What signs the sessions opened with the pass phrase that holds now; null where none has been made. */
export function sessionKey(folder: string): Buffer | null {
  const entry = readEntry(folder);
  return entry && Buffer.from(entry.sessionKey, 'base64');
}
