import v8 from 'node:v8';
import vm from 'node:vm';
import { freeNodes } from '../src/core/ladder/network';
import type { Design } from '../src/core/design/design-schema';
import { ladderOfDesign } from '../src/core/predict/ladder-of-design';
import { predict } from '../src/core/predict/predict';
import { circuitOfDesign } from '../src/core/transient/circuit-of-design';
import { emptyState, PeriodRunner, type State } from '../src/core/transient/period';
import { Stepper } from '../src/core/transient/stepper';
import { timeGrid } from '../src/core/transient/time-grid';
import { finish, transientOf } from '../src/core/transient/transient';
import { benchDesign } from '../tests/reference/bench-design';
import { integrateLadder } from '../tests/reference/smooth-diode-ladder';
import { median, say, time, verdict } from './measure';

const STEPS = 200;

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
  memory();
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
  const cycles = 12;
  const integrated = time(
    1,
    () =>
      integrateLadder(ladderOfDesign(design).network, {
        peakVolts: 1,
        frequencyHertz: 1,
        loadAmps,
        diodeOhms: 2e-4,
        softVolts: 2e-5,
        start: unloaded.capacitorVolts.map((volts, at) => volts - droops * lightLoad.capacitorDroops[at]),
        cycles,
      }),
    0,
  );
  const settled = time(9, () => finish(transientOf(design, STEPS)));
  const whole = 11 * stages ** 2;
  say(
    `  Four stages from the closed form's state: ${settled.toFixed(1)} ms; odex ${integrated.toFixed(0)} ms for ${cycles} periods (ratio ${Math.round(integrated / settled)}), of the ${whole} that settling to 0.1 % takes (ratio about ${Math.round((integrated / settled) * (whole / cycles))})`,
  );
}

function againstPlainRunning(): void {
  const design = loadedStages(12);
  const { ladder, circuit } = circuitOfDesign(design);
  const grid = timeGrid(ladder.drive, STEPS);
  const start = (): State => {
    const state = emptyState(circuit.names.length, circuit.windings.length);
    for (const { id } of freeNodes(ladder.network))
      state.volts[circuit.place.get(id)!] = ladder.unloaded.nodeVolts.get(id)!;
    new Stepper(circuit).chargeAt(state.volts, grid.drive[grid.steps - 1], state.charge);
    return state;
  };
  const settledVolts = finish(transientOf(design, STEPS)).transient.meanVolts;
  const newton = time(9, () => finish(transientOf(design, STEPS)));
  const began = performance.now();
  const runner = new PeriodRunner(new Stepper(circuit), grid);
  const state = start();
  let periods = 0;
  let mean = 0;
  do {
    mean = 0;
    runner.period(state, (seconds, _step, _drive, volts) => {
      mean += (seconds / grid.times[grid.steps]) * volts[circuit.output];
    });
    periods += 1;
  } while (Math.abs(mean / settledVolts - 1) > 1e-3 && periods < 10_000);
  const plain = performance.now() - began;
  say(
    `  Twelve stages: ${newton.toFixed(1)} ms; plain running from the state without load to within 0.1 % ${plain.toFixed(0)} ms (${periods} periods), ratio ${Math.round(plain / newton)}`,
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
