import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { buildIfStale, ROOT } from './build';
import { startCluster, type Cluster } from './cluster';
import { prepareDatabase } from './database';
import { prepareEntry } from './entry';
import { readOptions } from './options';
import { serve, type Served } from './serve';

type Tally = { passed: number; failed: number };
/** @property only what unit and browser tests are narrowed to, in the words of their tools; all where empty */
type Bench = { cluster: () => Promise<Cluster>; folder: string; only: string[] };

/** Runs one of our tools with its output in sight; whether it succeeded. */
function tool(name: string, words: string[], env: Record<string, string> = {}): Promise<boolean> {
  const child = spawn(process.execPath, [path.join(ROOT, 'node_modules', name), ...words], {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
  });
  return new Promise((resolve, reject) => child.once('error', reject).once('exit', (code) => resolve(code === 0)));
}

const check = (succeeded: boolean): Tally => ({ passed: succeeded ? 1 : 0, failed: succeeded ? 0 : 1 });

const sum = (tallies: Tally[]): Tally => ({
  passed: tallies.reduce((total, tally) => total + tally.passed, 0),
  failed: tallies.reduce((total, tally) => total + tally.failed, 0),
});

/** Makes an empty, migrated database in the throw-away cluster. */
async function freshDatabase({ cluster }: Bench, name: string): Promise<string> {
  const { url } = await cluster();
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query(`CREATE DATABASE ${name}`);
  await client.end();
  const fresh = url.replace(/\/postgres$/, `/${name}`);
  await prepareDatabase(fresh, { demo: false });
  return fresh;
}

/** How many files of unit tests, and how many browser tests, run at once. */
const UNIT_WORKERS = 2;
const BROWSER_STAGES = 2;

/** The way in from the network, as tests reach it. */
const ON_LOOPBACK = readOptions(['--network', '--address', '127.0.0.1']);

/** What the borders are held in. */
const CRUISED = ['src', 'tests', 'setup', 'bench', 'trials', 'command-line'];

const STEPS: Record<string, (bench: Bench) => Promise<Tally>> = {
  lint: async () =>
    sum([
      check(await tool('eslint/bin/eslint.js', ['.', '--max-warnings', '0'])),
      check(await tool('prettier/bin/prettier.cjs', ['--check', '--log-level', 'warn', '.'])),
    ]),
  borders: async () =>
    sum([
      check(
        await tool('dependency-cruiser/bin/dependency-cruise.mjs', ['--config', '.dependency-cruiser.mjs', ...CRUISED]),
      ),
      check(await tool('knip/bin/knip.js', ['--no-config-hints'])),
    ]),
  types: async () =>
    check((await tool('next/dist/bin/next', ['typegen'])) && (await tool('typescript/bin/tsc', ['--noEmit']))),
  unit: async (bench) => {
    const report = path.join(bench.folder, 'unit.json');
    // Tests clear their database, so each of Jest's workers has one: see setup/unit-database.mjs.
    const databases: string[] = [];
    for (let worker = 1; worker <= UNIT_WORKERS; worker += 1)
      databases.push(await freshDatabase(bench, `unit${worker}`));
    const ran = await tool(
      'jest/bin/jest.js',
      ['--maxWorkers', String(UNIT_WORKERS), '--json', `--outputFile=${report}`, ...bench.only],
      { UNIT_DATABASES: JSON.stringify(databases) },
    );
    const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
    // A file that does not even load counts as a failure, though none of its tests ran.
    return { passed: numPassedTests, failed: Math.max(numFailedTests, numFailedTestSuites, ran ? 0 : 1) };
  },
  build: async () =>
    check(
      await buildIfStale().then(
        () => true,
        () => false,
      ),
    ),
  browser: async (bench) => {
    // Tests clear their database, so those that run beside each other have one each, and an application on it.
    const stages: { address: string; networkAddress: string; databaseUrl: string }[] = [];
    const serving: Served[] = [];
    const report = path.join(bench.folder, 'browser.json');
    try {
      for (let stage = 0; stage < BROWSER_STAGES; stage += 1) {
        const databaseUrl = await freshDatabase(bench, `browser${stage}`);
        const { entry } = await prepareEntry(ON_LOOPBACK, path.join(bench.folder, `entry${stage}`));
        const served = await serve(databaseUrl, 4300 + stage, entry);
        serving.push(served);
        stages.push({ address: served.address, networkAddress: served.networkAddresses[0], databaseUrl });
      }
      const ran = await tool('@playwright/test/cli.js', ['test', ...bench.only], {
        STAGES: JSON.stringify(stages),
        PLAYWRIGHT_JSON_OUTPUT_NAME: report,
      });
      const { stats } = JSON.parse(readFileSync(report, 'utf8'));
      return { passed: stats.expected, failed: Math.max(stats.unexpected + stats.flaky, ran ? 0 : 1) };
    } finally {
      await Promise.all(serving.map((served) => served.stop()));
    }
  },
  trials: async () => {
    // Its own count of what passed is no last word on everything.
    const child = spawn(process.execPath, ['--import', 'tsx', 'trials/run.ts', '--short'], {
      cwd: ROOT,
      stdio: ['ignore', process.stderr, process.stderr],
    });
    return check(await new Promise((resolve) => child.once('exit', (code) => resolve(code === 0))));
  },
};

/** All steps: chains in one line run beside each other, since each keeps but one core busy. */
const ALL = [[['lint'], ['types', 'borders', 'build']], [['unit']], [['browser', 'trials']]];

/**
 * Runs the steps named, or all; each adds to the tally, and a step that throws
 * counts as failed. What follows the last step's name narrows its tests.
 */
async function main(words: string[]): Promise<void> {
  const after = words.findIndex((word) => !(word in STEPS));
  const names = after < 0 ? words : words.slice(0, after);
  const only = after < 0 ? [] : words.slice(after);
  if (only.length > 0 && !['unit', 'browser'].includes(names.at(-1) ?? ''))
    throw new Error(`No step called ${only[0]}; there are ${Object.keys(STEPS).join(', ')}.`);
  const folder = mkdtempSync(path.join(tmpdir(), 'eager-ladder-test-'));
  chmodSync(folder, 0o755);
  const started: Promise<Cluster>[] = [];
  const bench = {
    folder,
    only,
    cluster: () => {
      if (started.length === 0) started.push(startCluster(path.join(folder, 'postgres')));
      return started[0];
    },
  };
  const tallies: Tally[] = [];
  const run = async (name: string) => {
    console.error(`\n== ${name}`);
    const began = performance.now();
    const tally = await STEPS[name](bench).catch((error: Error) => {
      console.error(error.message);
      return { passed: 0, failed: 1 };
    });
    const seconds = Math.round((performance.now() - began) / 1000);
    console.error(`${name}: ${tally.passed} passed, ${tally.failed} failed in ${seconds} s`);
    tallies.push(tally);
  };
  try {
    for (const beside of names.length ? names.map((name) => [[name]]) : ALL)
      await Promise.all(
        beside.map(async (chain) => {
          for (const name of chain) await run(name);
        }),
      );
  } finally {
    for (const cluster of started) await (await cluster).stop();
    rmSync(folder, { recursive: true, force: true });
  }
  const { passed, failed } = sum(tallies);
  process.stdout.write(`${passed} passed, ${failed} failed\n`);
  process.exitCode = failed === 0 && passed > 0 ? 0 : 1;
}

await main(process.argv.slice(2));
