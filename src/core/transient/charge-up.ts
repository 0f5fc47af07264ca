import { isSwitchedAtAnyPhase } from '../stress/surge';
import type { Design } from '../design/design-schema';
import { mostWatts, type Drive } from '../drive/drive';
import { directFeed } from '../drive/feed';
import type { DriveFigures } from '../drive/figures';
import type { LoadedLadder } from '../ladder/loaded';
import { formatQuantity } from '../quantity/format-quantity';
import { circuitOfDesign, wholeSupplyOf } from './circuit-of-design';
import { DriverMeter } from './driver-meter';
import type { Circuit } from './circuit';
import { Recorder, type Moments } from './moments';
import { assignState, copyOf, emptyState, PeriodRunner, Sensitivity, type State, type StepListener } from './period';
import { PeriodEquation } from './period-equation';
import { isAlternating } from '../topology/network';
import { Stepper } from './stepper';
import { phasedGrid, timeGrid } from './time-grid';

/** One moment of a charge-up, at the end of a period: what the terminal shows over that period, V. */
type ChargeUpSample = { seconds: number; meanVolts: number; minVolts: number; maxVolts: number };

export type ChargeUp = {
  /** Whether every period was run, none strided over. */
  exact: boolean;
  samples: ChargeUpSample[];
  /** Time to reach fractions of the settled mean, s; null where it did not. */
  reached: { fraction: number; seconds: number | null }[];
  /** Why it ended before 95 %, when it did. */
  reason: string | null;
  /** What the energy stored in the ladder at the end takes at least at what drive or supply gives, which nothing else here counts, s; null without a limit. */
  leastSeconds: number | null;
  /** The most that a driver sees on the way, where it is part of the circuit. */
  driver: DriveFigures;
  /** Greatest currents on the way; `limited` says whether anything in the design limits them, so that they mean something. */
  surge: { sourceAmps: number; diodeAmps: number; diode: string; limited: boolean };
  /** What a gap did; null without one. */
  gap: { strikes: number; strikesPerSecond: number | null; peakAmps: number; coulombsEach: number } | null;
  periods: number;
  /** Its periods moment by moment; of many not all. */
  moments: Moments;
};

export type ChargeUpProgress = { fraction: number; seconds: number };

const STEPS = 100;
/** The same of a whole supply, whose driver rings. */
const SUPPLY_STEPS = 200;
/** Periods after a stride in which it falls into step. */
const FALLING_PERIODS = 2;
const FRACTIONS = [0.5, 0.9, 0.95];
/** Periods always run one by one, for the surge. */
const FIRST_PERIODS = 12;
/** A stride is this fraction of the time since switch-on at most. */
const STRIDE_FRACTION = 1 / 10;
const MOST_PERIODS = 60_000;
/** A gap that fires over and over is watched for so many strikes. */
const STRIKES_WATCHED = 12;
/** An arc that burns for so many periods goes on burning. */
const BURNING_PERIODS = 400;

/**
 * How a supply charges from dead: drive switched on at the start of a period,
 * every capacitor empty.
 *
 * The first periods are run one by one, for the surge into the first
 * capacitors. After them, unless exactness is asked for, the envelope is
 * followed by implicit strides of growing numbers of periods, (1/k + I - M) d =
 * P(x) - x for k at a time, each followed by a whole period: first order in the
 * stride, a few percent in time. A gap needs every step, so with one nothing is
 * strided over.
 *
 * @param design complete, as `readDesign` returns it
 * @param settledVolts mean at the terminal that counts as all the way, V
 * @param exact whether every period is to be run
 * @yields how far it has come
 * @throws RangeError for a design without a ladder, which has nothing to charge
 */
