import fc from 'fast-check';
import { hobbyDesign } from '../../../tests/reference/hobby-design';
import { benchDesign } from '../../../tests/reference/bench-design';
import { circuitOfDesign } from './circuit-of-design';
import { copyOf, emptyState, PeriodRunner, Sensitivity, type State } from './period';
import { settle } from './steady-state';
import { Stepper } from './stepper';
import { timeGrid } from './time-grid';
import { finish } from '../numeric/finish';

const runnerOf = (design: Parameters<typeof circuitOfDesign>[0], steps = 40) => {
  const { ladder, circuit } = circuitOfDesign(design);
  const stepper = new Stepper(circuit);
  const runner = new PeriodRunner(stepper, timeGrid(ladder.drive, steps));
  const state = emptyState(circuit);
  return { ladder, circuit, stepper, runner, state };
};

describe('one step', () => {
  it('a resistor charges a capacitor as implicit Euler says', () => {
    // V1 = (V0 + h E / RC) / (1 + h / RC): handbook. The diode of a plain rectifier conducts from the start.
    const design = benchDesign({
      ladder: { stages: 0.5 },
      driver: { waveform: 'square', seriesOhms: 2 },
      load: { kind: 'open' },
    });
    const { runner, state, circuit } = runnerOf(design);
    runner.advance(state, 0.5, 1);
    expect(state.volts[circuit.output]).toBeCloseTo(0.25 / 1.25, 4);
    runner.advance(state, 0.5, 1);
    expect(state.volts[circuit.output]).toBeCloseTo((0.25 / 1.25 + 0.25) / 1.25, 4);
  });

  it('current into every free node is what its charge gains, for any hobby ladder', () => {
    fc.assert(
      fc.property(
        hobbyDesign.filter((design) => design.ladder.stages <= 8),
        (design) => {
          const { runner, state, stepper, circuit, ladder } = runnerOf(design);
          const { grid } = runner;
          for (let step = 0; step < 12; step += 1) {
            const before = state.charge.slice();
            const flux = state.flux.slice();
            const seconds = grid.seconds[step];
            const drive = grid.drive[step];
            expect(runner.advance(state, seconds, drive)).toBe(true);
            const inflow = new Float64Array(stepper.nodes);
            const flow = (from: number, to: number, coulombs: number) => {
              if (from >= 0) inflow[from] -= coulombs;
              if (to >= 0) inflow[to] += coulombs;
            };
            const at = (node: number) => stepper.at(node, state.volts, drive);
            let greatest = 0;
            const pass = (from: number, to: number, coulombs: number) => {
              greatest = Math.max(greatest, Math.abs(coulombs));
              flow(from, to, coulombs);
            };
            for (const { anode, cathode, forwardVolts, onSiemens, leakSiemens } of circuit.diodes) {
              const over = at(anode) - at(cathode);
              pass(anode, cathode, seconds * (onSiemens * Math.max(0, over - forwardVolts) + leakSiemens * over));
            }
            for (const { from, to, siemens } of circuit.resistors)
              pass(from, to, seconds * siemens * (at(from) - at(to)));
            circuit.loads.forEach((load) =>
              pass(load.from, load.to, seconds * load.law.amps(at(load.from) - at(load.to), false)),
            );
            circuit.inductors.forEach(({ terms }, index) => {
              const amps = stepper.inductorAmps(index, seconds, flux[index], drive, state.volts);
              for (const { node, weight } of terms) pass(node, -1, seconds * weight * amps);
            });
            const held = Math.max(...before.map(Math.abs), ...state.charge.map(Math.abs), greatest);
            for (let node = 0; node < stepper.nodes; node += 1)
              expect(Math.abs(state.charge[node] - before[node] - inflow[node])).toBeLessThanOrEqual(
                2e-6 * held + 1e-30,
              );
          }
          expect(ladder.network.nodes.length).toBeGreaterThan(0);
        },
      ),
      { numRuns: 40, seed: 5 },
    );
  });

  it.each<['followed' | 'damped', number]>([
    ['followed', 2],
    ['damped', 1],
  ])(
    'an inductance that rings with strays is %s: it swings to %d times the drive after ten cycles',
    (ringing, most) => {
      // Handbook: a step on L and C in series swings the capacitor to twice the step and on without end. The diode blocks
      // below 100 V; what it is bridged by and the ladder's capacitor are in series.
      const design = benchDesign({
        ladder: { stages: 0.5, strayFarads: 0.01 },
        driver: { waveform: 'square', seriesHenries: 1 },
        diode: { forwardVolts: 100 },
        load: { kind: 'open' },
      });
      const { circuit } = circuitOfDesign(design);
      const stepper = new Stepper({ ...circuit, ringing });
      const runner = new PeriodRunner(stepper, timeGrid(circuitOfDesign(design).ladder.drive, 8));
      const state = emptyState(circuit);
      const node = circuit.place.get('source')!;
      const cycle = 2 * Math.PI * Math.sqrt((1 * 0.01) / 1.01);
      const seconds = cycle / 40;
      let greatest = 0;
      for (let step = 0; step < 440; step += 1) {
        runner.advance(state, seconds, 1);
        if (step >= 400) greatest = Math.max(greatest, state.volts[node]);
      }
      expect(Math.abs(greatest / most - 1)).toBeLessThan(0.02);
    },
  );

  it('never lets two states of a passive circuit grow apart in energy', () => {
    const design = benchDesign({
      ladder: { stages: 3 },
      driver: { seriesOhms: 0.05 },
      load: { kind: 'resistance', ohms: 90 },
    });
    const { runner, state, stepper } = runnerOf(design);
    const other = copyOf(state);
    other.charge.forEach((_, node) => (other.charge[node] += 0.3 * Math.sin(3 * node + 1)));
    const apart = () => {
      const charge = state.charge.map((value, node) => value - other.charge[node]);
      const volts = charge.slice();
      stepper.voltsOf(volts);
      return charge.reduce((sum, value, node) => sum + value * volts[node], 0);
    };
    let before = apart();
    for (let period = 0; period < 10; period += 1) {
      runner.period(state);
      runner.period(other);
      const now = apart();
      expect(now).toBeLessThanOrEqual(before * (1 + 1e-6));
      before = now;
    }
  });
});

