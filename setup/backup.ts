import { execFile, spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';
import { promisify } from 'node:util';
import { Client } from 'pg';
import { binaries } from './cluster';

const run = promisify(execFile);

/** Most copies that are kept of those made by themselves. */
const MOST_COPIES = 20;

/** PostgreSQL's programs take an address in pieces, so that no password stands in a list of processes. */
function reaching(url: string): NodeJS.ProcessEnv {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    ...process.env,
    PGHOST: hostname,
    PGPORT: port,
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
  };
}

const program = (name: string) => path.join(binaries(), name);

async function ask<T extends object>(url: string, sql: string): Promise<T[]> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<T>(sql)).rows;
  } finally {
    await client.end();
  }
}

const isThere = async (url: string, table: string) =>
  (await ask<{ there: boolean }>(url, `SELECT to_regclass('public.${table}') IS NOT NULL AS there`))[0].there;
const countOf = async (url: string, table: string) =>
  (await isThere(url, table))
    ? (await ask<{ count: number }>(url, `SELECT count(*)::int AS count FROM ${table}`))[0].count
    : 0;

export type Contents = { designs: number; parts: number };

/** How many designs and parts a database holds. */
export async function contents(url: string): Promise<Contents> {
  return { designs: await countOf(url, 'designs'), parts: await countOf(url, 'parts') };
}

/**
 * Writes the whole database into one file, in PostgreSQL's own format (custom
 * archive of pg_dump), for its owner's eyes alone. The file appears whole or not
 * at all.
 */
export async function dumpTo(url: string, file: string): Promise<void> {
  const aside = `${file}.making-${process.pid}`;
  try {
    await run(program('pg_dump'), ['--format=custom', '--no-owner', '--no-privileges', '--file', aside], {
      env: reaching(url),
    });
    chmodSync(aside, 0o600);
    renameSync(aside, file);
  } finally {
    rmSync(aside, { force: true });
  }
}

/**
 * Puts what a file of {@link dumpTo} holds in place of what a database holds:
 * all of it or nothing.
 *
 * @throws Error when the file is no such dump, or not of this application
 */
export async function restoreFrom(url: string, file: string): Promise<void> {
  const { stdout } = await run(program('pg_restore'), ['--list', file]).catch(() => {
    throw new Error(`${file} is no copy of a database, or is damaged; nothing was changed.`);
  });
  if (!/TABLE DATA public designs /.test(stdout))
    throw new Error(`${file} is a copy of another database; nothing was changed.`);
  const reading = spawn(program('pg_restore'), ['--no-owner', '--no-privileges', '--file=-', file], {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const writing = spawn(
    program('psql'),
    ['--no-psqlrc', '--quiet', '--single-transaction', '--set=ON_ERROR_STOP=1', '--file=-'],
    { env: reaching(url), stdio: ['pipe', 'ignore', 'pipe'] },
  );
  let said = '';
  for (const child of [reading, writing]) child.stderr!.on('data', (chunk) => (said += chunk));
  const ended = [reading, writing].map(
    (child) => new Promise<number | null>((resolve) => child.once('exit', (code) => resolve(code))),
  );
  // What a newer schema has besides goes as well, or bringing it up to date would find it there.
  writing.stdin!.on('error', () => undefined);
  writing.stdin!.write('DROP SCHEMA public CASCADE; CREATE SCHEMA public;\n');
  reading.stdout!.pipe(writing.stdin!, { end: false });
  const read = await ended[0];
  // A file that breaks off must not be taken for all there was.
  writing.stdin!.end(read === 0 ? '' : "\nDO $$ BEGIN RAISE EXCEPTION 'the copy breaks off'; END $$;\n");
  if (read !== 0 || (await ended[1]) !== 0)
    throw new Error(`${file} could not be put back; nothing was changed.\n${said.trim()}`);
}

/** Names of the migrations that a database has not seen; none of one that is empty, which has nothing to lose. */
export async function pendingMigrations(url: string, folder: string): Promise<string[]> {
  if (!(await isThere(url, 'migrations'))) return [];
  const done = new Set((await ask<{ name: string }>(url, 'SELECT name FROM migrations')).map(({ name }) => name));
  return readdirSync(folder)
    .map((file) => path.parse(file).name)
    .filter((name) => !done.has(name));
}

/** Keeps a copy in a folder of its own, named by what it was made before; the oldest of many go. */
export async function keepCopy(url: string, folder: string, before: string): Promise<string> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const at = new Date().toISOString().replace(/[:.]/g, '-');
  const file = path.join(folder, `${at}-before-${before}.dump`);
  await dumpTo(url, file);
  const copies = readdirSync(folder)
    .filter((name) => name.endsWith('.dump'))
    .sort();
  for (const old of copies.slice(0, -MOST_COPIES)) rmSync(path.join(folder, old));
  return file;
}

/** @throws Error where a file stands in the way */
export function refuseToOverwrite(file: string): void {
  if (existsSync(file)) throw new Error(`${file} is there already; name another, or add --overwrite.`);
}
