import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { buildIfStale } from '../setup/build';
import { startCluster } from '../setup/cluster';
import { prepareDatabase } from '../setup/database';
import { serve } from '../setup/serve';
import { withFault } from '../src/core/bench/faults/faults';
import { faultsOf } from '../src/core/bench/faults/find';
import { shownAt, soundBenchOf } from '../src/core/bench/faults/read-through';
import { fitOf } from '../src/core/bench/fit';
import { closedReadings, statedOf, type UnknownId } from '../src/core/bench/fit-model';
import { lowSourceSchema } from '../src/core/bench/low-source';
import { provingOf } from '../src/core/bench/proving';
import { changeDesign } from '../src/core/design/change-design';
import { dividerSchema, MOST_SECTIONS, type Design } from '../src/core/design/design-schema';
import { newDesign } from '../src/core/design/new-design';
import { meterSchema } from '../src/core/drive/meter-sense';
import { finish } from '../src/core/numeric/finish';
import { halfWaveNetwork } from '../src/core/topology/half-wave';
import { loadLine, stagesCurve } from '../src/core/predict/curves';
import { predict } from '../src/core/predict/predict';
import { integrateLadder } from '../tests/reference/smooth-diode-ladder';
import { median, say, time, verdict } from './measure';
import { benchSearch } from './search';
import { benchTimeDomain } from './time-domain';
import { benchWaiting } from './waiting';

/** `npm run bench`: how fast the core and the built application are, as ratios within one run. */

const FRAME_MILLISECONDS = 16;
/** A neighbour on the machine takes frames even from a page at rest: of some rounds, the calmest tells. */
const MOTION_ROUNDS = 4;
const COLD_START_MILLISECONDS = 3000;

/** What a keystroke asks for of twelve stages with everything behind them that a design may have, beside the bare ladder. */
function benchFarEnd(): void {
  const base = changeDesign(newDesign('far end'), { path: '$.ladder.stages', value: 12 });
  const bare = { ...base, load: { kind: 'current' as const, amps: 2e-5 } };
  const section = { ohms: 1e6, henries: 0, farads: 1e-9, ratedVolts: null };
  const output = {
    seriesOhms: 11e6,
    bleederOhms: 10e9,
    divider: dividerSchema.parse({ topOhms: 10e9, footOhms: 10e6 }),
    smoothing: Array.from({ length: MOST_SECTIONS }, (_, at) => ({ ...section, henries: at % 2 })),
    electrodeFarads: 20e-12,
  };
  const load = { kind: 'corona' as const, onsetVolts: 5e3, ampsPerSquareVolt: 1e-13 };
  const everything = (design: Design) => {
    const { optimumStages } = predict(design);
    loadLine(design);
    stagesCurve(design, [design.ladder.stages, optimumStages ?? design.ladder.stages]);
  };
  const [without, whole] = [bare, { ...bare, output, load }].map((design) => time(40, () => everything(design)));
  say(
    `  12 stages with sections, divider, string, electrode and corona behind them: ${whole.toFixed(2)} ms, ${(whole / without).toFixed(2)} times the bare ladder`,
  );
}

/** The readings of a low test at all taps of twelve stages, each in the time domain, beside two stages. */
function benchProving(): void {
  const source = lowSourceSchema.parse({ kind: 'winding' });
  const meter = meterSchema.parse({});
  const [few, many] = [2, 12].map((stages) => {
    const design = changeDesign(newDesign('proving'), { path: '$.ladder.stages', value: stages });
    const high = { ...design, ladder: { ...design.ladder, capacitor: { ...design.ladder.capacitor, farads: 10e-6 } } };
    return time(3, () => finish(provingOf(high, source, meter)));
  });
  say(`  low test of 12 stages at every tap: ${many.toFixed(0)} ms, ${(many / few).toFixed(1)} times that of 2`);
}

/** What a fit of four unknowns to twelve readings takes, against one unknown. */
function benchFit(): void {
  const design = changeDesign(newDesign('fit'), { path: '$.ladder.stages', value: 6 });
  const tested = { ...design, ladder: { ...design.ladder, capacitor: { ...design.ladder.capacitor, farads: 20e-9 } } };
  const meter = meterSchema.parse({});
  const points = [12, 24].flatMap((rmsVolts) =>
    Array.from({ length: 6 }, (_, at) => ({
      kind: 'tap' as const,
      node: `B${at + 1}`,
      source: lowSourceSchema.parse({ kind: 'winding', rmsVolts, hertz: 500 }),
      meter,
    })),
  );
  const readings = (closedReadings(tested, points, statedOf(tested)) ?? []).map((volts, at) => ({
    ...points[at],
    volts,
  }));
  const taken = (ids: readonly UnknownId[]) => time(2, () => finish(fitOf(tested, readings, ids)));
  const [one, four] = [taken(['forward']), taken(['source', 'forward', 'farads', 'meter'])];
  say(
    `  fit of 4 unknowns to ${readings.length} readings: ${four.toFixed(0)} ms, ${(four / one).toFixed(1)} times that of 1`,
  );
}

