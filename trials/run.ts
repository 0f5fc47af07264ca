import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { newDesign } from '../src/core/design/new-design';
import { readPartLine } from '../src/core/drawer/part-line';
import { buildIfStale } from '../setup/build';
import { freePort } from '../setup/cluster';
import { intruder } from './intruder';
import { malformed } from './malformed';
import { Recorder } from './recorder';
import { Started } from './started';
import { Writer } from './writer';

/**
 * `npm run trials`: ends processes in the midst of saves, sends what nobody
 * means, and many things at once, to the application as ./start runs it, and
 * prints what was tried and what was lost. `--short` does little of each. On this
 * machine alone, and bounded.
 */
const SHORT = process.argv.includes('--short');
const KILLS = SHORT ? 1 : 10;
const MALFORMED = SHORT ? 150 : 6000;
const EDITS = SHORT ? 20 : 300;

/** How often ./start starts the application again by itself. */
const RESTARTS = 5;

type Tried = { what: string; tried: string; lost: string[] };

const pause = (milliseconds: number) => new Promise((resume) => setTimeout(resume, milliseconds));

/** Kills one thing over and over while two designs are saved and readings are taken; what was acknowledged must be there afterwards. */
async function kills(
  started: Started,
  what: string,
  kill: () => void,
  again: (time: number) => Promise<void>,
): Promise<Tried> {
  const writers = [new Writer(started.address, `${what} one`), new Writer(started.address, `${what} two`)];
  const recorder = new Recorder(started.address);
  for (const one of [...writers, recorder]) await one.begin();
  for (let time = 0; time < KILLS; time += 1) {
    await pause(300 + 700 * Math.random());
    kill();
    await again(time);
  }
  await pause(300);
  await started.answering();
  const lost = (await Promise.all([...writers, recorder].map((one) => one.lost()))).flat();
  const saves = writers.reduce((sum, { acknowledged }) => sum + acknowledged.length, 0);
  if (saves === 0) lost.push('nothing was ever saved');
  const readings = recorder.acknowledged.length;
  if (readings === 0) lost.push('no reading was ever kept');
  return {
    what: `${what} killed`,
    tried: `${KILLS} times, ${saves} saves and ${readings} readings acknowledged`,
    lost,
  };
}

async function malformedRequests(started: Started): Promise<Tried> {
  const lost: string[] = [];
  for (const { method, path: where, body, type } of fc.sample(malformed, MALFORMED)) {
    const response = await fetch(started.address + where, {
      method,
      headers: type === '' ? {} : { 'content-type': type },
      body: method === 'GET' ? undefined : body,
      signal: AbortSignal.timeout(10_000),
    }).catch((error: Error) => ({ status: 0, text: async () => error.message }));
    await response.text();
    if (response.status === 0 || response.status >= 500)
      lost.push(`${response.status} to ${method} ${where} ${type} ${body.slice(0, 200)}`);
  }
  return { what: 'malformed requests', tried: `${MALFORMED} sent`, lost };
}

/** Parts taken out by two pages at once, each change sent twice as after a lost answer: all count, and once. */
async function drawerChanges(started: Started): Promise<Tried> {
  const url = `${started.address}/api/drawer`;
  const read = readPartLine('100p 15kV cer trial x1000', randomUUID());
  if (!read.ok) throw new Error(read.reason);
  const { part } = read;
  const standing = async () => (await (await fetch(url)).json()) as { revision: number; parts: (typeof part)[] };
  const post = (body: object) =>
    fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  await post({ baseRevision: (await standing()).revision, changeId: randomUUID(), put: [part] });
  const take = async () => {
    const changeId = randomUUID();
    for (;;) {
      const { revision, parts } = await standing();
      const now = parts.find(({ id }) => id === part.id)!;
      const change = { baseRevision: revision, changeId, put: [{ ...now, count: now.count - 1 }] };
      const [one, other] = await Promise.all([post(change), post(change)]);
      if (one.ok || other.ok) return;
    }
  };
  const each = Math.ceil(EDITS / 4);
  const page = async () => {
    for (let time = 0; time < each; time += 1) await take();
  };
  await Promise.all([page(), page()]);
  const left = (await standing()).parts.find(({ id }) => id === part.id)!.count;
  const wanted = 1000 - 2 * each;
  return {
    what: 'drawer, two pages at once',
    tried: `${2 * each} changes, each sent twice`,
    lost: left === wanted ? [] : [`${left} are left, must be ${wanted}`],
  };
}