export function* chargeUpOf(
  design: Design,
  settledVolts: number,
  exact: boolean,
): Generator<ChargeUpProgress, ChargeUp> {
  const { ladder, circuit, startFluxes } = switchedOn(design);
  const { drive, network } = ladder;
  if (isAlternating(network)) throw new RangeError('chargeUpOf: no ladder to charge');
  const grid = circuit.supply ? phasedGrid(circuit.supply.phases, SUPPLY_STEPS) : timeGrid(drive, STEPS);
  const period = grid.times[grid.steps];
  const stepper = new Stepper(circuit);
  const runner = new PeriodRunner(stepper, grid);
  const recorder = new Recorder(stepper, grid.steps);
  const watch = new Watch(stepper, recorder);
  const state = emptyState(circuit);
  state.flux.set(startFluxes);
  recorder.keepStart(state.volts);
  const striding = !exact && !watch.hasGap;
  const equation = striding ? new PeriodEquation(runner, new Sensitivity(stepper)) : null;
  const envelope = new Envelope(circuit, runner, watch, { state, equation, settledVolts });
  const samples: ChargeUpSample[] = [{ seconds: 0, meanVolts: 0, minVolts: 0, maxVolts: 0 }];
  let reason: string | null = null;
  const wanted = FRACTIONS[FRACTIONS.length - 1] * settledVolts;
  while (samples[samples.length - 1].meanVolts < wanted) {
    const outcome = envelope.advance(samples[samples.length - 1].meanVolts);
    if (outcome === 'stopped') {
      reason = circuit.supply
        ? `After ${formatQuantity(envelope.seconds, 's')} the driver, its switches taken as ideal, no longer changes over: it may not start.`
        : 'A step of the computation found no solution.';
      break;
    }
    if (outcome === 'taken back') {
      samples.pop();
      recorder.dropLast();
      continue;
    }
    const { seconds } = envelope;
    samples.push({ seconds, ...watch.terminal() });
    recorder.keep(seconds);
    yield { fraction: settledVolts > 0 ? watch.terminal().meanVolts / settledVolts : 1, seconds };
    if (watch.strikes >= STRIKES_WATCHED) {
      reason = 'The gap fires over and over; watched until its rate was clear.';
      break;
    }
    if (watch.burning(period) > BURNING_PERIODS) {
      reason = 'The gap strikes and its arc does not go out: the supply keeps it burning.';
      break;
    }
    if (envelope.periods >= MOST_PERIODS) {
      reason = `It had not reached 95 % after ${envelope.elapsed} periods.`;
      break;
    }
  }
  const { periods } = envelope;
  const moments = recorder.moments();
  if (!watch.hasGap && !circuit.supply && isSwitchedAtAnyPhase(drive)) watchOtherPhases(runner, watch, circuit);
  const { diode, diodeAmps, sourceAmps } = watch.surge();
  const across = (node: number) => stepper.at(node, state.volts, grid.drive[grid.steps - 1]);
  const joules = circuit.capacitors
    .slice(0, circuit.ladderCapacitors)
    .reduce((sum, { from, to, farads }) => sum + (farads * (across(to) - across(from)) ** 2) / 2, 0);
  // A driver that is part of the circuit runs out of power there by itself, its supply's limit of current apart.
  const watts = circuit.supply ? limitWatts(design) : mostWatts(drive);
  return {
    exact: !striding,
    samples,
    reached: FRACTIONS.map((fraction) => ({ fraction, seconds: timeTo(samples, fraction * settledVolts) })),
    reason,
    leastSeconds: watts === null ? null : joules / watts,
    driver: watch.driverPeaks(),
    /** Greatest currents on the way, of a mains switch at the worst of several phases; `limited` says whether anything in the design limits them, so that they mean something. */
    surge: { sourceAmps, diodeAmps, diode: network.diodes[diode].id, limited: isLimited(drive, design) },
    gap: watch.hasGap
      ? {
          strikes: watch.strikes,
          strikesPerSecond: watch.rate(),
          peakAmps: watch.arcPeakAmps,
          coulombsEach: watch.strikes > 0 ? watch.arcCoulombs / watch.strikes : 0,
        }
      : null,
    periods,
    moments,
  };
}

/** How far a stride of a driver may end from where the rates before and after it lead, as parts of the settled output and of that way. */
const STRAYED = 0.01;
const STRAYED_OF_WAY = 0.5;
/** By how much a stride that held may grow. */
const GROWN = 1.5;
/** The same with every period run by itself. */
const REGROWN = 1.02;

/** A stride just taken: what it started from, how long it was, and how fast the output rose before it, V a period. */
type Stride = { state: State; elapsed: number; seconds: number; meanVolts: number; periods: number; rise: number };

/**
 * Follows a charge-up by periods and strides. What a driver rings with may answer to a stride in ways that no derivative
 * foresees: where the output did not come to about where it was heading, the stride is taken back and a shorter one tried.
 */
class Envelope {
  elapsed = 0;
  seconds = 0;
  /** Periods computed. */
  periods = 0;
  private longest = Infinity;
  private last: Stride | null = null;
  private readonly state: State;
  private readonly equation: PeriodEquation | null;
  private readonly settledVolts: number;

  constructor(
    private readonly circuit: Circuit,
    private readonly runner: PeriodRunner,
    private readonly watch: Watch,
    { state, equation, settledVolts }: { state: State; equation: PeriodEquation | null; settledVolts: number },
  ) {
    this.state = state;
    this.equation = equation;
    this.settledVolts = settledVolts;
  }

