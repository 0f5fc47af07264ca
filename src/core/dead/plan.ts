import { quantity, saying } from '../schema/fields';
import * as z from '../zod';
import { WITHOUT_OPTIMUM, predict } from '../predict/predict';
import type { Prediction } from '../predict/prediction';
import { isSmoothedNode } from '../output/elements';
import type { Design } from '../design/design-schema';
import { HAZARDOUS_DC_VOLTS } from '../output/discharge';
import { atRest } from '../topology/at-rest';
import { Falling, SERIES, smoothingPart, WINDING, type Clip, type PartFault } from '../transient/falling';
import { chargedOf, energyCase, type Charged, type ChargedBehind, type EnergyCase, type Left } from './charged';
import { faultWords } from './fault-words';
import { stepsOf, type DeadStep } from './steps';
import { LEAST_HOLD_SECONDS, OUTPUT_END, terminalsOf, touchesOf, type Touch } from './touches';
import { CurrentsMeter, currentsOf, type PartCurrents } from './currents';
import { LEADS_OHMS, stickFor, usualStickOhms, type Stick } from './stick';

/** How somebody works: of the workshop, and not of a design. */
export const planOptionsSchema = z.strictObject({
  /** What counts as low enough to go on, V dc; the usual limit or less. */
  limitVolts: z
    .number({ error: saying(`volts from 1 to ${HAZARDOUS_DC_VOLTS}`) })
    .gte(1)
    .lte(HAZARDOUS_DC_VOLTS)
    .default(HAZARDOUS_DC_VOLTS),
  /** Of the stick, Ω; null for the one that begins with a gentle current. */
  stickOhms: quantity('Ω', '1e6', 'above zero').nullable().default(null),
});
export type PlanOptions = z.output<typeof planOptionsSchema>;

export const USUAL_PLAN = planOptionsSchema.parse({});

/** What one part that has failed leaves behind, V: on the capacitor that keeps most, and at the terminal. */
type FaultOutcome = {
  fault: PartFault;
  /** The same in words. */
  message: string;
  /** After the stick was held at the terminal alone, and after the bleeder's time alone; null without a bleeder. */
  afterStick: Left;
  afterBleeder: Left | null;
};

export type DeadPlan = {
  limitVolts: number;
  stick: Stick;
  /** Through the stick at the terminal: until the terminal, and every capacitor and node, stay under the limit, s; null where they do not. */
  seconds: { terminal: number | null; everywhere: number | null };
  energies: EnergyCase[];
  /** Of every diode and capacitor while the terminal is brought to ground. */
  currents: PartCurrents[];
  /** Those that leave most behind, worst first. */
  faults: FaultOutcome[];
  /** What dielectric absorption may bring back at the terminal, at most, V. */
  reboundVolts: number;
  steps: DeadStep[];
  /** On each capacitor once all steps are done, V, nothing having failed. */
  after: EnergyCase['capacitors'];
};

/** Times as long as computed: parts are seldom as marked (common practice, no source). */
const HOLD_MARGIN = 3;
/** Of time constants after which nothing falls further. */
const LONG = 25;
/** Of a fall, the first step of one whose currents are told: short beside the topmost capacitors in series. */
const AT_ONCE = 1e-7;
const FINE = 160;
const COARSE = 10;
const WORST_SHOWN = 3;
/** Of all the work, what comes before the faults, and after them. */
const SOUND_SHARE = 0.1;
/**
 * Share of its voltage that dielectric absorption brings back over minutes, at
 * most: class-2 ceramic; film gives a tenth of it, electrolytics several times as
 * much (trade lore, from memory; measured as IEC 60384-1 describes).
 */
const ABSORPTION = 0.025;

