import { recorded } from './recorded';
import type { LadderNetwork } from '../../src/core/topology/network';
import { fromKnownNodes } from './smooth-diode-ladder';
import { Solver } from './odex';

/** A ladder on one winding, its diodes soft, a resistance across its output. */
type Ladder = {
  network: LadderNetwork;
  diodeOhms: number;
  forwardVolts: number;
  softVolts: number;
  loadOhms: number;
  /** Capacitor voltages to start from, V. */
  start: readonly number[];
};

/** Two windings on one core by their own equations, L [i1', i2'] = [v1, v2], and what loses energy beside them. */
type Windings = {
  primaryHenries: number;
  secondaryHenries: number;
  coupling: number;
  secondaryOhms: number;
  secondaryFarads: number;
  /** Across the leakage as seen from the secondary, and across the primary. */
  leakageDampingOhms: number;
  primaryDampingOhms: number;
};

type Flyback = Windings & {
  kind: 'flyback';
  volts: number;
  hertz: number;
  duty: number;
  switchFarads: number;
  switchOhms: number;
  bodyVolts: number;
  clampVolts: number | null;
  clampOhms: number;
  /** In series across the switch, if any. */
  snubber?: { farads: number; ohms: number };
};

type PushPull = Windings & {
  kind: 'push-pull';
  volts: number;
  chokeHenries: number;
  tankFarads: number;
  switchOhms: number;
  /** Drawn by the gates at all times, A. */
  gateAmps: number;
  /** The tank's expected peak and the choke's mean, to start from. */
  startVolts: number;
  startAmps: number;
};

/** Switches that hold a primary at so many volts one way round and the other, through a resistance. */
type Inverter = Windings & {
  kind: 'inverter';
  primaryVolts: number;
  hertz: number;
  ohms: number;
  /** Current of the supply over that of the primary. */
  drawn: number;
};

/**
 * A switch that opens when the core's current is more than a base that hangs on the supply through a feedback winding
 * holds, and closes when that winding, which goes with the core, no longer pulls the base down.
 */
type BlockingOscillator = Windings & {
  kind: 'blocking-oscillator';
  volts: number;
  feedback: number;
  baseOhms: number;
  baseVolts: number;
  /** Across the base resistor, if any. */
  baseFarads?: number;
  currentGain: number;
  switchOhms: number;
  switchFarads: number;
  bodyVolts: number;
  /** Time in which an end is looked for at once, s. */
  sliceSeconds: number;
};

/** A charged capacitor closed on a coil through a resistance for a time, then opened and charged again. */
type CapacitorDischarge = Windings & {
  kind: 'capacitor-discharge';
  volts: number;
  storageFarads: number;
  ohms: number;
  hertz: number;
  firedSeconds: number;
  coilFarads: number;
};

type Driver = Flyback | PushPull | Inverter | BlockingOscillator | CapacitorDischarge;

/** What a run shows; 0 for what is not read of a driver. */
type SupplyRun = {
  meanVolts: number;
  supplyAmps: number;
  switchPeakVolts: number;
  hertz: number;
  snubberWatts?: number;
};

/** Where the parts of a state stand after the ladder's capacitors. */
const FOOT = 0;
const PRIMARY = 1;
const SECONDARY = 2;
const DRIVER = 3;

/** What a soft diode passes, A: (s / R) ln(1 + exp(v / s)). */
export function softAmps(volts: number, ohms: number, softVolts: number): number {
  const forward = volts / softVolts;
  return (softVolts / ohms) * (forward > 30 ? forward : Math.log1p(Math.exp(forward)));
}

