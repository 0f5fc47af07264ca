import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { buildIfStale, ROOT } from './build';
import { startCluster, type Cluster } from './cluster';
import { prepareDatabase } from './database';
import { serve } from './serve';

type Tally = { passed: number; failed: number };
type Bench = { cluster: () => Promise<Cluster>; folder: string };

/** Runs one of our tools with its output in sight; whether it succeeded. */
function tool(name: string, words: string[], env: Record<string, string> = {}): boolean {
  const { status } = spawnSync(process.execPath, [path.join(ROOT, 'node_modules', name), ...words], {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
  });
  return status === 0;
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

/** What the borders are held in. */
const CRUISED = ['src', 'tests', 'setup', 'bench', 'command-line'];

const STEPS: Record<string, (bench: Bench) => Promise<Tally>> = {
  lint: async () =>
    sum([
      check(tool('eslint/bin/eslint.js', ['.', '--max-warnings', '0'])),
      check(tool('dependency-cruiser/bin/dependency-cruise.mjs', ['--config', '.dependency-cruiser.mjs', ...CRUISED])),
      check(tool('knip/bin/knip.js', ['--no-config-hints'])),
      check(tool('prettier/bin/prettier.cjs', ['--check', '--log-level', 'warn', '.'])),
    ]),
  types: async () => check(tool('next/dist/bin/next', ['typegen']) && tool('typescript/bin/tsc', ['--noEmit'])),
  unit: async (bench) => {
    const report = path.join(bench.folder, 'unit.json');
    const ran = tool('jest/bin/jest.js', ['--json', `--outputFile=${report}`], {
      DATABASE_URL: await freshDatabase(bench, 'unit'),
    });
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
    const databaseUrl = await freshDatabase(bench, 'browser');
    const served = await serve(databaseUrl, 4300);
    const report = path.join(bench.folder, 'browser.json');
    try {
      const ran = tool('@playwright/test/cli.js', ['test'], {
        ADDRESS: served.address,
        DATABASE_URL: databaseUrl,
        PLAYWRIGHT_JSON_OUTPUT_NAME: report,
      });
      const { stats } = JSON.parse(readFileSync(report, 'utf8'));
      return { passed: stats.expected, failed: Math.max(stats.unexpected + stats.flaky, ran ? 0 : 1) };
    } finally {
      await served.stop();
    }
  },
};

/** Runs the steps named, or all; each adds to the tally, and a step that throws counts as failed. */
async function main(names: string[]): Promise<void> {
  const unknown = names.filter((name) => !(name in STEPS));
  if (unknown.length)
    throw new Error(`No step called ${unknown.join(', ')}; there are ${Object.keys(STEPS).join(', ')}.`);
  const folder = mkdtempSync(path.join(tmpdir(), 'eager-ladder-test-'));
  chmodSync(folder, 0o755);
  const started: Promise<Cluster>[] = [];
  const bench = {
    folder,
    cluster: () => {
      if (started.length === 0) started.push(startCluster(path.join(folder, 'postgres')));
      return started[0];
    },
  };
  const tallies: Tally[] = [];
  try {
    for (const name of names.length ? names : Object.keys(STEPS)) {
      console.error(`\n== ${name}`);
      const tally = await STEPS[name](bench).catch((error: Error) => {
        console.error(error.message);
        return { passed: 0, failed: 1 };
      });
      console.error(`${name}: ${tally.passed} passed, ${tally.failed} failed`);
      tallies.push(tally);
    }
  } finally {
    for (const cluster of started) await (await cluster).stop();
    rmSync(folder, { recursive: true, force: true });
  }
  const { passed, failed } = sum(tallies);
  process.stdout.write(`${passed} passed, ${failed} failed\n`);
  process.exitCode = failed === 0 && passed > 0 ? 0 : 1;
}

await main(process.argv.slice(2));
