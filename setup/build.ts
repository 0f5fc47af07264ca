import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';

export const ROOT = path.resolve(import.meta.dirname, '..');
const SOURCES = ['src', 'db', 'package-lock.json', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json'];
const STAMP = path.join(ROOT, '.next', 'built-from');

/** A digest of everything the build reads of ours. */
function sourceDigest(): string {
  const hash = createHash('sha256');
  const add = (relative: string) => {
    const full = path.join(ROOT, relative);
    if (statSync(full).isDirectory()) for (const name of readdirSync(full).sort()) add(path.join(relative, name));
    else hash.update(relative).update(readFileSync(full));
  };
  SOURCES.forEach(add);
  return hash.digest('hex');
}

/** Runs a program to its end with its output on stderr; rejects when it fails. */
export function runToEnd(program: string, words: string[], env: Record<string, string> = {}): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, words, {
      cwd: ROOT,
      stdio: ['ignore', process.stderr, process.stderr],
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
    });
    child.once('error', reject);
    child.once('exit', (code, signal) =>
      code === 0 ? resolve() : reject(new Error(`${path.basename(words[0] ?? program)} ended with ${signal ?? code}`)),
    );
  });
}

export const NEXT = path.join(ROOT, 'node_modules/next/dist/bin/next');

/** Builds the application unless what is built was made from these very sources. */
export async function buildIfStale(): Promise<void> {
  const digest = sourceDigest();
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === digest) return;
  console.error('Building the application; this takes about a minute.');
  await runToEnd(process.execPath, [NEXT, 'build']);
  writeFileSync(STAMP, digest);
}