/** Charge a ladder takes at its foot, and how its capacitors change, by the laws of its elements. */
export function ladderLaws({ network, diodeOhms, forwardVolts, softVolts, loadOhms }: Omit<Ladder, 'start'>) {
  const index = new Map(network.nodes.map((node, at) => [node.id, at]));
  const [source] = network.sources;
  const branches = fromKnownNodes(network, [source.node]).map((branch) => ({
    ...branch,
    near: index.get(branch.near)!,
    far: index.get(branch.far)!,
  }));
  const diodes = network.diodes.map((part) => ({ anode: index.get(part.anode)!, cathode: index.get(part.cathode)! }));
  const [foot, output, back] = [source.node, network.output, network.return].map((id) => index.get(id)!);
  const volts = new Array<number>(network.nodes.length);
  const inflow = new Array<number>(network.nodes.length);
  return (state: readonly number[], footVolts: number, change: number[]): { taken: number; outputVolts: number } => {
    volts.fill(0);
    inflow.fill(0);
    volts[foot] = footVolts;
    for (const { near, far, capacitor, sign } of branches) volts[far] = volts[near] + sign * state[capacitor];
    const outputVolts = volts[output] - volts[back];
    inflow[output] -= outputVolts / loadOhms;
    inflow[back] += outputVolts / loadOhms;
    for (const { anode, cathode } of diodes) {
      const amps = softAmps(volts[anode] - volts[cathode] - forwardVolts, diodeOhms, softVolts);
      inflow[anode] -= amps;
      inflow[cathode] += amps;
    }
    for (let at = branches.length - 1; at >= 0; at -= 1) {
      const { near, far, capacitor, sign } = branches[at];
      change[capacitor] = (sign * inflow[far]) / network.capacitors[capacitor].farads;
      inflow[near] += inflow[far];
    }
    return { taken: -inflow[foot], outputVolts };
  };
}

/** Changes of both windings' currents under the voltages across them. */
function windingsLaw({ primaryHenries, secondaryHenries, coupling }: Windings) {
  const mutual = coupling * Math.sqrt(primaryHenries * secondaryHenries);
  const determinant = primaryHenries * secondaryHenries - mutual ** 2;
  return {
    ratio: mutual / primaryHenries,
    slopes: (one: number, other: number): [number, number] => [
      (secondaryHenries * one - mutual * other) / determinant,
      (primaryHenries * other - mutual * one) / determinant,
    ],
  };
}

/**
 * A whole supply integrated by odex: driver, two coupled windings, ladder and
 * load as one set of equations, switches by their resistance. A push-pull
 * changes over where its tank's voltage passes zero, found within a slice.
 *
 * @param cycles run in all, and how many of the last are measured
 */
function integrateSupply(
  driver: Driver,
  ladder: Ladder,
  { cycles, measured }: { cycles: number; measured: number },
): SupplyRun {
  switch (driver.kind) {
    case 'flyback':
      return integrateFlyback(driver, ladder, cycles, measured);
    case 'push-pull':
      return integratePushPull(driver, ladder, cycles, measured);
    case 'inverter':
      return integrateInverter(driver, ladder, cycles, measured);
    case 'blocking-oscillator':
      return integrateOscillator(driver, ladder, cycles, measured);
    case 'capacitor-discharge':
      return integrateDischarge(driver, ladder, cycles, measured);
  }
}

function solverOf(size: number, scale: number): Solver {
  const solver = new Solver(size);
  solver.absoluteTolerance = 1e-6 * scale;
  solver.relativeTolerance = 1e-5;
  solver.maxSteps = 1e9;
  return solver;
}

/**
 * A primary between supply and switch, its secondary at the foot: what its state changes by with the switch closed or
 * open. The ladder's capacitors stand first in the state, then foot, primary, secondary, drain, output and charge, and of a
 * snubber its capacitor's voltage and what its resistor has lost.
 */
