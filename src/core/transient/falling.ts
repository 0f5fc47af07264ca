import type { Design } from '../design/design-schema';
import type { LoadedLadder } from '../ladder/loaded';
import { isOutputNode, smoothedNode, type OutputFields } from '../output/elements';
import { circuitOfDesign } from './circuit-of-design';
import type { Circuit } from './circuit';
import { assignState, copyOf, emptyState, PeriodRunner, type State } from './period';
import { Stepper } from './stepper';
import { timeGrid } from './time-grid';

/** A resistance held between two nodes of the ladder, Ω. */
export type Clip = { from: string; to: string; ohms: number };

/** One part that has failed, by its id; `winding` is the way through the winding from one of its ends to the other. */
export type PartFault = { part: string; how: 'open' | 'shorted' };

type Changed = {
  clips?: readonly Clip[];
  strapped?: readonly string[];
  fault?: PartFault | null;
  farads?: readonly number[];
};

/** What a part that conducts nothing is left with, of what it has. */
const NOTHING = 1e-12;

/**
 * Of a wire: its time constant with the greatest capacitance as a part of all the time that is followed, and its ohms as
 * a part of the least that is held across the ladder. Far too little to be seen, and enough that rounding beside what it
 * conducts leaves what capacitances hold.
 */
const WIRE_PART_OF_TIME = 1e-8;
const WIRE_PART_OF_OHMS = 1e-5;
const LEAST_WIRE_OHMS = 1e-3;

const FIRST_PART = 1e-4;
const MOST_HALVINGS = 8;

/**
 * A charged ladder with its drive off, falling through whatever is held across
 * it: the winding stands as a short for direct current, and diodes let every
 * stage give up charge. Its load is gone.
 */
export class Falling {
  readonly ladder: LoadedLadder;
  readonly circuit: Circuit;
  readonly stepper: Stepper;
  readonly state: State;
  private readonly runner: PeriodRunner;

  /**
   * @param design complete, as `readDesign` returns it
   * @param output what stands behind its terminal besides the clips
   * @param startVolts of the ladder's nodes against ground by name, V
   * @param seconds how long it falls, s
   * @param changed clips held on it, nodes on ground by a plain lead, one part that has failed, and other capacitances of its capacitors in their order, F
   */
  constructor(
    design: Design,
    output: OutputFields,
    startVolts: ReadonlyMap<string, number>,
    private readonly seconds: number,
    { clips = [], strapped = [], fault = null, farads }: Changed = {},
  ) {
    const made = circuitOfDesign(design, output, { kind: 'open' }, { windingApart: fault?.part === WINDING });
    this.ladder = made.ladder;
    const { circuit } = made;
    if (farads)
      circuit.capacitors = circuit.capacitors.map((one, at) =>
        at < farads.length ? { ...one, farads: farads[at] } : one,
      );
    const ohms = wireOhms(seconds, circuit, [...clips.map((clip) => clip.ohms), output.bleederOhms ?? Infinity]);
    // Nor does any diode conduct better than a wire.
    circuit.diodes = circuit.diodes.map((one) => ({ ...one, onSiemens: Math.min(one.onSiemens, 1 / ohms) }));
    this.circuit = withClips(fault ? failed(circuit, made.ladder, fault, ohms) : circuit, [
      ...clips,
      ...strapped.map((from) => ({ from, to: 'ground', ohms })),
    ]);
    this.stepper = new Stepper(this.circuit);
    this.runner = new PeriodRunner(this.stepper, timeGrid(this.ladder.drive, 8));
    this.state = emptyState(this.circuit);
    // Where it is not told apart, nothing flows to what stands behind the terminal.
    const terminalVolts = startVolts.get(made.ladder.network.output) ?? 0;
    this.circuit.names.forEach(
      (name, node) => (this.state.volts[node] = startVolts.get(name) ?? (isOutputNode(name) ? terminalVolts : 0)),
    );
    this.stepper.chargeAt(this.state.volts, 0, this.state.charge);
  }

  /**
   * Lets it fall, in steps that grow by the decade. An error is thrown where a step has no solution.
   *
   * @param taken told of every step: where it ends, and how long it was, s
   * @param firstPart of the time that the first step takes
   */
  run(stepsPerDecade: number, taken: (elapsed: number, step: number) => void = () => {}, firstPart = FIRST_PART): void {
    const { seconds } = this;
    const growth = 10 ** (1 / stepsPerDecade);
    let elapsed = 0;
    for (let until = seconds * firstPart; elapsed < seconds * (1 - 1e-9); until *= growth) {
      const step = Math.min(until, seconds) - elapsed;
      // One too short for anything to move within rounding is taken together with the next.
      if (!this.step(step, until * (growth - 1), MOST_HALVINGS)) {
        if (until >= seconds) throw new Error('no solution was found: its parts lie too far apart in size.');
        continue;
      }
      elapsed += step;
      taken(elapsed, step);
    }
  }