/** Edits one after the other, and how long a request beside them has to wait. */
async function load(started: Started): Promise<Tried> {
  const writer = new Writer(started.address, 'load');
  await writer.begin();
  const waits: number[] = [];
  while (writer.acknowledged.length < EDITS) {
    const asked = performance.now();
    await (await fetch(`${started.address}/api/health`)).text();
    waits.push(performance.now() - asked);
    await pause(20);
  }
  const lost = await writer.lost();
  waits.sort((a, b) => a - b);
  const at = (share: number) => waits[Math.floor(share * (waits.length - 1))].toFixed(0);
  return {
    what: 'edits one after the other',
    tried: `${writer.acknowledged.length} saved; beside them a request waited ${at(0.5)} ms (median), ${at(0.95)} ms (95 %), ${at(1)} ms (longest)`,
    lost,
  };
}

async function main(): Promise<void> {
  await buildIfStale();
  const folder = mkdtempSync(path.join(tmpdir(), 'eager-ladder-trials-'));
  chmodSync(folder, 0o755);
  const started = new Started(folder, await freePort(4390));
  const told: Tried[] = [];
  const tell = async (work: Promise<Tried>) => {
    const tried = await work;
    told.push(tried);
    console.error(`${tried.what}: ${tried.tried}; ${tried.lost.length} lost`);
    for (const one of tried.lost.slice(0, 10)) console.error(`  ${one}`);
  };
  try {
    await started.start();
    const afterDatabase = async () => {
      // Its processes answer a moment longer; the next kill must meet one that was started again.
      await pause(2500);
      await started.answering();
    };
    const anew = async () => {
      // Gone before the next begins, or that would only join it.
      await pause(200);
      await started.start();
    };
    await tell(
      kills(
        started,
        'application',
        () => started.killApplication(),
        async (time) => {
          // Ended more often than it starts it again, ./start gives up, and is given anew.
          if (time % RESTARTS < RESTARTS - 1) return started.answering();
          await started.stop();
          await started.start();
        },
      ),
    );
    await tell(kills(started, 'database', () => started.killDatabase(), afterDatabase));
    await tell(kills(started, 'starter', () => started.killStarter(), anew));
    await tell(
      kills(
        started,
        'all of them',
        () => {
          started.killDatabase();
          started.killStarter();
        },
        anew,
      ),
    );
    await tell(malformedRequests(started));
    await tell(drawerChanges(started));
    await tell(load(started));
    const stillWhole = await fetch(`${started.address}/api/designs`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(newDesign('After all')),
    });
    await started.stop();
    await tell(intruder(started, folder).then((found) => ({ what: 'without the pass phrase', ...found })));
    await tell(
      Promise.resolve({
        what: 'a design made afterwards',
        tried: 'once',
        lost: stillWhole.status === 201 ? [] : [`${stillWhole.status}`],
      }),
    );
  } finally {
    await started.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  const width = Math.max(...told.map(({ what }) => what.length));
  for (const { what, tried, lost } of told)
    process.stdout.write(`${what.padEnd(width)}  lost ${lost.length}  ${tried}\n`);
  const failed = told.filter(({ lost }) => lost.length > 0).length;
  process.stdout.write(`${told.length - failed} passed, ${failed} failed\n`);
  process.exitCode = failed === 0 ? 0 : 1;
}

await main();