function switchLaws(
  driver: Windings & Pick<Flyback, 'volts' | 'switchFarads' | 'switchOhms' | 'bodyVolts' | 'snubber'>,
  ladder: Ladder,
  beside: { clampAmps: (drain: number) => number; baseAmps: (drain: number) => number },
) {
  const count = ladder.network.capacitors.length;
  const laws = ladderLaws(ladder);
  const { ratio, slopes } = windingsLaw(driver);
  const { volts, switchFarads, switchOhms, bodyVolts, snubber } = driver;
  const [atDrain, atOutput, atCharge, atSnubber, atLoss] = [0, 1, 2, 3, 4].map((at) => count + DRIVER + at);
  const size = count + DRIVER + (snubber ? 5 : 3);
  const snubbing = snubber ? 1 / snubber.ohms : 0;
  const snubbed = (state: readonly number[]) => (snubber ? state[atSnubber] : 0);
  const leak = ratio / driver.leakageDampingOhms;
  /** The switch's end while it is closed: by the currents that meet there, its own capacitance being a short time. */
  const drainClosed = (state: readonly number[]) =>
    (state[count + PRIMARY] +
      volts / driver.primaryDampingOhms +
      leak * (ratio * volts + state[count + FOOT]) +
      snubbing * snubbed(state)) /
    (1 / switchOhms + 1 / driver.primaryDampingOhms + leak * ratio + snubbing);
  const derivative = (closed: boolean) => (_time: number, state: readonly number[]) => {
    const change = new Array<number>(size).fill(0);
    const [foot, primary, secondary] = [FOOT, PRIMARY, SECONDARY].map((at) => state[count + at]);
    const drain = closed ? drainClosed(state) : state[atDrain];
    const { taken, outputVolts } = laws(state, foot, change);
    const damped = (ratio * (drain - volts) - foot) / driver.leakageDampingOhms;
    const amps = primary + (volts - drain) / driver.primaryDampingOhms - ratio * damped;
    // The foot is the undotted end: it swings up when the primary lets go.
    [change[count + PRIMARY], change[count + SECONDARY]] = slopes(
      volts - drain,
      -foot - driver.secondaryOhms * secondary,
    );
    change[count + FOOT] = (secondary + damped - taken) / driver.secondaryFarads;
    const body = Math.max(0, -bodyVolts - drain) / switchOhms;
    const intoSnubber = snubbing * (drain - snubbed(state));
    change[atDrain] = closed ? 0 : (amps + body - beside.clampAmps(drain) - intoSnubber) / switchFarads;
    if (snubber) {
      change[atSnubber] = intoSnubber / snubber.farads;
      change[atLoss] = intoSnubber ** 2 * snubber.ohms;
    }
    change[atOutput] = outputVolts;
    change[atCharge] = amps + (closed ? beside.baseAmps(drain) : 0);
    return change;
  };
  return { count, ratio, atDrain, atOutput, atCharge, atLoss, size, drainClosed, derivative };
}

function integrateFlyback(driver: Flyback, ladder: Ladder, cycles: number, measured: number): SupplyRun {
  const { volts, hertz, duty, clampVolts, clampOhms, snubber } = driver;
  const { atDrain, atOutput, atCharge, atLoss, size, drainClosed, derivative } = switchLaws(driver, ladder, {
    clampAmps: (drain) => (clampVolts === null ? 0 : Math.max(0, drain - clampVolts) / clampOhms),
    baseAmps: () => 0,
  });
  const solver = solverOf(size, volts);
  let state: number[] = [...ladder.start, 0, 0, 0, volts, 0, 0, ...(snubber ? [volts, 0] : [])];
  let time = 0;
  let switchPeakVolts = 0;
  const period = 1 / hertz;
  const advance = (closed: boolean, seconds: number) => {
    solver.maxStepSize = seconds;
    state = solver.solve(derivative(closed), time, state, time + seconds).y;
    time += seconds;
  };
  for (let cycle = 0; cycle < cycles; cycle += 1) {
    if (cycle === cycles - measured) {
      [state[atOutput], state[atCharge]] = [0, 0];
      if (snubber) state[atLoss] = 0;
    }
    // Closed on the voltage of its capacitance, which it takes for itself.
    advance(true, duty * period);
    state[atDrain] = drainClosed(state);
    // Slices short at first, where leakage lifts the switch.
    const slices = 400;
    for (let slice = 0; slice < slices; slice += 1) {
      const [from, to] = [slice, slice + 1].map((at) => (at / slices) ** 2 * (1 - duty) * period);
      advance(false, to - from);
      if (cycle >= cycles - measured) switchPeakVolts = Math.max(switchPeakVolts, state[atDrain]);
    }
  }
  const seconds = measured * period;
  return {
    meanVolts: state[atOutput] / seconds,
    supplyAmps: state[atCharge] / seconds,
    switchPeakVolts,
    hertz,
    ...(snubber ? { snubberWatts: state[atLoss] / seconds } : {}),
  };
}