  /** One step, in halves where it has no solution as a whole; where it has none at all nothing has moved. */
  private step(seconds: number, next: number, halvings: number): boolean {
    const before = copyOf(this.state);
    if (this.runner.advance(this.state, seconds, 0, { seconds: next, push: 0, closed: 0 })) return true;
    assignState(this.state, before);
    if (halvings === 0) return false;
    const halves = this.step(seconds / 2, seconds / 2, halvings - 1) && this.step(seconds / 2, next, halvings - 1);
    if (!halves) assignState(this.state, before);
    return halves;
  }

  /** Between two nodes of the circuit, V. */
  across({ from, to }: { from: number; to: number }): number {
    return this.stepper.at(to, this.state.volts, 0) - this.stepper.at(from, this.state.volts, 0);
  }

  /** At the terminal against its return, V. */
  terminalVolts(): number {
    return this.across({ from: this.circuit.return, to: this.circuit.output });
  }

  /** On each of the ladder's capacitors, in the network's order, V. */
  capacitorVolts(): number[] {
    return this.circuit.capacitors.slice(0, this.circuit.ladderCapacitors).map((part) => this.across(part));
  }

  /** Of the ladder's nodes against ground by name, V: what another fall begins with. */
  nodeVolts(): ReadonlyMap<string, number> {
    return new Map(this.circuit.names.map((name, node) => [name, this.state.volts[node]]));
  }
}

/** What stands for a wire in a fall of so many seconds, with so many ohms held across it, Ω. */
function wireOhms(seconds: number, { capacitors }: Circuit, heldOhms: readonly number[]): number {
  const most = Math.max(...capacitors.map(({ farads }) => farads));
  return Math.max(
    LEAST_WIRE_OHMS,
    Math.min((WIRE_PART_OF_TIME * seconds) / most, WIRE_PART_OF_OHMS * Math.min(...heldOhms)),
  );
}

/** The winding, the string before what hangs on the output, and the way through a smoothing section, among the parts that may fail. */
export const WINDING = 'winding';
export const SERIES = 'series string';
const SMOOTHING = 'smoothing section ';
export const smoothingPart = (section: number) => `${SMOOTHING}${section}`;
const APART = { ohms: 1e15, henries: 0 };

function withClips(circuit: Circuit, clips: readonly Clip[]): Circuit {
  const at = (name: string) => circuit.place.get(name) ?? -1;
  const held = clips.map(({ from, to, ohms }) => ({ from: at(from), to: at(to), siemens: 1 / ohms }));
  return { ...circuit, resistors: [...circuit.resistors, ...held] };
}

function failed(circuit: Circuit, { network }: LoadedLadder, { part, how }: PartFault, wireOhms: number): Circuit {
  const diode = network.diodes.findIndex(({ id }) => id === part);
  const capacitor = network.capacitors.findIndex(({ id }) => id === part);
  const shorted = (ends: { from: number; to: number }) => ({
    ...circuit,
    resistors: [...circuit.resistors, { ...ends, siemens: 1 / wireOhms }],
  });
  if (part === SERIES) {
    // The last on the way to the load.
    const string = circuit.onTheWay.at(-1);
    return { ...circuit, resistors: circuit.resistors.filter((one) => one !== string) };
  }
  if (part.startsWith(SMOOTHING)) {
    const behind = circuit.place.get(smoothedNode(Number(part.slice(SMOOTHING.length))));
    return {
      ...circuit,
      resistors: circuit.resistors.filter((one) => one.to !== behind || !circuit.onTheWay.includes(one)),
      inductors: circuit.inductors.map((one, at) =>
        at >= circuit.inductors.length - circuit.chokes && one.terms[1].node === behind ? { ...one, ...APART } : one,
      ),
    };
  }
  if (diode >= 0) {
    const { anode, cathode } = circuit.diodes[diode];
    if (how === 'shorted') return shorted({ from: anode, to: cathode });
    const open = { ...circuit.diodes[diode], onSiemens: 0, leakSiemens: 0, transitSeconds: 0 };
    return { ...circuit, diodes: circuit.diodes.map((one, at) => (at === diode ? open : one)) };
  }
  if (capacitor >= 0) {
    const whole = circuit.capacitors[capacitor];
    if (how === 'shorted') return shorted(whole);
    const open = { ...whole, farads: whole.farads * NOTHING };
    return { ...circuit, capacitors: circuit.capacitors.map((one, at) => (at === capacitor ? open : one)) };
  }
  return circuit;
}