  /** Goes on by a period, or by a stride and the period after it; `meanVolts` is the output over the period before. */
  advance(meanVolts: number): 'gone on' | 'taken back' | 'stopped' {
    const { watch, runner, state, equation } = this;
    watch.restart();
    this.periods += 1;
    if (!equation || this.elapsed < FIRST_PERIODS) return this.counted(runner.period(state, watch.listen));
    if (!equation.evaluate(state, watch.listen)) return 'stopped';
    const rise = watch.terminal().meanVolts - meanVolts;
    if (this.strayed(meanVolts, rise)) return this.takeBack();
    const stride = Math.max(1, Math.floor(Math.min(this.longest, this.elapsed * STRIDE_FRACTION)));
    const { elapsed, seconds } = this;
    const before = this.circuit.supply && stride > 1 ? copyOf(state) : null;
    if (stride === 1 || !equation.correct(1 / (stride - 1), state)) {
      equation.readEnd(state);
      this.longest *= REGROWN;
      return this.counted(true);
    }
    this.elapsed += stride - 1;
    this.seconds += (stride - 1) * runner.seconds;
    // What a driver rings with falls into step again.
    for (let fall = 0; this.circuit.supply && fall < FALLING_PERIODS; fall += 1)
      if (this.counted(runner.period(state)) === 'stopped') return 'stopped';
    watch.restart();
    this.periods += 1;
    const outcome = this.counted(runner.period(state, watch.listen));
    if (before) this.last = { state: before, elapsed, seconds, meanVolts, periods: this.elapsed - elapsed, rise };
    return outcome;
  }

  private counted(done: boolean): 'gone on' | 'stopped' {
    if (!done) return 'stopped';
    this.elapsed += 1;
    this.seconds += this.runner.seconds;
    return 'gone on';
  }

  /** Whether the stride before this period led elsewhere than it was heading. */
  private strayed(meanVolts: number, rise: number): boolean {
    if (!this.last) return false;
    const { periods, rise: before } = this.last;
    const way = meanVolts - this.last.meanVolts;
    const heading = (periods * (before + rise)) / 2;
    if (Math.abs(way - heading) > STRAYED * this.settledVolts + STRAYED_OF_WAY * Math.abs(heading)) return true;
    this.longest = Math.max(this.longest === Infinity ? periods : this.longest, periods) * GROWN;
    this.last = null;
    return false;
  }

  private takeBack(): 'taken back' {
    const { state, elapsed, seconds, periods } = this.last!;
    assignState(this.state, state);
    this.elapsed = elapsed;
    this.seconds = seconds;
    this.longest = periods / 2;
    this.last = null;
    return 'taken back';
  }
}

/** Part of its settled swing that an oscillator starts from: what in a real one chance and unlike transistors give. */
const FIRST_SWING = 0.1;

/** The whole supply where its driver can be part of the circuit, else the ladder on its drive; fluxes it starts from, Vs. */
function switchedOn(design: Design): { ladder: LoadedLadder; circuit: Circuit; startFluxes: readonly number[] } {
  const whole = wholeSupplyOf(design);
  if (!whole || 'reason' in whole) return { ...circuitOfDesign(design), startFluxes: [] };
  return { ...whole, startFluxes: whole.supply.inductors.map(({ startFlux }) => FIRST_SWING * startFlux) };
}

/** Phases in a period at which a mains switch is tried, and periods after which its surge is over. */
const PHASES = 16;
const SURGE_PERIODS = 2;

/** The first surge from empty once more from every phase at which a switch may close. */
function watchOtherPhases(runner: PeriodRunner, watch: Watch, circuit: Circuit): void {
  const { steps } = runner.grid;
  for (let phase = 0; phase < PHASES; phase += 1) {
    const first = Math.round((phase * steps) / PHASES);
    runner.stretch(emptyState(circuit), first, SURGE_PERIODS * steps, watch.listen);
  }
}

/** What a direct supply gives at its limit of current, W; null without one. */
function limitWatts({ supply }: Design): number | null {
  if (supply === null) return null;
  const { volts, maxAmps } = directFeed(supply);
  return maxAmps === null ? null : volts * maxAmps;
}

/** Something must limit the surge for its figure to mean anything. */
function isLimited(drive: Drive, { ladder }: Design): boolean {
  return drive.seriesOhms > 0 || drive.seriesHenries > 0 || ladder.diode.onOhms > 0;
}