function integratePushPull(driver: PushPull, ladder: Ladder, cycles: number, measured: number): SupplyRun {
  const count = ladder.network.capacitors.length;
  const laws = ladderLaws(ladder);
  const { ratio, slopes } = windingsLaw(driver);
  const { volts, chokeHenries, tankFarads, switchOhms } = driver;
  const [atTank, atChoke, atOutput, atCharge] = [0, 1, 2, 3].map((at) => count + DRIVER + at);
  const size = count + DRIVER + 4;
  /** Which end is held: 1 the first, -1 the second. */
  let held: 1 | -1 = 1;
  const derivative = (_time: number, state: readonly number[]) => {
    const change = new Array<number>(size).fill(0);
    const [foot, primary, secondary] = [FOOT, PRIMARY, SECONDARY].map((at) => state[count + at]);
    const tank = state[atTank];
    const choke = state[atChoke];
    const { taken, outputVolts } = laws(state, foot, change);
    const damped = (ratio * tank - foot) / driver.leakageDampingOhms;
    [change[count + PRIMARY], change[count + SECONDARY]] = slopes(tank, foot - driver.secondaryOhms * secondary);
    change[count + FOOT] = (-secondary + damped - taken) / driver.secondaryFarads;
    // Half of the choke's current enters either end; the held one takes it all out again.
    const pumped = (-held * choke) / 2;
    change[atTank] = (pumped - primary - tank / driver.primaryDampingOhms - ratio * damped) / tankFarads;
    const centre = switchOhms * choke - (held * tank) / 2;
    change[atChoke] = (volts - centre) / chokeHenries;
    change[atOutput] = outputVolts;
    change[atCharge] = choke + driver.gateAmps;
    return change;
  };
  const period = 2 * Math.PI * Math.sqrt(driver.primaryHenries * tankFarads);
  const solver = solverOf(size, volts);
  const slice = period / 200;
  solver.maxStepSize = slice;
  // At a change over all of the tank's energy is in the core.
  const coreAmps = driver.startVolts * Math.sqrt(tankFarads / driver.primaryHenries);
  let state: number[] = [...ladder.start, 0, coreAmps, 0, 0, driver.startAmps, 0, 0];
  let time = 0;
  let switchPeakVolts = 0;
  let began = 0;
  const run = (seconds: number) => solver.solve(derivative, time, state, time + seconds).y;
  for (let half = 0; half < 2 * cycles; half += 1) {
    if (half === 2 * (cycles - measured)) {
      [state[atOutput], state[atCharge]] = [0, 0];
      began = time;
    }
    for (let slices = 0; ; slices += 1) {
      const next = run(slice);
      // The free end stands above the held one: the tank's voltage is against it.
      if (slices < 20 || next[atTank] * held <= 0) {
        state = next;
        time += slice;
        if (half >= 2 * (cycles - measured))
          switchPeakVolts = Math.max(switchPeakVolts, switchOhms * state[atChoke] + Math.abs(state[atTank]));
        continue;
      }
      let [low, high] = [0, slice];
      for (let halving = 0; halving < 30; halving += 1) {
        const middle = (low + high) / 2;
        if (run(middle)[atTank] * held > 0) high = middle;
        else low = middle;
      }
      state = run(high);
      time += high;
      break;
    }
    held = held === 1 ? -1 : 1;
  }
  const seconds = time - began;
  return {
    meanVolts: state[atOutput] / seconds,
    supplyAmps: state[atCharge] / seconds,
    switchPeakVolts,
    hertz: measured / seconds,
  };
}