/** A search for the fault of a low test with one reading at each tap, by stages. */
function benchFaults(): void {
  say('  search for the fault of a low test, by stages: ms, against 3 stages');
  const meter = meterSchema.parse({});
  const source = lowSourceSchema.parse({ kind: 'winding', hertz: 500 });
  let least: number | null = null;
  for (const stages of [3, 6, 12]) {
    const design = changeDesign(newDesign('faults'), { path: '$.ladder.stages', value: stages });
    const tested = {
      ...design,
      ladder: { ...design.ladder, capacitor: { ...design.ladder.capacitor, farads: 20e-9 } },
    };
    const test = finish(provingOf(tested, source, meter));
    const sound = soundBenchOf(tested, source, meter, test)!;
    const bench = withFault(sound.bench, { kind: 'diode-reversed', place: `D${stages}`, degree: 0 });
    const readings = test.taps.map(({ node }) => {
      const probing = { node, meter, sinceOnSeconds: null, heldSeconds: null };
      return { kind: 'tap' as const, ...probing, volts: shownAt(sound, bench, probing)! };
    });
    const taken = time(1, () => finish(faultsOf({ design: tested, source, meter, test, readings })));
    least ??= taken;
    say(`  ${String(stages).padStart(6)} ${taken.toFixed(0).padStart(7)} ${(taken / least).toFixed(1).padStart(8)}`);
  }
}

function benchCore(): void {
  say('Core: everything one keystroke asks for (prediction, both curves)');
  say('  stages      ms   against 2 stages');
  let base = 0;
  for (const stages of [2, 4, 8, 16, 20, 32]) {
    const design = {
      ...changeDesign(newDesign('bench'), { path: '$.ladder.stages', value: stages }),
      load: { kind: 'current' as const, amps: 2e-5 },
    };
    const milliseconds = time(60, () => {
      const { optimumStages } = predict(design);
      loadLine(design);
      stagesCurve(design, [stages, optimumStages ?? stages]);
    });
    base ||= milliseconds;
    say(`  ${String(stages).padStart(6)} ${milliseconds.toFixed(2).padStart(7)}   ${(milliseconds / base).toFixed(2)}`);
  }

  benchFarEnd();
  benchProving();
  benchFit();
  benchFaults();

  const stages = 1;
  const x = 0.05;
  const network = halfWaveNetwork(stages, 1);
  const loadAmps = (x * 2 * stages) / 1.5;
  const integrated = time(1, () =>
    integrateLadder(network, {
      peakVolts: 1,
      frequencyHertz: 1,
      loadAmps,
      diodeOhms: 2e-4,
      softVolts: 2e-5,
      start: [1, 2],
      cycles: 11 * stages ** 2,
    }),
  );
  const base1 = newDesign('one stage');
  const design = {
    ...base1,
    driver: { ...base1.driver, positivePeakVolts: 1, frequencyHertz: 1, seriesOhms: 0 },
    ladder: {
      ...base1.ladder,
      stages,
      capacitor: { ...base1.ladder.capacitor, farads: 1 },
      diode: { ...base1.ladder.diode, forwardVolts: 0, junctionFarads: 0 },
    },
    load: { kind: 'current' as const, amps: loadAmps },
  };
  const predicted = time(200, () => predict(design));
  say(
    `One stage settled: closed form ${predicted.toFixed(3)} ms, odex ${integrated.toFixed(0)} ms, ratio ${Math.round(integrated / predicted)}`,
  );
}