describe('the derivative of a period', () => {
  it.each<[string, Parameters<typeof benchDesign>[0]]>([
    ['half-wave with strays', { ladder: { stages: 2, strayFarads: 0.02 }, driver: { seriesOhms: 0.05 } }],
    ['full-wave', { ladder: { topology: 'full-wave', stages: 1 }, diode: { onOhms: 0.02 } }],
    ['with inductance', { ladder: { stages: 1, strayFarads: 0.02 }, driver: { seriesOhms: 0.1, seriesHenries: 0.01 } }],
    ['with recovery', { ladder: { stages: 2 }, driver: { seriesOhms: 0.05 }, diode: { recoverySeconds: 0.01 } }],
  ])('is what small changes of the start show: %s', (_name, changes) => {
    const design = benchDesign({ ...changes, load: { kind: 'resistance', ohms: 40 } });
    const { runner, stepper, state } = runnerOf(design);
    for (let period = 0; period < 25; period += 1) runner.period(state);
    const start = copyOf(state);
    const from = (node: number, change: number): State => {
      const one = copyOf(start);
      one.charge[node] += change;
      return one;
    };
    const sensitivity = new Sensitivity(stepper);
    const base = from(0, 0);
    runner.period(base, undefined, sensitivity);
    const small = 1e-7;
    for (let node = 0; node < stepper.nodes; node += 1) {
      const moved = from(node, small);
      runner.period(moved);
      for (let row = 0; row < stepper.nodes; row += 1) {
        const measured = (moved.charge[row] - base.charge[row]) / small;
        expect(Math.abs(measured - sensitivity.rows[row * sensitivity.count + node])).toBeLessThan(0.01);
      }
    }
  });
});

describe('settling', () => {
  const settled = (start: (state: State) => void) => {
    const design = benchDesign({
      ladder: { stages: 3 },
      driver: { seriesOhms: 0.03 },
      load: { kind: 'resistance', ohms: 300 },
    });
    const { circuit, runner, state, stepper } = runnerOf(design, 80);
    start(state);
    stepper.chargeAt(state.volts, 0, state.charge);
    const outcome = finish(
      settle(
        circuit,
        runner.grid,
        state,
        { tolerance: 1e-7, scaleVolts: 6, mostPeriods: 400, mostPlainPeriods: 0 },
        false,
      ),
    );
    return { outcome, volts: state.volts[circuit.output] };
  };
  it('leads to one and the same state from anywhere, and its estimate bounds the difference', () => {
    const dead = settled(() => undefined);
    const over = settled((state) => state.volts.forEach((_, node) => (state.volts[node] = 9 - node)));
    for (const { outcome } of [dead, over]) {
      expect(outcome.converged).toBe(true);
      expect(outcome.worstErrorVolts).toBeLessThanOrEqual(6e-7);
      expect(outcome.chargeResidue).toBeLessThan(1e-4);
    }
    expect(Math.abs(dead.volts - over.volts)).toBeLessThan(2e-6);
  });
  it('takes far fewer periods than running on', () =>
    expect(settled(() => undefined).outcome.periods).toBeLessThan(80));
  it('settles on a waveform sampled from a table as on the sine that was sampled', () => {
    const design = benchDesign({
      ladder: { stages: 2 },
      driver: { seriesOhms: 0.03 },
      load: { kind: 'resistance', ohms: 100 },
    });
    const { ladder, circuit } = circuitOfDesign(design);
    const volts = Array.from({ length: 200 }, (_, at) => Math.sin((2 * Math.PI * at) / 200));
    const outputs = [timeGrid(ladder.drive, 400), timeGrid({ ...ladder.drive, samples: volts }, 400)].map((grid) => {
      const { state } = runnerOf(design);
      const options = { tolerance: 1e-6, scaleVolts: 4, mostPeriods: 200, mostPlainPeriods: 0 };
      expect(finish(settle(circuit, grid, state, options, false)).converged).toBe(true);
      return state.volts[circuit.output];
    });
    expect(Math.abs(outputs[1] / outputs[0] - 1)).toBeLessThan(0.005);
  });
  it('says why it stopped when it is not given the periods', () => {
    const { circuit, runner, state } = runnerOf(
      benchDesign({ ladder: { stages: 6 }, load: { kind: 'resistance', ohms: 300 } }),
    );
    const run = settle(
      circuit,
      runner.grid,
      state,
      { tolerance: 0, scaleVolts: 12, mostPeriods: 5, mostPlainPeriods: 120 },
      false,
    );
    const outcome = finish(run);
    expect(outcome.converged).toBe(false);
    expect(outcome.reason).toMatch(/had not settled after \d+ periods/);
    expect(Number.isFinite(outcome.outputErrorVolts)).toBe(true);
  });
});
