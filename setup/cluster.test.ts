import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { startCluster } from './cluster';
import { alone, joinUsers } from './lock';
import { plainly } from './plainly';

jest.setTimeout(60_000);

const folders: string[] = [];
const freshFolder = () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'ladder-cluster-'));
  chmodSync(folder, 0o755);
  folders.push(folder);
  return folder;
};
afterAll(() => folders.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

const ask = async (url: string, sql: string) => {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query(sql)).rows;
  } finally {
    await client.end();
  }
};

it('creates, keeps data over a stop, is reused while it runs, and listens on loopback only', async () => {
  const folder = path.join(freshFolder(), 'postgres');
  const first = await startCluster(folder);
  expect(first.startedHere).toBe(true);
  await ask(first.url, 'CREATE TABLE kept (n int); INSERT INTO kept VALUES (42)');
  expect(await ask(first.url, 'SHOW listen_addresses')).toEqual([{ listen_addresses: '127.0.0.1' }]);
  const second = await startCluster(folder);
  expect([second.url, second.startedHere]).toEqual([first.url, false]);
  await first.stop();
  await expect(ask(first.url, 'SELECT 1')).rejects.toThrow();
  const third = await startCluster(folder);
  expect(await ask(third.url, 'SELECT n FROM kept')).toEqual([{ n: 42 }]);
  await third.stop();
  await third.stop();
});

it('recovers from being killed', async () => {
  const folder = path.join(freshFolder(), 'postgres');
  const { url } = await startCluster(folder);
  await ask(url, 'CREATE TABLE kept (n int); INSERT INTO kept VALUES (7)');
  const pid = readFileSync(path.join(folder, 'cluster/postmaster.pid'), 'utf8').split('\n')[0];
  execFileSync('kill', ['-9', pid]);
  const again = await startCluster(folder);
  expect(again.startedHere).toBe(true);
  expect(await ask(again.url, 'SELECT n FROM kept')).toEqual([{ n: 7 }]);
  await again.stop();
});

it('lets two first starts at once both succeed, through the lock that ./start takes', async () => {
  const folder = freshFolder();
  const start = () => alone(folder, 'setup', () => startCluster(path.join(folder, 'postgres')));
  const [one, other] = await Promise.all([start(), start()]);
  expect(one.url).toBe(other.url);
  expect([one.startedHere, other.startedHere].filter(Boolean)).toHaveLength(1);
  await one.stop();
});

it('runs locked work one after the other and takes over a dead process’s lock', async () => {
  const folder = freshFolder();
  const order: string[] = [];
  const work = (name: string) => async () => {
    order.push(`${name} in`);
    await new Promise((resolve) => setTimeout(resolve, 30));
    order.push(`${name} out`);
  };
  await Promise.all([alone(folder, 'x', work('a')), alone(folder, 'x', work('b'))]);
  expect(order.filter((_, index) => index % 2 === 0).map((line) => line.split(' ')[0])).toEqual(
    order.filter((_, index) => index % 2 === 1).map((line) => line.split(' ')[0]),
  );
  execFileSync('bash', ['-c', `bash -c 'echo -n $$ > "$0"' "${path.join(folder, 'x.lock')}"`]);
  await alone(folder, 'x', work('c'));
  expect(order.slice(-1)).toEqual(['c out']);
  // Its number belongs to another process by now: to this one, which was started later.
  writeFileSync(path.join(folder, 'x.lock'), `${process.pid} 1`);
  await alone(folder, 'x', work('d'));
  expect(order.slice(-1)).toEqual(['d out']);
  expect(readdirSync(folder)).not.toContain('x.lock');
});

it('tells whose lock is waited for', async () => {
  const folder = freshFolder();
  let release = () => {};
  const held = alone(folder, 'x', () => new Promise<void>((resolve) => (release = resolve)));
  let waiting: Promise<void> | null = null;
  const told = await new Promise<string>((resolve) => {
    waiting = alone(folder, 'x', async () => undefined, resolve);
  });
  expect(told).toBe(String(process.pid));
  release();
  await Promise.all([held, waiting]);
});

it('says plainly what a full disk or one that cannot be written means', () => {
  const fault = (code: string) => Object.assign(new Error(code), { code, path: '/data' });
  expect(plainly(fault('ENOSPC'))).toMatch(/disk is full/);
  expect(plainly(new Error('PostgreSQL did not start\nFATAL: No space left on device'))).toMatch(/disk is full/);
  expect(plainly(fault('EROFS'))).toMatch(/^\/data cannot be written.*EAGER_LADDER_DATA/);
  expect(plainly(new Error('another'))).toBe('another');
});

it('knows the last user to leave', () => {
  const folder = freshFolder();
  execFileSync('bash', ['-c', `mkdir -p "${folder}/users"; bash -c 'touch "$0/users/$$"' "${folder}"`]);
  expect(joinUsers(folder)()).toBe(true);
});