/** Time from a keystroke to the changed page, the browser's own work included, and from launch to the first usable screen. */
async function benchApplication(): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'eager-ladder-bench-'));
  chmodSync(folder, 0o755);
  await buildIfStale();
  const cluster = await startCluster(path.join(folder, 'postgres'));
  const undo: (() => Promise<void>)[] = [cluster.stop];
  try {
    await prepareDatabase(cluster.url, { demo: true });
    const launched = performance.now();
    const served = await serve(cluster.url, 4400);
    const answered = performance.now() - launched;
    undo.push(served.stop);
    const browser = await chromium.launch({
      executablePath: '/usr/bin/chromium-headless-shell',
      args: ['--no-sandbox', '--disable-gpu'],
    });
    undo.push(() => browser.close());
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
    const opening = performance.now();
    await page.goto(served.address);
    await page.getByRole('link', { name: 'Flocking applicator' }).waitFor();
    const shelf = performance.now() - opening;
    await page.getByRole('link', { name: 'Flocking applicator' }).click();
    await page.locator('[data-part]').first().waitFor();
    say(
      `Cold start to the shelf (server ${answered.toFixed(0)} ms, page ${shelf.toFixed(0)} ms): ${verdict(answered + shelf, COLD_START_MILLISECONDS)}`,
    );

    await page.getByRole('textbox', { name: 'Stages', exact: true }).fill('20');
    await page.waitForTimeout(1500);
    const strokes = await page.getByLabel('Each capacitor').evaluate(async (field: HTMLInputElement) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
      const figure = document.querySelector('[data-figure=outputMeanVolts]')!;
      const part = document.querySelector('[data-part=C40]')!;
      const figures: number[] = [];
      const picture: number[] = [];
      for (let stroke = 0; stroke < 80; stroke += 1) {
        const before = { figure: figure.textContent, label: part.getAttribute('transform') };
        set.call(field, `${560 + stroke * 4}p`);
        const start = performance.now();
        const moved = new Promise<number>((resolve) => {
          const observer = new MutationObserver(() => {
            if (part.getAttribute('transform') === before.label) return;
            observer.disconnect();
            // Style and layout count as well: reading a position makes the browser finish them.
            part.getBoundingClientRect();
            resolve(performance.now() - start);
          });
          observer.observe(part, { attributes: true });
        });
        field.dispatchEvent(new Event('input', { bubbles: true }));
        while (figure.textContent === before.figure && performance.now() - start < 200) await Promise.resolve();
        figure.getBoundingClientRect();
        figures.push(performance.now() - start);
        picture.push(
          await Promise.race([moved, new Promise<number>((resolve) => setTimeout(() => resolve(NaN), 300))]),
        );
        await new Promise((resolve) => setTimeout(resolve, 60));
      }
      return { figures: figures.slice(20), picture: picture.slice(20).filter((time) => !Number.isNaN(time)) };
    });
    say(`Keystroke to figures updated, 20 stages, median: ${verdict(median(strokes.figures), FRAME_MILLISECONDS)}`);
    say(`Keystroke to picture moved as well, in the frame after: median ${median(strokes.picture).toFixed(1)} ms`);
    // Typed on as a user does, with nothing waiting in a loop, and until the last time domain has been drawn.
    const longest = await page.getByLabel('Each capacitor').evaluate(async (field: HTMLInputElement) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
      const tasks: number[] = [];
      new PerformanceObserver((list) => tasks.push(...list.getEntries().map((entry) => entry.duration))).observe({
        type: 'longtask',
      });
      for (let stroke = 0; stroke < 40; stroke += 1) {
        set.call(field, `${600 + stroke * 4}p`);
        field.dispatchEvent(new Event('input', { bubbles: true }));
        await new Promise((resolve) => setTimeout(resolve, stroke % 8 === 7 ? 600 : 60));
      }
      await new Promise((resolve) => setTimeout(resolve, 1500));
      return tasks.reduce((a, b) => Math.max(a, b), 0);
    });
    say(
      `Longest task of the main thread over 40 keystrokes and their time domains: ${longest === 0 ? 'none over 50 ms' : `${longest.toFixed(0)} ms  OVER`}`,
    );
    await benchMotion(page);
    await benchWaiting(served.address, cluster.url);
  } finally {
    for (const step of undo.reverse()) await step();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Frames a second of the moving Climb at 20 stages, beside those of the page at rest. */
async function benchMotion(page: Page): Promise<void> {
  // As a text: a function that the compiler names would look in the page for what names it.
  const framesPerSecond = () =>
    page.evaluate<number>(`new Promise((resolve) => {
      const start = performance.now();
      let frames = 0;
      const count = (now) => {
        frames += 1;
        if (now - start < 4000) requestAnimationFrame(count);
        else resolve((1000 * frames) / (now - start));
      };
      requestAnimationFrame(count);
    })`);
  const play = page.getByRole('button', { name: 'Play' });
  const rates = new Map<string, number[]>();
  const measure = async (name: string) => rates.set(name, [...(rates.get(name) ?? []), await framesPerSecond()]);
  for (let round = 0; round < MOTION_ROUNDS; round += 1) {
    await measure('at rest');
    for (const tab of ['Waveforms', 'Charge-up', 'Discharge']) {
      await page.getByRole('tab', { name: tab }).click();
      await play.click({ timeout: 120_000 });
      await measure(tab);
      const pause = page.getByRole('button', { name: 'Pause' });
      if (await pause.isVisible()) await pause.click();
    }
  }
  const each = [...rates].map(([name, of]) => `${name} ${Math.max(...of).toFixed(1)} (${Math.min(...of).toFixed(1)})`);
  say(`Moving Climb, 20 stages, frames a second, best (and worst) of ${MOTION_ROUNDS} rounds: ${each.join(', ')}`);
}

benchCore();
benchSearch();
benchTimeDomain();
await benchApplication();