function integrateInverter(driver: Inverter, ladder: Ladder, cycles: number, measured: number): SupplyRun {
  const count = ladder.network.capacitors.length;
  const laws = ladderLaws(ladder);
  const { ratio, slopes } = windingsLaw(driver);
  const { primaryVolts, hertz, ohms } = driver;
  const [atOutput, atCharge] = [count + DRIVER, count + DRIVER + 1];
  const size = count + DRIVER + 2;
  const derivative = (way: 1 | -1) => (_time: number, state: readonly number[]) => {
    const change = new Array<number>(size).fill(0);
    const [foot, primary, secondary] = [FOOT, PRIMARY, SECONDARY].map((at) => state[count + at]);
    const { taken, outputVolts } = laws(state, foot, change);
    // Behind the switches' resistance: straight in the primary's voltage.
    const held =
      (way * primaryVolts - ohms * (primary - (ratio * foot) / driver.leakageDampingOhms)) /
      (1 + (ohms * ratio ** 2) / driver.leakageDampingOhms);
    const damped = (ratio * held - foot) / driver.leakageDampingOhms;
    [change[count + PRIMARY], change[count + SECONDARY]] = slopes(held, foot - driver.secondaryOhms * secondary);
    change[count + FOOT] = (-secondary + damped - taken) / driver.secondaryFarads;
    change[atOutput] = outputVolts;
    change[atCharge] = way * driver.drawn * (primary + ratio * damped);
    return change;
  };
  const solver = solverOf(size, primaryVolts);
  const half = 0.5 / hertz;
  // The core swings evenly about nothing.
  let state: number[] = [...ladder.start, 0, (-primaryVolts * half) / 2 / driver.primaryHenries, 0, 0, 0];
  let time = 0;
  for (let cycle = 0; cycle < cycles; cycle += 1) {
    if (cycle === cycles - measured) [state[atOutput], state[atCharge]] = [0, 0];
    for (const way of [1, -1] as const) {
      solver.maxStepSize = half / 20;
      state = solver.solve(derivative(way), time, state, time + half).y;
      time += half;
    }
  }
  const seconds = measured / hertz;
  return { meanVolts: state[atOutput] / seconds, supplyAmps: state[atCharge] / seconds, switchPeakVolts: 0, hertz };
}

function integrateOscillator(driver: BlockingOscillator, ladder: Ladder, cycles: number, measured: number): SupplyRun {
  const { volts, feedback, baseOhms, baseVolts, baseFarads, currentGain } = driver;
  const baseAmps = (drain: number) => (volts * (1 + feedback) - feedback * drain - baseVolts) / baseOhms;
  const { count, ratio, atDrain, atOutput, atCharge, size, drainClosed, derivative } = switchLaws(driver, ladder, {
    clampAmps: () => 0,
    // The base's current passes the feedback winding too, which the primary makes good.
    baseAmps: (drain) => (1 + feedback) * baseAmps(drain),
  });
  const solver = solverOf(size, volts);
  const slice = driver.sliceSeconds;
  let state: number[] = [...ladder.start, 0, 0, 0, 0, 0, 0];
  let time = 0;
  let began = 0;
  let switchPeakVolts = 0;
  /** What the base's capacitor was left with, V, and when; the resistor empties it from then on. */
  let left = { volts: 0, time: 0 };
  const heldAt = (when: number) =>
    baseFarads === undefined ? 0 : left.volts * Math.exp(-(when - left.time) / (baseOhms * baseFarads));
  for (let cycle = 0; cycle < cycles; cycle += 1) {
    if (cycle === cycles - measured) {
      [state[atOutput], state[atCharge]] = [0, 0];
      began = time;
    }
    for (const closed of [true, false]) {
      const over = (at: readonly number[], when: number) =>
        closed
          ? at[count + PRIMARY] + ratio * at[count + SECONDARY] - currentGain * baseAmps(drainClosed(at))
          : volts - (feedback * at[count + FOOT]) / ratio - baseVolts - heldAt(when);
      const run = (seconds: number) => {
        solver.maxStepSize = seconds;
        return solver.solve(derivative(closed), time, state, time + seconds).y;
      };
      let wasUnder = closed;
      for (;;) {
        const next = run(slice);
        if (!(wasUnder && over(next, time + slice) > 0)) {
          state = next;
          time += slice;
          wasUnder = over(state, time) < 0;
          if (!closed && cycle >= cycles - measured) switchPeakVolts = Math.max(switchPeakVolts, state[atDrain]);
          continue;
        }
        let [low, high] = [0, slice];
        for (let halving = 0; halving < 30; halving += 1) {
          const middle = (low + high) / 2;
          if (over(run(middle), time + middle) > 0) high = middle;
          else low = middle;
        }
        state = run(high);
        time += high;
        break;
      }
      const across = baseOhms * baseAmps(drainClosed(state));
      if (closed) {
        state[atDrain] = drainClosed(state);
        left = { volts: across, time };
      } else if (baseFarads !== undefined) state[atCharge] += (1 + feedback) * baseFarads * (across - heldAt(time));
    }
  }
  const seconds = time - began;
  return {
    meanVolts: state[atOutput] / seconds,
    supplyAmps: state[atCharge] / seconds,
    switchPeakVolts,
    hertz: measured / seconds,
  };
}

