import { rootBetween } from '../numeric/root';
import type { PulseShape } from './pulse-shape';

/** A pulse in which a sine charges a capacitance through resistance and inductance; angles in rad of the sine. */
export type ReactivePulse = {
  /** Where it leaves the capacitance, in units of the sine's peak: over one where it overshoots. */
  endLevel: number;
  /** Worked out when asked for. */
  shape: () => PulseShape;
};

/** What stands between sine and capacitance, in units of the reactance X. */
export type PulsePath = {
  /** R / X, zero or more. */
  damping: number;
  /** 1 / (X w C), zero or more: how far a charge lifts the capacitance. */
  stiffness: number;
};

/** Under this the capacitance is as good as a battery, and the difference of its levels would lose its digits. */
export const LEAST_STIFFNESS = 1e-4;
/** Charge under which it hardly matters how it comes about, and differences lose their digits. */
const LEAST_CHARGE = 1e-8;
/** Distance from equal roots, and from resonance without loss, at which the sums are kept away from zero over zero. */
const APART = 1e-6;
/** Coarse steps in which the end of a pulse is looked for, of an angle that the sine and the ringing resolve. */
const LONGEST_STEP = 0.15;
const STEPS_A_RADIAN_OF_RINGING = 4;
const SAMPLES = 16;
/** Flows of one pulse that are followed, and how near the peak, rad, no further one is worth it. */
const MOST_FLOWS = 200;
const NO_TIP = 1e-5;

/**
 * The pulse that carries a charge from a sine through R and L into a capacitance
 * which the load has drawn down before: it begins where the sine passes the
 * capacitance's level, and ends where its current comes back to zero, so that
 * the inductance delays and lengthens it and, with the capacitance, may carry it
 * over the sine's peak.
 *
 * e'' + (R/X) e' + e / (X w C) = sin t / (X w C), solved exactly (handbook: a
 * driven resonant circuit); the level at which it begins is found so that the
 * charge comes out. Without capacitance or resistance it ends sqrt(a / 4.5) under
 * the peak at a small charge a (derived: a cubic tip).
 *
 * @param charge X times the pulse's charge times w over the peak, zero or more
 * @returns null where no pulse within half a period carries it
 */
export function reactivePulse(charge: number, path: PulsePath): ReactivePulse | null {
  if (!(charge > LEAST_CHARGE)) return { endLevel: 1, shape: () => ({ square: 0, endSlope: 0 }) };
  const circuit = new PulseCircuit(path);
  // The root of the charge goes about as the depth of the start below the peak, which makes a nearly straight line.
  const excess = (depth: number) => Math.sqrt(Math.max(0, chargeOf(circuit, chainFrom(circuit, depth)) / charge)) - 1;
  // A battery of a capacitance without resistance first, then further out until it carries the charge.
  let near: [number, number] = [0, -1];
  let far = Math.min(1, Math.sqrt(charge / 4.5) / 2);
  let carried = excess(far);
  while (carried < 0) {
    if (far === 1) return null;
    near = [far, carried];
    far = Math.min(1, 2 * far);
    carried = excess(far);
  }
  const depth = rootBetween(excess, near, [far, carried], 1e-9, 1e-15);
  const chain = chainFrom(circuit, depth);
  return { endLevel: endLevelOf(circuit, chain), shape: () => shapeOf(circuit, chain) };
}

/** Ratio of the depths below the peak at which a family of pulses is worked out. */
const DEPTH_RATIO = 2 ** -0.25;
const placeOf = (depth: number) => Math.max(0, Math.round(Math.log(Math.min(1, depth)) / Math.log(DEPTH_RATIO)));

/**
 * All pulses through one path: worked out at depths below the peak as they are
 * asked for, and between them by a cubic through the four nearest, of the loss
 * over the root of the charge against its logarithm. Within 1e-4 of what the
 * charge lifts the capacitance by; where a fast circuit lets go and takes up
 * again, which leaves kinks, within 2 %. For whoever asks for many charges.
 */