/** What a plan has before anything fails: how the sound ladder falls, and what follows from it. */
function soundPlan(design: Design, options: PlanOptions) {
  const charged = chargedOf(design);
  const { network, volts, behind } = charged;
  const { limitVolts } = options;
  const prediction = predict(design, WITHOUT_OPTIMUM);
  const { noLoadPeakVolts } = prediction.output;
  const ohms = options.stickOhms ?? usualStickOhms(noLoadPeakVolts);
  const fall = new Falls(design, charged);
  const highest = energyCase('charged', network, volts, behind);

  const { atTerminals, shorted, since, samples, currents, long } = brought(charged, fall, ohms, limitVolts);
  const hold = (least: number) => Math.max(LEAST_HOLD_SECONDS, Math.ceil(HOLD_MARGIN * least));
  const terminalSeconds = hold(since.everywhere ?? since.terminal ?? long);
  const apart = behind.filter(
    (one, at) => one.node !== 'terminal' && behind.findIndex(({ node }) => node === one.node) === at,
  );
  const ladders = new Set(terminalsOf(network));
  // With a side that hardly climbs a node may stand higher than both together.
  const mostVolts = Math.max(noLoadPeakVolts, ...[...atRest(network, volts).values()].map(Math.abs));
  const touches = touchesOf(network, volts, mostVolts, apart).map((touch) => ({
    ...touch,
    seconds: ladders.has(touch.node)
      ? terminalSeconds
      : hold(secondsOf(touch, behind, ohms) * Math.log(Math.max(1, touch.failedVolts / limitVolts))),
  }));
  const bleedSeconds = prediction.energy.bleedSeconds;
  const energies = [highest];
  const running = prediction.capacitors.flatMap(({ loadedMeanVolts }) => loadedMeanVolts ?? []);
  const left = (id: EnergyCase['id'], state: Pick<Fallen, 'volts' | 'behind'>) =>
    energies.push(energyCase(id, network, state.volts, at(behind, state.behind)));
  const loaded = behindUnderLoad(behind, prediction.output);
  if (running.length === network.capacitors.length && loaded)
    energies.push(energyCase('running', network, running, loaded));
  if (since.terminal) left('interrupted', fall.through(atTerminals, since.terminal, FINE));
  left('shorted', shorted);
  if (bleedSeconds !== null) left('bled', fall.carriedOn(bleedSeconds));
  const reboundVolts = ABSORPTION * highest.terminalVolts;
  const steps = stepsOf(design, prediction, {
    limitVolts,
    stickOhms: ohms,
    touches,
    mostVolts,
    bleedSeconds,
    reboundVolts,
  });
  const stick = stickFor(
    design,
    ohms,
    [{ seconds: 0, volts: noLoadPeakVolts, joules: highest.joules }, ...samples],
    highest.joules,
  );
  return {
    charged,
    fall,
    limitVolts,
    ohms,
    atTerminals,
    terminalSeconds,
    touches,
    bleedSeconds,
    stick,
    seconds: since,
    energies,
    currents,
    reboundVolts,
    steps,
  };
}

/**
 * Time constant of a node through the stick, s: of what ends there, and of a node
 * behind the ladder with all that stands further on, which empties through it.
 */
function secondsOf({ node, farads }: Touch, behind: readonly ChargedBehind[], ohms: number): number {
  const own = behind.findIndex((one) => one.node === node);
  if (own < 0) return ohms * farads;
  return behind.slice(own).reduce((sum, one) => sum + (ohms + one.ohms - behind[own].ohms) * one.farads, 0);
}

/** How a sound ladder falls with its terminals brought to ground: through the stick, and at once by a bare short. */
function brought({ network, volts, behind }: Charged, fall: Falls, ohms: number, limitVolts: number) {
  const terminals = terminalsOf(network);
  const atTerminals = terminals.map((from): Clip => ({ from, to: 'ground', ohms }));
  const farads = [...network.capacitors, ...behind].reduce((sum, part) => sum + part.farads, 0);
  const long = LONG * (ohms * farads + behind.reduce((sum, one) => sum + one.ohms * one.farads, 0));
  const start = atRest(network, volts);
  const most = (values: Iterable<number>) => [...values].reduce((top, one) => Math.max(top, Math.abs(one)), 0);
  // Since when each is under the limit; a moment above it makes that anew.
  const since: { terminal: number | null; everywhere: number | null } = {
    terminal: most(terminals.map((node) => start.get(node) ?? 0)) < limitVolts ? 0 : null,
    everywhere: most([...volts, ...start.values()]) < limitVolts ? 0 : null,
  };
  const samples: { seconds: number; volts: number; joules: number }[] = [];
  const [throughStick, byShort] = [new CurrentsMeter(network, volts), new CurrentsMeter(network, volts)];
  const fromTheFirst = (clips: readonly Clip[], seconds: number, taken: (falling: Falling, elapsed: number) => void) =>
    fall.through(clips, seconds, FINE, { taken, firstPart: AT_ONCE });
  const shorted = fromTheFirst(atTerminals, long, (falling, elapsed) => {
    throughStick.take(falling, elapsed);
    const nodes = falling.nodeVolts();
    const atTerminal = most(terminals.map((node) => nodes.get(node) ?? 0));
    samples.push({ seconds: elapsed, volts: Math.abs(falling.terminalVolts()), joules: 0 });
    since.terminal = atTerminal < limitVolts ? (since.terminal ?? elapsed) : null;
    since.everywhere =
      most([...falling.capacitorVolts(), ...nodes.values()]) < limitVolts ? (since.everywhere ?? elapsed) : null;
  });
  const bare = atTerminals.map((clip): Clip => ({ ...clip, ohms: LEADS_OHMS }));
  fromTheFirst(bare, long * (LEADS_OHMS / ohms), byShort.take);
  return { atTerminals, shorted, since, samples, long, currents: currentsOf(network, throughStick, byShort) };
}

