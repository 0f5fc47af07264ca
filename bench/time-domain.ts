import v8 from 'node:v8';
import vm from 'node:vm';
import { freeNodes } from '../src/core/topology/network';
import type { Design } from '../src/core/design/design-schema';
import { ladderOfDesign } from '../src/core/operating/ladder-of-design';
import { deadPlanOf, USUAL_PLAN } from '../src/core/dead/plan';
import { predict } from '../src/core/predict/predict';
import type { Circuit } from '../src/core/transient/circuit';
import { circuitOfDesign } from '../src/core/transient/circuit-of-design';
import { measurePeriod } from '../src/core/transient/measure';
import { copyOf, emptyState, PeriodRunner, type State } from '../src/core/transient/period';
import { settle } from '../src/core/transient/steady-state';
import { Stepper } from '../src/core/transient/stepper';
import { timeGrid, type TimeGrid } from '../src/core/transient/time-grid';
import { startingState } from '../src/core/transient/settled';
import { transientOf } from '../src/core/transient/transient';
import { finish } from '../src/core/numeric/finish';
import { benchDesign } from '../tests/reference/bench-design';
import { integrateLadder } from '../tests/reference/smooth-diode-ladder';
import { FLYBACK, flybackFor, ladderFor, PUSH_PULL, suppliedDesign } from '../tests/reference/supplied-design';
import { integrateSupply } from '../tests/reference/whole-supply';
import { median, say, time, verdict } from './measure';

const STEPS = 200;
/** Fraction of the output within which a state counts as settled, for the engine and for plain running alike. */
const SETTLED = 1e-6;
const TOLD = '0.0001 %';
const ODEX_PERIODS = 8;
const PLAN_MILLISECONDS = 2000;

/** Half-wave stages with diode capacitances and a source resistance, loaded to a moderate droop. */
function loadedStages(stages: number): Design {
  const hertz = 20e3;
  const farads = 1e-9;
  return benchDesign({
    driver: { positivePeakVolts: 5000, frequencyHertz: hertz, seriesOhms: 25 },
    ladder: { stages, capacitor: { farads } },
    diode: { forwardVolts: 20, junctionFarads: 1e-12 },
    load: { kind: 'current', amps: (0.05 * 5000 * hertz * farads) / stages ** 2 },
  });
}

/** How fast the settled time domain is, against others and against its own growth. */
export function benchTimeDomain(): void {
  say(
    `Time domain: periodic steady state, half-wave with diode capacitances, ${STEPS} steps a period and half as many`,
  );
  say('  stages      ms  periods   over 2 stages, against n^2');
  for (let warm = 0; warm < 40; warm += 1) finish(transientOf(loadedStages(4), STEPS));
  let base = 0;
  for (const stages of [2, 4, 8, 12, 16, 30, 32]) {
    const design = loadedStages(stages);
    let periods = 0;
    const milliseconds = time(7, () => {
      periods = finish(transientOf(design, STEPS)).transient.periods;
    });
    base ||= milliseconds;
    const growth = milliseconds / base / (stages / 2) ** 2;
    const limit = { 12: 100, 30: 500 }[stages];
    say(
      `  ${String(stages).padStart(6)} ${milliseconds.toFixed(1).padStart(7)} ${String(periods).padStart(8)}   ${growth.toFixed(2)}${limit ? `   ${verdict(milliseconds, limit)}` : ''}`,
    );
  }
  againstOdex();
  againstPlainRunning();
  wholeSupplies();
  deadPlan();
  memory();
}

/** Supplies whose driver is part of the circuit: settled, against their limits, their growth and an independent integration. */
function wholeSupplies(): void {
  const kinds: {
    name: string;
    sections: typeof FLYBACK | typeof PUSH_PULL;
    stages: number[];
    limit: Record<number, number>;
  }[] = [
    { name: 'resonant push-pull', sections: PUSH_PULL, stages: [1, 2, 4, 8], limit: { 8: 500 } },
    { name: 'flyback', sections: FLYBACK, stages: [1, 2, 3], limit: { 3: 300 } },
  ];
  for (const { name, sections, stages, limit } of kinds) {
    say(`Whole supply, ${name}: driver, ladder and load as one circuit`);
    say('  stages      ms  periods   steps   over 1 stage, against n^2');
    let base = 0;
    for (const count of stages) {
      const design = suppliedDesign(sections, count, 5e6 * count);
      let run = finish(transientOf(design));
      const milliseconds = time(7, () => {
        run = finish(transientOf(design));
      });
      base ||= milliseconds;
      const most = limit[count];
      const { periods, stepsPerPeriod } = run.transient;
      say(
        `  ${String(count).padStart(6)} ${milliseconds.toFixed(1).padStart(7)} ${String(periods).padStart(8)} ${String(stepsPerPeriod).padStart(7)}   ${(milliseconds / base / count ** 2).toFixed(2)}${most ? `   ${verdict(milliseconds, most)}` : ''}`,
      );
    }
  }
  const design = suppliedDesign(FLYBACK, 1, 5e6);
  const run = finish(transientOf(design));
  const settled = time(7, () => finish(transientOf(design)));
  const began = performance.now();
  const cycles = 120;
  const { meanVolts } = integrateSupply(flybackFor(design, null, 1), ladderFor(design, run), { cycles, measured: 20 });
  const integrated = performance.now() - began;
  say(
    `  Flyback, one stage: ${settled.toFixed(1)} ms; odex ${integrated.toFixed(0)} ms for ${cycles} cycles from 5 % under it, where it is within ${Math.abs(100 * (meanVolts / run.transient.meanVolts - 1)).toFixed(2)} %; ratio ${Math.round(integrated / settled)}`,
  );
}

