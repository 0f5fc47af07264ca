import {
  chmodSync,
  copyFileSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { newDesign } from '../src/core/design/new-design';
import { readDesign } from '../src/core/design/read-design';
import { contents, dumpTo, keepCopy, pendingMigrations, refuseToOverwrite, restoreFrom } from './backup';
import { startCluster, type Cluster } from './cluster';
import { prepareDatabase } from './database';

jest.setTimeout(120_000);

const MIGRATIONS = path.resolve('db/migrations');
/** What ./backup wrote when there were but the first two migrations: one design of version 1 with two revisions, one part. */
const OLD = path.resolve('tests/dumps/after-0002.dump');

const folder = mkdtempSync(path.join(tmpdir(), 'ladder-backup-'));
let cluster: Cluster;
let made = 0;
beforeAll(async () => {
  chmodSync(folder, 0o755);
  cluster = await startCluster(path.join(folder, 'postgres'));
});
afterAll(async () => {
  await cluster.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function ask<T extends object>(url: string, sql: string, values: unknown[] = []): Promise<T[]> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<T>(sql, values)).rows;
  } finally {
    await client.end();
  }
}

/** A database of its own, brought up to date, with so many designs. */
async function database(designs: number): Promise<string> {
  const name = `kept${(made += 1)}`;
  await ask(cluster.url, `CREATE DATABASE ${name}`);
  const url = cluster.url.replace(/[^/]*$/, name);
  await prepareDatabase(url, { demo: false });
  for (let at = 0; at < designs; at += 1)
    await ask(url, 'INSERT INTO designs (document) VALUES ($1)', [JSON.stringify(newDesign(`Kept ${at}`))]);
  return url;
}
const everything = async (url: string) => ({
  designs: await ask(url, 'SELECT * FROM designs ORDER BY id'),
  migrations: await ask(url, 'SELECT name FROM migrations ORDER BY name'),
});

it('what was written comes back as it was, also twice and into a database that holds other things', async () => {
  const url = await database(3);
  const file = path.join(folder, 'three.dump');
  await dumpTo(url, file);
  expect(statSync(file).mode & 0o777).toBe(0o600);
  expect(() => refuseToOverwrite(file)).toThrow(/--overwrite/);
  const before = await everything(url);
  const other = await database(1);
  await ask(other, 'CREATE TABLE newer (n int)');
  for (let time = 0; time < 2; time += 1) {
    await restoreFrom(other, file);
    expect(await everything(other)).toEqual(before);
  }
  const again = path.join(folder, 'again.dump');
  await dumpTo(other, again);
  await restoreFrom(other, again);
  expect(await everything(other)).toEqual(before);
  await prepareDatabase(other, { demo: false });
  expect(await contents(other)).toEqual({ designs: 3, parts: 0 });
});

it('a file that is no copy, is another’s or breaks off changes nothing', async () => {
  const url = await database(2);
  const before = await everything(url);
  const text = path.join(folder, 'text');
  writeFileSync(text, 'nothing of the kind');
  await expect(restoreFrom(url, text)).rejects.toThrow(/no copy/);
  await ask(cluster.url, 'CREATE DATABASE foreign_one');
  const foreign = cluster.url.replace(/[^/]*$/, 'foreign_one');
  await ask(foreign, 'CREATE TABLE other (n int)');
  const theirs = path.join(folder, 'foreign.dump');
  await dumpTo(foreign, theirs);
  await expect(restoreFrom(url, theirs)).rejects.toThrow(/another database/);
  const whole = path.join(folder, 'whole.dump');
  await dumpTo(url, whole);
  const broken = path.join(folder, 'broken.dump');
  writeFileSync(broken, readFileSync(whole).subarray(0, statSync(whole).size - 400));
  await expect(restoreFrom(url, broken)).rejects.toThrow(/nothing was changed/);
  expect(await everything(url)).toEqual(before);
});

it('a copy of an older schema is brought up to date, with a copy kept before', async () => {
  const url = await database(0);
  await restoreFrom(url, OLD);
  const pending = await pendingMigrations(url, MIGRATIONS);
  expect(pending[0]).toBe('0003_drawer_revision');
  const copies = path.join(folder, 'copies');
  await prepareDatabase(url, { demo: false, copies });
  const [copy] = readdirSync(copies);
  expect(copy).toContain('before-0003_drawer_revision');
  expect(await pendingMigrations(url, MIGRATIONS)).toEqual([]);
  expect(await contents(url)).toEqual({ designs: 1, parts: 1 });
  const [{ document }] = await ask<{ document: unknown }>(url, 'SELECT document FROM designs');
  expect(readDesign(document).ok).toBe(true);
  expect(await ask(url, 'SELECT revision FROM design_revisions ORDER BY revision')).toHaveLength(2);
  await restoreFrom(url, path.join(copies, copy));
  expect(await pendingMigrations(url, MIGRATIONS)).toEqual(pending);
});

it('nothing is copied where there is nothing to bring up to date; of many copies the oldest go', async () => {
  const url = await database(0);
  const copies = path.join(folder, 'many');
  await prepareDatabase(url, { demo: false, copies });
  const first = await keepCopy(url, copies, 'test');
  for (let at = 0; at < 20; at += 1) copyFileSync(first, path.join(copies, `3000-${10 + at}-before-test.dump`));
  await keepCopy(url, copies, 'test');
  const kept = readdirSync(copies);
  expect(kept).toHaveLength(20);
  expect(kept).not.toContain(path.basename(first));
});