/**
 * How a design is made dead: what stands in it, what stick it takes, what to do
 * in which order, how long each takes, and what a part that has failed leaves
 * behind. From the time domain with the drive off and the load gone, each
 * capacitor at what it holds without load, capacitances as marked.
 *
 * @param design complete, as `readDesign` returns it
 * @yields how much of it is done, 0 to 1
 */
export function* deadPlanOf(design: Design, options: PlanOptions): Generator<number, DeadPlan> {
  const sound = soundPlan(design, options);
  const { charged, fall, atTerminals, terminalSeconds, bleedSeconds, stick, seconds, energies, reboundVolts, steps } =
    sound;
  const { currents } = sound;
  const { network } = charged;
  yield SOUND_SHARE;

  const left = ({ volts, terminalVolts, behind }: Fallen): Left => {
    const held = network.capacitors.map(({ id }, at) => ({ capacitor: id, volts: Math.abs(volts[at]) }));
    held.push(...charged.behind.map(({ name }, at) => ({ capacitor: name, volts: Math.abs(behind[at]) })));
    const most = held.reduce((top, one) => (one.volts > top.volts ? one : top));
    return { ...most, terminalVolts: Math.abs(terminalVolts) };
  };
  const faults: FaultOutcome[] = [];
  const candidates = faultsOf(charged, design.output);
  for (const [done, fault] of candidates.entries()) {
    const afterStick = left(fall.through(atTerminals, terminalSeconds, COARSE, { fault }));
    const afterBleeder = bleedSeconds === null ? null : left(fall.through([], bleedSeconds, COARSE, { fault }));
    faults.push({ fault, message: faultWords(fault, afterStick, afterBleeder), afterStick, afterBleeder });
    yield SOUND_SHARE + ((1 - 2 * SOUND_SHARE) * (done + 1)) / candidates.length;
  }
  const most = ({ afterStick, afterBleeder }: FaultOutcome) => Math.max(afterStick.volts, afterBleeder?.volts ?? 0);
  faults.sort((one, other) => most(other) - most(one));
  return {
    limitVolts: options.limitVolts,
    stick,
    seconds,
    energies,
    currents,
    faults: faults.filter((one) => most(one) >= options.limitVolts).slice(0, WORST_SHOWN),
    reboundVolts,
    steps,
    after: afterSteps(charged, allSteps(sound, null)),
  };
}

/** What is left after every step of a plan. */
type After = {
  /** On each capacitor, and on what stands behind the ladder, V. */
  volts: number[];
  behind: number[];
  /** The most that was read before a strap was put on, V. */
  mostReadVolts: number;
  /** The most that stood at any node as the stick came to it, V. */
  mostFoundVolts: number;
};

/**
 * What every step of a plan leaves.
 *
 * @param faults parts of which each by itself has failed while the ladder stood charged; null for none
 * @returns for each of the faults in turn
 */
export function afterAll(design: Design, options: PlanOptions, faults: readonly (PartFault | null)[]): After[] {
  const sound = soundPlan(design, options);
  return faults.map((fault) => allSteps(sound, fault));
}

/**
 * How often the stick is held on a node that still reads the limit or more, at most: between two terminals that both
 * float a bleeder feeds one from the other, with a part failed for many times as long as a sound ladder takes.
 */
const MOST_HOLDS = 12;

/** The stick on one node after the other, again where it reads the limit or more, and a strap to ground after each. */
function allSteps({ touches, fall, ohms, limitVolts }: SoundPlan, fault: PartFault | null): After {
  const strapped: string[] = [];
  let state = fall.through([], 0, COARSE, { fault });
  let mostReadVolts = 0;
  let mostFoundVolts = 0;
  for (const { node, seconds } of touches) {
    mostFoundVolts = Math.max(mostFoundVolts, Math.abs(state.nodes.get(node) ?? 0));
    let readVolts = Infinity;
    for (let time = 0; time < MOST_HOLDS && readVolts >= limitVolts; time += 1) {
      const stick = { from: node, to: 'ground', ohms };
      state = fall.through([stick], seconds, COARSE, { fault, strapped, from: state.nodes });
      readVolts = Math.abs(state.nodes.get(node) ?? 0);
    }
    mostReadVolts = Math.max(mostReadVolts, readVolts);
    strapped.push(node);
  }
  // All straps on; what they empty they empty at once.
  const { volts, behind } = fall.through([], LEAST_HOLD_SECONDS, COARSE, { fault, strapped, from: state.nodes });
  return {
    volts,
    behind,
    mostReadVolts,
    mostFoundVolts,
  };
}