export class ReactivePulses {
  private readonly circuit: PulseCircuit;
  /** From the deepest up. */
  private readonly known: { log: number; loss: number }[] = [];
  /** Where the last charge was found; none yet. */
  private place: number | null = null;

  constructor(path: PulsePath) {
    this.circuit = new PulseCircuit(path);
  }

  /** Where the pulse of a charge ends, as {@link reactivePulse} has it; null where none carries it. */
  endLevel(charge: number): number | null {
    if (!(charge > LEAST_CHARGE)) return 1;
    const log = Math.log(charge);
    // At first as if inertia, or the capacitance, were alone.
    let place = this.place ?? placeOf(Math.max(Math.sqrt(charge / 4.5), this.circuit.stiffness * charge) / 2);
    while (this.at(place).log < log) {
      if (place === 0) return null;
      place -= 1;
    }
    while (this.at(place + 1).log >= log) place += 1;
    this.place = place;
    const first = Math.max(0, place - 1);
    let loss = 0;
    for (let at = first; at < first + 4; at += 1) {
      let weight = 1;
      for (let other = first; other < first + 4; other += 1)
        if (other !== at) weight *= (log - this.at(other).log) / (this.at(at).log - this.at(other).log);
      loss += weight * this.at(at).loss;
    }
    return 1 - loss * Math.sqrt(charge);
  }

  private at(place: number): { log: number; loss: number } {
    if (!this.known[place]) {
      const chain = chainFrom(this.circuit, DEPTH_RATIO ** place);
      const charge = chargeOf(this.circuit, chain);
      this.known[place] = {
        log: Math.log(charge),
        loss: (1 - endLevelOf(this.circuit, chain)) / Math.sqrt(charge),
      };
    }
    return this.known[place];
  }
}

/** One flow of current, rad; a fast circuit lets go and takes up again several times before the peak. */
type Flow = { start: number; end: number };

function endLevelOf(circuit: PulseCircuit, chain: readonly Flow[]): number {
  const { start, end } = chain[chain.length - 1];
  return circuit.level(end, start);
}

const chargeOf = (circuit: PulseCircuit, chain: readonly Flow[]) =>
  (endLevelOf(circuit, chain) - Math.sin(chain[0].start)) / circuit.stiffness;

/** All flows of a pulse that begins twice this depth below the peak: until the sine passes the level no more. */
function chainFrom(circuit: PulseCircuit, depth: number): Flow[] {
  const chain = [flowFrom(circuit, 2 * Math.asin(Math.sqrt(depth)))];
  for (;;) {
    const { start, end } = chain[chain.length - 1];
    const level = circuit.level(end, start);
    const tip = level < 1 ? Math.acos(level) : 0;
    if (!(tip > NO_TIP) || end >= Math.PI / 2 - tip || chain.length === MOST_FLOWS) return chain;
    chain.push(flowFrom(circuit, tip));
  }
}

/** The driven resonant circuit of a path: level of the capacitance and its slope at an angle, for a flow that began at `start`. */
class PulseCircuit {
  readonly stiffness: number;
  /** Longest step that still follows its ringing, rad. */
  readonly step: number;
  private readonly decay: number;
  private readonly ringing: number;
  private readonly rings: boolean;
  private readonly inPhase: number;
  private readonly outOfPhase: number;
  /** What a unit of slope gone free comes to after an angle, and its own slope. */
  private level1 = 0;
  private slope1 = 0;