function timeTo(samples: readonly ChargeUpSample[], volts: number): number | null {
  const after = samples.findIndex((sample) => sample.meanVolts >= volts);
  if (after <= 0) return after === 0 ? 0 : null;
  const [one, other] = [samples[after - 1], samples[after]];
  const share = (volts - one.meanVolts) / (other.meanVolts - one.meanVolts);
  return one.seconds + share * (other.seconds - one.seconds);
}

/** Watches steps go by: the terminal over a period, greatest currents, and the gap's arc, which it strikes and quenches. */
class Watch {
  readonly hasGap: boolean;
  strikes = 0;
  arcPeakAmps = 0;
  arcCoulombs = 0;
  private mean = 0;
  private least = Infinity;
  private most = -Infinity;
  private seconds = 0;
  private clock = 0;
  private strikeTimes: number[] = [];
  private readonly diodePeaks: Float64Array;
  private sourcePeak = 0;
  private readonly circuit: Circuit;
  private readonly driver: DriverMeter | null;

  constructor(
    private readonly stepper: Stepper,
    private readonly recorder: Recorder,
  ) {
    this.circuit = stepper.circuit;
    this.hasGap = this.circuit.loads.some(({ law }) => law.gap !== null);
    this.diodePeaks = new Float64Array(this.circuit.ladderDiodes);
    this.driver = this.circuit.supply
      ? new DriverMeter(this.circuit, stepper, new Float64Array(stepper.nodes), { steps: 0, seconds: 1 })
      : null;
  }

  /** The most of what the driver's probes read. */
  driverPeaks(): DriveFigures {
    const figures: DriveFigures = {};
    const read = this.driver?.finish().probes ?? [];
    this.circuit.supply?.probes.forEach(({ figure, tells }, index) => {
      if (tells === 'most' && read[index] > -Infinity) figures[figure] = read[index];
    });
    return figures;
  }

  restart(): void {
    this.mean = 0;
    this.least = Infinity;
    this.most = -Infinity;
    this.seconds = 0;
    this.recorder.restart();
  }

  terminal(): Omit<ChargeUpSample, 'seconds'> {
    return { meanVolts: this.mean / this.seconds, minVolts: this.least, maxVolts: this.most };
  }

  surge() {
    const diodeAmps = this.diodePeaks.reduce((a, b) => Math.max(a, b), 0);
    return { diodeAmps, diode: Math.max(0, this.diodePeaks.indexOf(diodeAmps)), sourceAmps: this.sourcePeak };
  }

  /** Periods for which an arc has burnt without a break. */
  burning(period: number): number {
    return this.stepper.arcs.includes(1) ? (this.clock - this.strikeTimes[this.strikeTimes.length - 1]) / period : 0;
  }

  /** Strikes a second between the first and the last. */
  rate(): number | null {
    const times = this.strikeTimes;
    return times.length < 3 ? null : (times.length - 1) / (times[times.length - 1] - times[0]);
  }

  readonly listen: StepListener = (seconds, _step, drive, volts, inductorAmps) => {
    const { stepper, circuit } = this;
    const at = (node: number) => stepper.at(node, volts, drive);
    const across = at(circuit.output) - at(circuit.return);
    this.recorder.take(seconds, drive, volts);
    this.mean += seconds * across;
    this.seconds += seconds;
    this.clock += seconds;
    this.least = Math.min(this.least, across);
    this.most = Math.max(this.most, across);
    circuit.diodes.slice(0, circuit.ladderDiodes).forEach(({ anode, cathode, forwardVolts, onSiemens }, index) => {
      const over = at(anode) - at(cathode) - forwardVolts;
      if (over > 0) this.diodePeaks[index] = Math.max(this.diodePeaks[index], onSiemens * over);
    });
    for (let index = 0; !circuit.sources.stiff && index < circuit.sources.count; index += 1)
      this.sourcePeak = Math.max(this.sourcePeak, Math.abs(inductorAmps[index]));
    this.driver?.take({ seconds, at: 0, drive, volts, inductorAmps });
    circuit.loads.forEach((load, index) => {
      const { gap } = load.law;
      if (!gap) return;
      const overGap = at(load.from) - at(load.to);
      if (stepper.arcs[index]) {
        const amps = load.law.amps(overGap, true);
        this.arcPeakAmps = Math.max(this.arcPeakAmps, amps);
        this.arcCoulombs += amps * seconds;
        if (amps < gap.quenchAmps) stepper.arcs[index] = 0;
      } else if (overGap >= gap.strikeVolts) {
        stepper.arcs[index] = 1;
        this.strikes += 1;
        this.strikeTimes.push(this.clock);
      }
    });
  };
}