const afterSteps = ({ network, behind }: Charged, after: After) =>
  energyCase('shorted', network, after.volts, at(behind, after.behind)).capacitors;

/** What stands behind the ladder, at these voltages. */
const at = (behind: readonly ChargedBehind[], volts: readonly number[]): ChargedBehind[] =>
  behind.map((one, index) => ({ ...one, volts: volts[index] }));

/** The same at the load; null where that is not known. */
function behindUnderLoad(
  behind: readonly ChargedBehind[],
  { terminalMeanVolts, smoothedMeanVolts, meanVolts, amps, dividerAmps }: Prediction['output'],
): ChargedBehind[] | null {
  if (terminalMeanVolts === null || meanVolts === null || smoothedMeanVolts === null) return null;
  const through = (amps ?? 0) + (dividerAmps ?? 0);
  return behind.map((one) => ({
    ...one,
    volts: isSmoothedNode(one.node) ? Math.max(smoothedMeanVolts, terminalMeanVolts - through * one.ohms) : meanVolts,
  }));
}

type SoundPlan = ReturnType<typeof soundPlan>;

/** Every part that may fail so that charge stays: diodes both ways; capacitors, the winding, smoothing sections and the series string open. */
function faultsOf({ network, behind }: Charged, { smoothing }: Design['output']): PartFault[] {
  if (network.capacitors.length === 0) return [];
  return [
    ...network.diodes.flatMap(({ id }): PartFault[] => [
      { part: id, how: 'open' },
      { part: id, how: 'shorted' },
    ]),
    ...network.capacitors.map(({ id }): PartFault => ({ part: id, how: 'open' })),
    { part: WINDING, how: 'open' },
    ...smoothing.map((_, index): PartFault => ({ part: smoothingPart(index + 1), how: 'open' })),
    ...(behind.some(({ node }) => node === OUTPUT_END) ? [{ part: SERIES, how: 'open' } as const] : []),
  ];
}

type Fallen = {
  volts: number[];
  terminalVolts: number;
  /** On each capacitance behind the ladder, V. */
  behind: number[];
  nodes: ReadonlyMap<string, number>;
};

type FallOptions = {
  fault?: PartFault | null;
  /** Nodes on ground by a plain lead. */
  strapped?: readonly string[];
  /** What it begins with, V against ground; charged where that is not told. */
  from?: ReadonlyMap<string, number>;
  taken?: (falling: Falling, elapsed: number) => void;
  firstPart?: number;
};

/** Falls of one charged ladder through whatever is held across it. */
class Falls {
  private readonly start: ReadonlyMap<string, number>;
  private readonly farads: number[];
  private readonly behind: readonly ChargedBehind[];

  constructor(
    private readonly design: Design,
    { network, volts, behind }: Charged,
  ) {
    const start = new Map(atRest(network, volts));
    for (const one of behind)
      if (one.node !== 'terminal') start.set(one.node, (start.get(network.return) ?? 0) + one.volts);
    this.start = start;
    this.behind = behind;
    this.farads = network.capacitors.map((part) => part.farads);
  }

  /** With nothing held on it, carried on from two lengths of step to ever shorter ones: its time is told to the second. */
  carriedOn(seconds: number): Pick<Fallen, 'volts' | 'behind'> {
    const [one, other] = [FINE, 2 * FINE].map((steps) => this.through([], seconds, steps));
    const on = (coarse: readonly number[], fine: readonly number[]) => fine.map((value, at) => 2 * value - coarse[at]);
    return { volts: on(one.volts, other.volts), behind: on(one.behind, other.behind) };
  }

  through(
    clips: readonly Clip[],
    seconds: number,
    stepsPerDecade: number,
    { from = this.start, taken, firstPart, ...changed }: FallOptions = {},
  ): Fallen {
    const falling = new Falling(this.design, this.design.output, from, seconds, {
      ...changed,
      clips,
      farads: this.farads,
    });
    falling.run(stepsPerDecade, (elapsed) => taken?.(falling, elapsed), firstPart);
    const nodes = falling.nodeVolts();
    const { network } = falling.ladder;
    const terminalVolts = falling.terminalVolts();
    const back = nodes.get(network.return) ?? 0;
    const behind = this.behind.map(({ node }) => (node === 'terminal' ? terminalVolts : (nodes.get(node) ?? 0) - back));
    return { volts: falling.capacitorVolts(), terminalVolts, behind, nodes };
  }
}
