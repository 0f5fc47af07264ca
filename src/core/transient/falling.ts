import type { Design } from '../design/design-schema';
import type { LoadedLadder } from '../ladder/loaded';
import { isOutputNode, smoothedNode, type OutputFields } from '../output/elements';
import { circuitOfDesign } from './circuit-of-design';
import type { Circuit } from './circuit';
import { emptyState, PeriodRunner, type State } from './period';
import { Stepper } from './stepper';
import { timeGrid } from './time-grid';

/** A resistance held between two nodes of the ladder, Ω. */
export type Clip = { from: string; to: string; ohms: number };

/** One part that has failed, by its id; `winding` is the way through the winding from one of its ends to the other. */
export type PartFault = { part: string; how: 'open' | 'shorted' };

type Changed = { clips?: readonly Clip[]; fault?: PartFault | null; farads?: readonly number[] };

/** What a part that conducts nothing is left with, of what it has, and what one that is a wire conducts, S. */
const NOTHING = 1e-12;
const WIRE_SIEMENS = 1e3;

const FIRST_PART = 1e-4;

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
   * @param changed clips held on it, one part that has failed, and other capacitances of its capacitors in their order, F
   */
  constructor(
    design: Design,
    output: OutputFields,
    startVolts: ReadonlyMap<string, number>,
    { clips = [], fault = null, farads }: Changed = {},
  ) {
    const made = circuitOfDesign(design, output, { kind: 'open' }, { windingApart: fault?.part === WINDING });
    this.ladder = made.ladder;
    const { circuit } = made;
    if (farads)
      circuit.capacitors = circuit.capacitors.map((one, at) =>
        at < farads.length ? { ...one, farads: farads[at] } : one,
      );
    this.circuit = withClips(fault ? failed(circuit, made.ladder, fault) : circuit, clips);
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
   * Lets it fall for so long, in steps that grow by the decade.
   *
   * @param taken told of every step: where it ends, and how long it was, s
   * @param firstPart of the time that the first step takes
   */
  run(
    seconds: number,
    stepsPerDecade: number,
    taken: (elapsed: number, step: number) => void = () => {},
    firstPart = FIRST_PART,
  ): void {
    const growth = 10 ** (1 / stepsPerDecade);
    let elapsed = 0;
    for (let until = seconds * firstPart; elapsed < seconds * (1 - 1e-9); until *= growth) {
      const step = Math.min(until, seconds) - elapsed;
      if (!this.runner.advance(this.state, step, 0, { seconds: until * (growth - 1), push: 0, closed: 0 })) break;
      elapsed += step;
      taken(elapsed, step);
    }
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

function failed(circuit: Circuit, { network }: LoadedLadder, { part, how }: PartFault): Circuit {
  const diode = network.diodes.findIndex(({ id }) => id === part);
  const capacitor = network.capacitors.findIndex(({ id }) => id === part);
  const shorted = (ends: { from: number; to: number }) => ({
    ...circuit,
    resistors: [...circuit.resistors, { ...ends, siemens: WIRE_SIEMENS }],
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
