import { quantity, saying } from '../schema/fields';
import * as z from '../zod';
import { WITHOUT_OPTIMUM, predict } from '../predict/predict';
import type { Design } from '../design/design-schema';
import { acrossOhms } from '../output/elements';
import { HAZARDOUS_DC_VOLTS } from '../output/discharge';
import { atRest } from '../topology/at-rest';
import type { LadderNetwork } from '../topology/network';
import { Falling, WINDING, type Clip, type PartFault } from '../transient/falling';
import { chargedOf, energyCase, type Charged, type EnergyCase, type Left } from './charged';
import { faultWords } from './fault-words';
import { stepsOf, type DeadStep } from './steps';
import { stickFor, usualStickOhms, type Stick } from './stick';

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
  /** Those that leave most behind, worst first. */
  faults: FaultOutcome[];
  /** What dielectric absorption may bring back at the terminal, at most, V. */
  reboundVolts: number;
  steps: DeadStep[];
  /** On each capacitor once all steps are done, V, nothing having failed. */
  after: EnergyCase['capacitors'];
};

/** How long one would hold a stick at least, s (common practice, no source). */
const LEAST_HOLD_SECONDS = 2;
/** Times as long as computed: parts are seldom as marked (common practice, no source). */
const HOLD_MARGIN = 3;
/** Of time constants after which nothing falls further. */
const LONG = 25;
/** A plain lead clipped on, with its contacts, Ω. */
const STRAP_OHMS = 0.1;
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
  const { network, volts } = charged;
  const { limitVolts } = options;
  const prediction = predict(design, WITHOUT_OPTIMUM);
  const { noLoadPeakVolts } = prediction.output;
  const ohms = options.stickOhms ?? usualStickOhms(noLoadPeakVolts);
  const fall = new Falls(design, charged);
  const highest = energyCase('charged', network, volts);

  const atTerminal: Clip = { from: network.output, to: network.return, ohms };
  const long = LONG * ohms * network.capacitors.reduce((sum, part) => sum + part.farads, 0);
  const samples = [{ seconds: 0, volts: noLoadPeakVolts, joules: highest.joules }];
  // Since when each is under the limit; a moment above it makes that anew.
  const start = { terminal: Math.abs(highest.terminalVolts), everywhere: mostOf(network, volts) };
  const since: { terminal: number | null; everywhere: number | null } = {
    terminal: start.terminal < limitVolts ? 0 : null,
    everywhere: start.everywhere < limitVolts ? 0 : null,
  };
  const shorted = fall.through([atTerminal], long, FINE, null, (falling, elapsed) => {
    const terminal = Math.abs(falling.terminalVolts());
    samples.push({ seconds: elapsed, volts: terminal, joules: 0 });
    since.terminal = terminal < limitVolts ? (since.terminal ?? elapsed) : null;
    since.everywhere = mostOfAll(falling) < limitVolts ? (since.everywhere ?? elapsed) : null;
  });
  const hold = (least: number) => Math.max(LEAST_HOLD_SECONDS, Math.ceil(HOLD_MARGIN * least));
  const holds = {
    terminal: hold(since.everywhere ?? since.terminal ?? long),
    each: network.capacitors.map((part, at) =>
      hold(ohms * part.farads * Math.log(Math.max(1, Math.abs(volts[at]) / limitVolts))),
    ),
  };
  const bleedSeconds = prediction.energy.bleedSeconds;
  const energies = [highest];
  const running = prediction.capacitors.flatMap(({ loadedMeanVolts }) => loadedMeanVolts ?? []);
  if (running.length === network.capacitors.length) energies.push(energyCase('running', network, running));
  if (since.terminal)
    energies.push(energyCase('interrupted', network, fall.through([atTerminal], since.terminal, FINE, null).volts));
  energies.push(energyCase('shorted', network, shorted.volts));
  if (bleedSeconds !== null)
    energies.push(energyCase('bled', network, fall.through([], bleedSeconds, FINE, null).volts));
  const reboundVolts = ABSORPTION * highest.terminalVolts;
  const steps = stepsOf(design, prediction, { limitVolts, stickOhms: ohms, holds, bleedSeconds, reboundVolts });
  const stick = stickFor(design, ohms, samples, highest.joules);
  return {
    charged,
    fall,
    limitVolts,
    atTerminal,
    holds,
    bleedSeconds,
    stick,
    seconds: since,
    energies,
    reboundVolts,
    steps,
  };
}

/** The highest of any capacitor and node of a charged ladder, V. */
const mostOf = (network: LadderNetwork, volts: readonly number[]): number =>
  [...volts, ...atRest(network, volts).values()].reduce((most, one) => Math.max(most, Math.abs(one)), 0);