function againstOdex(): void {
  const stages = 4;
  const { lightLoad, unloaded } = ladderOfDesign(benchDesign({ ladder: { stages } }));
  const loadAmps = (0.1 * 2 * stages) / lightLoad.droop;
  const design = benchDesign({
    ladder: { stages },
    diode: { onOhms: 2e-4 },
    load: { kind: 'current', amps: loadAmps },
  });
  const droops = predict(design).output.droopVolts! / lightLoad.droop;
  const settledVolts = finish(transientOf(design, STEPS)).transient.meanVolts;
  const settled = time(9, () => finish(transientOf(design, STEPS)));
  const starts = {
    'closed form': unloaded.capacitorVolts.map((volts, at) => volts - droops * lightLoad.capacitorDroops[at]),
    'state without load': unloaded.capacitorVolts,
  };
  for (const [name, first] of Object.entries(starts)) {
    let start: readonly number[] = first;
    let meanVolts = 0;
    let periods = 0;
    const began = performance.now();
    do {
      const run = integrateLadder(ladderOfDesign(design).network, {
        peakVolts: 1,
        frequencyHertz: 1,
        loadAmps,
        diodeOhms: 2e-4,
        softVolts: 2e-5,
        start,
        cycles: ODEX_PERIODS - 1,
      });
      start = run.capacitorVolts;
      periods += ODEX_PERIODS;
      // Settled as odex sees it: its own mean no longer moves, a milder test than how far it is still to go; its diodes
      // are not to the digit ours.
      if (Math.abs(run.meanVolts - meanVolts) < SETTLED * settledVolts) break;
      meanVolts = run.meanVolts;
    } while (periods < 600);
    const integrated = performance.now() - began;
    say(
      `  Four stages: ${settled.toFixed(1)} ms; odex from the ${name} until its mean moves under ${TOLD} in ${ODEX_PERIODS} periods ${integrated.toFixed(0)} ms (${periods} periods), ratio ${Math.round(integrated / settled)}`,
    );
  }
}

function againstPlainRunning(): void {
  const design = loadedStages(12);
  const { ladder, circuit } = circuitOfDesign(design);
  const grid = timeGrid(ladder.drive, STEPS);
  const unloadedState = emptyState(circuit);
  for (const { id } of freeNodes(ladder.network))
    unloadedState.volts[circuit.place.get(id)!] = ladder.unloaded.nodeVolts.get(id)!;
  new Stepper(circuit).chargeAt(unloadedState.volts, grid.drive[grid.steps - 1], unloadedState.charge);
  const starts: [string, State][] = [
    ['closed form', startingState(design, ladder, circuit, grid.drive[grid.steps - 1])],
    ['state without load', unloadedState],
  ];
  const options = {
    tolerance: SETTLED,
    scaleVolts: ladder.unloaded.outputVolts,
    mostPeriods: 400,
    mostPlainPeriods: 0,
  };
  for (const [name, first] of starts) {
    const wanted = copyOf(first);
    finish(settle(circuit, grid, wanted, options, false));
    const settledVolts = meanOfPeriod(circuit, grid, wanted);
    const newton = time(7, () => finish(settle(circuit, grid, copyOf(first), options, false)));
    let plain = 0;
    const runner = new PeriodRunner(new Stepper(circuit), grid);
    const state = copyOf(first);
    let periods = 0;
    do {
      const began = performance.now();
      runner.period(state);
      plain += performance.now() - began;
      periods += 1;
    } while (Math.abs(meanOfPeriod(circuit, grid, copyOf(state)) / settledVolts - 1) > SETTLED && periods < 6000);
    say(
      `  Twelve stages from the ${name}: ${newton.toFixed(1)} ms; plain running to within the same ${TOLD} ${plain.toFixed(0)} ms (${periods} periods), ratio ${Math.round(plain / newton)}`,
    );
  }
}

function meanOfPeriod(circuit: Circuit, grid: TimeGrid, state: State): number {
  return measurePeriod(circuit, grid, state)!.measured.load.mean;
}

/** How twelve stages are made dead, with every single fault, beside one settling of the same. */
function deadPlan(): void {
  const design = loadedStages(12);
  const planned = time(5, () => finish(deadPlanOf(design, USUAL_PLAN)), 1);
  const settled = time(5, () => finish(transientOf(design, STEPS)), 1);
  say(
    `  Plan by which twelve stages are made dead: ${verdict(planned, PLAN_MILLISECONDS)}; ${(planned / settled).toFixed(1)} times one settling`,
  );
}

function memory(): void {
  v8.setFlagsFromString('--expose-gc');
  const collect = vm.runInNewContext('gc') as () => void;
  const design = loadedStages(6);
  const held: number[] = [];
  for (let solve = 1; solve <= 1000; solve += 1) {
    finish(transientOf(design, 64));
    if (solve % 100 === 0) {
      collect();
      held.push(process.memoryUsage().heapUsed / 1e6);
    }
  }
  say(
    `  Memory after 100 solves ${held[0].toFixed(1)} MB, after 1,000 ${held[held.length - 1].toFixed(1)} MB (median ${median(held).toFixed(1)} MB)`,
  );
}