  constructor({ damping, stiffness: asked }: PulsePath) {
    let stiffness = Math.max(LEAST_STIFFNESS, asked);
    if (damping < APART && Math.abs(stiffness - 1) < APART) stiffness = 1 + APART;
    if (Math.abs(stiffness - damping ** 2 / 4) < APART * stiffness) stiffness *= 1 + 2 * APART;
    const squares = (stiffness - 1) ** 2 + damping ** 2;
    const square = stiffness - damping ** 2 / 4;
    this.stiffness = stiffness;
    this.step = Math.min(LONGEST_STEP, 1 / (STEPS_A_RADIAN_OF_RINGING * Math.sqrt(stiffness)));
    this.decay = damping / 2;
    this.ringing = Math.sqrt(Math.abs(square));
    this.rings = square > 0;
    this.inPhase = (stiffness * (stiffness - 1)) / squares;
    this.outOfPhase = (-stiffness * damping) / squares;
  }

  level(angle: number, start: number): number {
    this.goFree(angle - start);
    const { level1, slope1, decay } = this;
    // A unit of level gone free stands at the slope of a unit of slope and its damping.
    return (
      this.driven(angle) +
      (Math.sin(start) - this.driven(start)) * (slope1 + 2 * decay * level1) -
      this.drivenSlope(start) * level1
    );
  }

  slope(angle: number, start: number): number {
    this.goFree(angle - start);
    return (
      this.drivenSlope(angle) -
      (Math.sin(start) - this.driven(start)) * this.stiffness * this.level1 -
      this.drivenSlope(start) * this.slope1
    );
  }

  private driven(angle: number): number {
    return this.inPhase * Math.sin(angle) + this.outOfPhase * Math.cos(angle);
  }

  private drivenSlope(angle: number): number {
    return this.inPhase * Math.cos(angle) - this.outOfPhase * Math.sin(angle);
  }

  private goFree(angle: number): void {
    const { decay, ringing } = this;
    let c: number;
    if (this.rings) {
      const left = Math.exp(-decay * angle);
      c = left * Math.cos(ringing * angle);
      this.level1 = (left * Math.sin(ringing * angle)) / ringing;
    } else {
      const slow = Math.exp((ringing - decay) * angle);
      const fast = Math.exp((-ringing - decay) * angle);
      c = (slow + fast) / 2;
      this.level1 = (slow - fast) / (2 * ringing);
    }
    this.slope1 = c - decay * this.level1;
  }
}

/** The flow that begins this far before the peak, rad. */
function flowFrom(circuit: PulseCircuit, tip: number): Flow {
  const { step, stiffness } = circuit;
  const start = Math.PI / 2 - tip;
  // The steeper of sine and ringing sets how soon it can be over.
  const stride = Math.min(step, tip / 2);
  if (!(stride > 0)) return { start, end: start };
  let before = start + stride;
  let last = circuit.slope(before, start);
  while (before < start + 2 * Math.PI) {
    const next = before + stride;
    const found = circuit.slope(next, start);
    if (found <= 0) {
      const enough = 1e-9 * stiffness * tip ** 3;
      const end = rootBetween((angle) => circuit.slope(angle, start), [before, last], [next, found], enough, 1e-12);
      return { start, end };
    }
    before = next;
    last = found;
  }
  return { start, end: before };
}

/** Its form by charge, by Simpson's rule over each flow. */
function shapeOf(circuit: PulseCircuit, chain: readonly Flow[]): PulseShape {
  const { stiffness } = circuit;
  const charge = chargeOf(circuit, chain);
  const squareOf = ({ start, end }: Flow) => {
    const width = (end - start) / SAMPLES;
    let square = 0;
    for (let at = 1; at < SAMPLES; at += 1)
      square += ((at % 2 === 1 ? 4 : 2) * (circuit.slope(start + at * width, start) / stiffness) ** 2 * width) / 3;
    return square;
  };
  const { start, end } = chain[chain.length - 1];
  const last = (end - start) / (64 * SAMPLES);
  // Both figures as those of the other forms: the square for the two pulses of a period.
  return {
    square: (2 * chain.reduce((sum, flow) => sum + squareOf(flow), 0)) / charge ** 2,
    endSlope: circuit.slope(end - last, start) / stiffness / last / charge,
  };
}