/** The same of one that falls, and of its terminal, V. */
const mostOfAll = (falling: Falling): number =>
  [falling.terminalVolts(), ...falling.capacitorVolts(), ...falling.nodeVolts().values()].reduce(
    (most, volts) => Math.max(most, Math.abs(volts)),
    0,
  );

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
  const { charged, fall, atTerminal, holds, bleedSeconds, stick, seconds, energies, reboundVolts, steps } = sound;
  const { network } = charged;
  yield SOUND_SHARE;

  const left = ({ volts, terminalVolts }: Fallen): Left => {
    const at = mostAt(volts);
    return { capacitor: network.capacitors[at].id, volts: Math.abs(volts[at]), terminalVolts: Math.abs(terminalVolts) };
  };
  const faults: FaultOutcome[] = [];
  const candidates = faultsOf(charged);
  for (const [done, fault] of candidates.entries()) {
    const afterStick = left(fall.through([atTerminal], holds.terminal, COARSE, fault));
    const afterBleeder = bleedSeconds === null ? null : left(fall.through([], bleedSeconds, COARSE, fault));
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
    faults: faults.filter((one) => most(one) >= options.limitVolts).slice(0, WORST_SHOWN),
    reboundVolts,
    steps,
    after: energyCase('shorted', network, allSteps(sound, null)).capacitors,
  };
}

/**
 * What each capacitor holds after every step of a plan, V, in the network's order.
 *
 * @param faults parts of which each by itself has failed while the ladder stood charged; null for none
 * @returns for each of the faults in turn
 */
export function afterAll(design: Design, options: PlanOptions, faults: readonly (PartFault | null)[]): number[][] {
  const sound = soundPlan(design, options);
  return faults.map((fault) => allSteps(sound, fault));
}

/** Rounds over all capacitors: so many always, and so many at most where one still reads over the limit. */
const ROUNDS = 2;
const MOST_ROUNDS = 8;

/**
 * The stick at the terminal, then a strap there and the stick on each capacitor
 * from the top down, and once more: through a diode that has failed short, one that
 * is discharged later gives to one that was discharged before. Again, as the plan
 * says, for as long as one reads over the limit.
 */
function allSteps(sound: SoundPlan, fault: PartFault | null): number[] {
  const { network } = sound.charged;
  const { fall, atTerminal, holds, limitVolts } = sound;
  const strap: Clip = { ...atTerminal, ohms: STRAP_OHMS };
  let state = fall.through([atTerminal], holds.terminal, COARSE, fault);
  const isOver = () => state.volts.some((volts) => Math.abs(volts) >= limitVolts);
  for (let round = 0; round < ROUNDS || (isOver() && round < MOST_ROUNDS); round += 1)
    for (let at = network.capacitors.length - 1; at >= 0; at -= 1) {
      const stick = { from: network.capacitors[at].lower, to: network.capacitors[at].upper, ohms: atTerminal.ohms };
      state = fall.through([strap, stick], holds.each[at], COARSE, fault, undefined, state.nodes);
    }
  return state.volts;
}

type SoundPlan = ReturnType<typeof soundPlan>;

const mostAt = (volts: readonly number[]): number =>
  volts.reduce((most, one, at) => (Math.abs(one) > Math.abs(volts[most]) ? at : most), 0);

/** Every part that may fail so that charge stays: diodes both ways, capacitors and the winding open. */
function faultsOf({ network }: Charged): PartFault[] {
  if (network.capacitors.length === 0) return [];
  return [
    ...network.diodes.flatMap(({ id }): PartFault[] => [
      { part: id, how: 'open' },
      { part: id, how: 'shorted' },
    ]),
    ...network.capacitors.map(({ id }): PartFault => ({ part: id, how: 'open' })),
    { part: WINDING, how: 'open' },
  ];
}

type Fallen = { volts: number[]; terminalVolts: number; nodes: ReadonlyMap<string, number> };

/** Falls of one charged ladder through whatever is held across it. */
class Falls {
  private readonly start: ReadonlyMap<string, number>;
  private readonly farads: number[];

  constructor(
    private readonly design: Design,
    { network, volts }: Charged,
  ) {
    this.start = atRest(network, volts);
    this.farads = network.capacitors.map((part) => part.farads);
  }

  through(
    clips: readonly Clip[],
    seconds: number,
    stepsPerDecade: number,
    fault: PartFault | null,
    taken: (falling: Falling, elapsed: number) => void = () => {},
    from: ReadonlyMap<string, number> = this.start,
  ): Fallen {
    const falling = new Falling(this.design, acrossOhms(this.design.output), from, {
      clips,
      fault,
      farads: this.farads,
    });
    falling.run(seconds, stepsPerDecade, (elapsed) => taken(falling, elapsed));
    return { volts: falling.capacitorVolts(), terminalVolts: falling.terminalVolts(), nodes: falling.nodeVolts() };
  }
}
