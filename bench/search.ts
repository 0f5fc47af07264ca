import { readFileSync } from 'node:fs';
import Papa from 'papaparse';
import { requirementsSchema, baseOf, type Requirements } from '../src/core/choose/requirements';
import { choose } from '../src/core/choose/choose';
import { search } from '../src/core/choose/search';
import { stocksFor } from '../src/core/choose/stock';
import type { Design } from '../src/core/design/design-schema';
import { readDesignText } from '../src/core/design/read-design';
import { planDrawerRows } from '../src/core/drawer/drawer-rows';
import { predict, WITHOUT_OPTIMUM } from '../src/core/predict/predict';
import { toleranceOf, USUAL_SAMPLES } from '../src/core/predict/tolerance';
import { benchDesign } from '../tests/reference/bench-design';
import { median, say, time, verdict } from './measure';

const CANDIDATES_A_SECOND = 50_000;
const FIRST_MILLISECONDS = 100;
const DRAWS_MILLISECONDS = 200;

/** How fast a search tries candidates, against predicting each, and when it has the first that fits. */
function benchChoose(name: string, asked: Partial<Requirements>, from: Design | null = null): void {
  let made = 0;
  const newId = () => `10000000-0000-4000-8000-${String((made += 1)).padStart(12, '0')}`;
  const { data } = Papa.parse<string[]>(readFileSync('demo/drawer.csv', 'utf8').trim());
  const parts = planDrawerRows(data, [], newId).rows.map(({ part }) => part);
  const requirements = requirementsSchema.parse({ target: { volts: 20e3, amps: 40e-6 }, ...asked });
  const base = baseOf(requirements, from);
  const task = { requirements, base, stocks: stocksFor(requirements, base, { parts, uses: [] }, null) };
  const firsts: number[] = [];
  const rates: number[] = [];
  let evaluated = 0;
  let fitting = 0;
  for (let run = 0; run < 5; run += 1) {
    const begun = performance.now();
    let first: number | null = null;
    for (const state of search(task)) {
      if (first === null && state.fitting > 0) first = performance.now() - begun;
      ({ evaluated, fitting } = state);
    }
    firsts.push(first ?? NaN);
    rates.push((1000 * evaluated) / (performance.now() - begun));
  }
  const begun = performance.now();
  const running = choose(task);
  let step = running.next();
  while (!step.done) step = running.next();
  const whole = performance.now() - begun;
  const [row] = step.value.rows;
  const each = row ? time(20, () => predict(row.design, WITHOUT_OPTIMUM)) : NaN;
  const rate = median(rates);
  say(
    `Choose, ${name}: ${evaluated} evaluated, what is passed over in one go included, ${fitting} fit; ${Math.round(rate / 1000)} thousand a second, ` +
      `${(rate / CANDIDATES_A_SECOND).toFixed(1)} times the ${CANDIDATES_A_SECOND / 1000} thousand wanted${rate < CANDIDATES_A_SECOND ? '  UNDER' : ''}, ` +
      `${Math.round((rate * each) / 1000)} times as fast as predicting each; first that fits: ${verdict(median(firsts), FIRST_MILLISECONDS)}; ` +
      `with the best predicted whole ${(whole / 1000).toFixed(1)} s`,
  );
}

export function benchSearch(): void {
  benchChoose('drawer, half-wave', { topologies: ['half-wave'] });
  benchChoose('drawer, three topologies, drive turned down', {
    topologies: ['half-wave', 'full-wave', 'bipolar'],
    turnDown: true,
  });
  benchChoose('any value, two topologies, drive turned down', {
    topologies: ['half-wave', 'full-wave'],
    turnDown: true,
    parts: 'any',
  });
  const read = readDesignText(readFileSync('demo/flocking-applicator.ladder.json', 'utf8'));
  if (!read.ok || !read.design.target) throw new Error('The demo design cannot be read.');
  benchChoose(
    'drawer, as many as it takes, on a resonant push-pull turned down',
    {
      target: { ...read.design.target, polarity: read.design.ladder.polarity },
      parts: 'drawer-or-buy',
      turnDown: true,
    },
    read.design,
  );
  const design = benchDesign({
    driver: { positivePeakVolts: 5000, frequencyHertz: 30e3, seriesOhms: 10e3 },
    ladder: { stages: 8, capacitor: { farads: 1e-9 } },
    diode: { forwardVolts: 20, junctionFarads: 1e-12 },
    load: { kind: 'current', amps: 40e-6 },
  });
  const draws = time(9, () => {
    const drawing = toleranceOf(design, 1, USUAL_SAMPLES, 100e-6);
    while (!drawing.next().done);
  });
  say(
    `Tolerance, ${USUAL_SAMPLES} draws, shares and the load line's band, 8 stages: ${verdict(draws, DRAWS_MILLISECONDS)}`,
  );
}
