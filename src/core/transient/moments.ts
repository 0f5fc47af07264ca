import type { Waveforms } from './measure';
import type { Stepper } from './stepper';

/** What a run shows at one moment after another: the nodes that are free, the drive, and what flows through the diodes, V and A. */
export type Moments = Pick<Waveforms, 'times' | 'drive' | 'nodes' | 'diodeAmps'>;

/** A node's voltage against ground, V: of a free one, of ground, or of a source that nothing but the drive decides. */
export function nodeVoltsOf({ nodes, drive }: Moments, id: string): Float64Array {
  const found = nodes.get(id);
  if (found) return found;
  // A stiff source follows the drive; the second half of a centre-tapped one mirrors it.
  if (id === 'source') return drive;
  if (id === 'antisource') return drive.map((volts) => -volts);
  return new Float64Array(drive.length);
}

/** Moments kept of each period. */
const MOMENTS_A_PERIOD = 24;
/** Periods kept; where there are more, every other one goes, but for the first. */
const MOST_PERIODS_KEPT = 160;
const FIRST_PERIODS_KEPT = 8;

/** One moment: when, the drive, every node, every diode's mean current since the moment before. */
type Moment = { seconds: number; drive: number; volts: Float64Array; diodeAmps: Float64Array };

/**
 * Keeps moments of a run while it goes on. Currents are means between moments,
 * so that a pulse shorter than that is not lost.
 */
export class Recorder {
  private periods: Moment[][] = [];
  private open: Moment[] = [];
  private clock = 0;
  private steps = 0;
  private since = 0;
  private readonly coulombs: Float64Array;

  /** @param stepsPerPeriod about how many steps of the run make a period; a moment is kept of each where there are few */
  constructor(
    private readonly stepper: Stepper,
    private readonly stepsPerPeriod: number,
  ) {
    this.coulombs = new Float64Array(stepper.circuit.ladderDiodes);
  }

  /** Keeps what stands before the first step. */
  keepStart(volts: Float64Array): void {
    const { nodes } = this.stepper;
    this.periods.push([{ seconds: 0, drive: 0, volts: volts.slice(0, nodes), diodeAmps: this.coulombs.slice() }]);
  }

  /** Begins a period anew: what was taken of it and not kept is forgotten. */
  restart(): void {
    this.open = [];
    this.clock = 0;
    this.steps = 0;
    this.forgetCharge();
  }

  /** Takes a step that has been run, s and V. */
  take(seconds: number, drive: number, volts: Float64Array): void {
    const { stepper, coulombs } = this;
    const at = (node: number) => stepper.at(node, volts, drive);
    this.clock += seconds;
    this.since += seconds;
    this.steps += 1;
    for (let index = 0; index < coulombs.length; index += 1) {
      const { anode, cathode, forwardVolts, onSiemens } = stepper.circuit.diodes[index];
      coulombs[index] += seconds * onSiemens * Math.max(0, at(anode) - at(cathode) - forwardVolts);
    }
    if (this.steps % Math.max(1, Math.round(this.stepsPerPeriod / MOMENTS_A_PERIOD)) !== 0) return;
    this.open.push({
      seconds: this.clock,
      drive,
      volts: volts.slice(0, stepper.nodes),
      diodeAmps: coulombs.map((charge) => charge / this.since),
    });
    this.forgetCharge();
  }

  /** Keeps what was taken since the restart, which ends so many seconds after the run's own start. */
  keep(endSeconds: number): void {
    const start = endSeconds - this.clock;
    this.periods.push(this.open.map((moment) => ({ ...moment, seconds: start + moment.seconds })));
    this.restart();
    if (this.periods.length > MOST_PERIODS_KEPT)
      this.periods = this.periods.filter((_, index) => index < FIRST_PERIODS_KEPT || index % 2 === 0);
  }

  /** Forgets the period kept last, which turned out to lead elsewhere. */
  dropLast(): void {
    this.periods.pop();
  }

  moments(): Moments {
    const all = this.periods.flat();
    const { names } = this.stepper.circuit;
    const each = (read: (moment: Moment) => number) => Float64Array.from(all, read);
    return {
      times: each(({ seconds }) => seconds),
      drive: each(({ drive }) => drive),
      nodes: new Map(names.map((name, node) => [name, each(({ volts }) => volts[node])])),
      diodeAmps: Array.from(this.coulombs, (_, index) => each(({ diodeAmps }) => diodeAmps[index])),
    };
  }

  private forgetCharge(): void {
    this.coulombs.fill(0);
    this.since = 0;
  }
}