function integrateDischarge(driver: CapacitorDischarge, ladder: Ladder, cycles: number, measured: number): SupplyRun {
  const count = ladder.network.capacitors.length;
  const laws = ladderLaws(ladder);
  const { ratio, slopes } = windingsLaw(driver);
  const { volts, storageFarads, ohms, hertz, firedSeconds, coilFarads } = driver;
  const [atStore, atCoil, atOutput] = [count + DRIVER, count + DRIVER + 1, count + DRIVER + 2];
  const size = count + DRIVER + 3;
  const derivative = (closed: boolean) => (_time: number, state: readonly number[]) => {
    const change = new Array<number>(size).fill(0);
    const [foot, primary, secondary] = [FOOT, PRIMARY, SECONDARY].map((at) => state[count + at]);
    const { taken, outputVolts } = laws(state, foot, change);
    const leak = ratio / driver.leakageDampingOhms;
    // Closed, the coil's end is what the capacitor drives through its resistance; open, its own capacitance holds it.
    const coil = closed
      ? (state[atStore] / ohms - primary + leak * foot) / (1 / ohms + 1 / driver.primaryDampingOhms + leak * ratio)
      : state[atCoil];
    const damped = (ratio * coil - foot) / driver.leakageDampingOhms;
    [change[count + PRIMARY], change[count + SECONDARY]] = slopes(coil, foot - driver.secondaryOhms * secondary);
    change[count + FOOT] = (-secondary + damped - taken) / driver.secondaryFarads;
    change[atStore] = closed ? -(state[atStore] - coil) / ohms / storageFarads : 0;
    change[atCoil] = closed ? 0 : -(primary + coil / driver.primaryDampingOhms + ratio * damped) / coilFarads;
    change[atOutput] = outputVolts;
    return change;
  };
  const solver = solverOf(size, volts);
  let state: number[] = [...ladder.start, 0, 0, 0, volts, 0, 0];
  let time = 0;
  const advance = (closed: boolean, seconds: number) => {
    solver.maxStepSize = seconds;
    state = solver.solve(derivative(closed), time, state, time + seconds).y;
    time += seconds;
  };
  for (let cycle = 0; cycle < cycles; cycle += 1) {
    if (cycle === cycles - measured) state[atOutput] = 0;
    state[atStore] = volts;
    advance(true, firedSeconds);
    advance(false, 1 / hertz - firedSeconds);
  }
  return { meanVolts: state[atOutput] / (measured / hertz), supplyAmps: 0, switchPeakVolts: 0, hertz };
}

/** The same from what was written down of it. */
export const integratedSupply = recorded('whole-supply', integrateSupply);
export { integrateSupply };
