import { BandedFactor } from '../numeric/banded-factor';
import { bandwidthOf } from '../numeric/ordering';
import { rootBetween } from '../numeric/root';
import { hasInductance, type Circuit } from './circuit';

/** No step needs so many corrections: a circuit that does is refused rather than guessed. */
const MOST_CORRECTIONS = 200;
/** Last correction that counts as none, as a fraction of the greatest voltage; after many corrections rounding alone may move more. */
const SETTLED = 1e-11;
const SETTLED_BADLY_CONDITIONED = 1e-9;
const MANY_CORRECTIONS = 20;
/** Square of the phase of a ringing, rad^2, that a stage may take and still be taken from its start. */
const RESOLVED_PHASE_SQUARED = 1;
/** Factors kept at most. */
const MOST_FACTORS = 512;

/**
 * Solves one implicit stage of a circuit after another.
 *
 * A stage of length g asks for node voltages u with q(u) + g i(u) = q0, where q
 * is the charge and i the current leaving each node. Every element is passive
 * and monotone, so this is the gradient of a strictly convex function of u. Its
 * minimum is found by Newton's method with a line search to the exact minimum
 * along each direction, which cannot fail to arrive: with diodes that are
 * straight on either side of a kink it does so in finitely many corrections.
 */
export class Stepper {
  readonly circuit: Circuit;
  readonly nodes: number;
  readonly reach: number;
  /** Capacitances and conductances of the free nodes, in the banded layout of BandedFactor. */
  readonly capacitance: Float64Array;
  private readonly conductance: Float64Array;
  /** Which diodes conduct at the last solution. */
  readonly conducting: Uint8Array;
  /** How each load behaves there: its slope, S. */
  readonly loadSlopes: Float64Array;
  /** Whether each gap carries an arc; set from outside between steps. */
  readonly arcs: Uint8Array;
  /** Solutions asked for and factors made, for the curious. */
  stages = 0;
  factors = 0;

  private readonly width: number;
  private readonly matrix: Float64Array;
  private readonly residual: Float64Array;
  private readonly move: Float64Array;
  private readonly across: Float64Array;
  private readonly acrossMove: Float64Array;
  /** Factors by stage length and conducting set, the most recent few. */
  private readonly cache = new Map<string, BandedFactor>();
  private factor: BandedFactor;
  /** What the factor at hand was made for. */
  private factoredLength = -1;
  private readonly factoredKinks: Uint8Array;
  private readonly factoredSlopes: Float64Array;
  private readonly smooth: boolean;

  constructor(circuit: Circuit) {
    this.circuit = circuit;
    const size = circuit.names.length;
    this.nodes = size;
    this.reach = reachOf(circuit);
    this.width = this.reach + 1;
    this.capacitance = this.stamped(circuit.capacitors.map(({ from, to, farads }) => ({ from, to, value: farads })));
    this.conductance = this.stamped([
      ...circuit.resistors.map(({ from, to, siemens }) => ({ from, to, value: siemens })),
      ...circuit.diodes.map(({ anode, cathode, leakSiemens }) => ({ from: anode, to: cathode, value: leakSiemens })),
    ]);
    this.conducting = new Uint8Array(circuit.diodes.length);
    this.loadSlopes = new Float64Array(circuit.loads.length);
    this.arcs = new Uint8Array(circuit.loads.length);
    this.factoredKinks = new Uint8Array(circuit.diodes.length);
    this.factoredSlopes = new Float64Array(circuit.loads.length);
    this.matrix = new Float64Array(size * this.width);
    this.residual = new Float64Array(size);
    this.move = new Float64Array(size);
    this.across = new Float64Array(circuit.diodes.length);
    this.acrossMove = new Float64Array(circuit.diodes.length);
    this.factor = new BandedFactor(size, this.reach);
    this.smooth = circuit.loads.every(({ law }) => law.pieceOf !== null);
  }

  /** Voltage of a node: free ones from `volts`, ground 0, stiff sources after the drive. */
  at(node: number, volts: Float64Array, drive: number): number {
    return node >= 0 ? volts[node] : node === -1 ? 0 : drive * this.circuit.stiff[-2 - node];
  }

  /** Charge of every free node at these voltages: what capacitances and conducting diodes hold. */
  chargeAt(volts: Float64Array, drive: number, into: Float64Array): void {
    this.multiply(this.capacitance, volts, into);
    for (const { from, to, farads } of this.circuit.capacitors) {
      if (from >= 0 && to < -1) into[from] -= farads * this.at(to, volts, drive);
      if (to >= 0 && from < -1) into[to] -= farads * this.at(from, volts, drive);
    }
    for (const diode of this.circuit.diodes) {
      if (diode.transitSeconds === 0) continue;
      const over = this.at(diode.anode, volts, drive) - this.at(diode.cathode, volts, drive) - diode.forwardVolts;
      if (over <= 0) continue;
      const held = diode.transitSeconds * diode.onSiemens * over;
      if (diode.anode >= 0) into[diode.anode] += held;
      if (diode.cathode >= 0) into[diode.cathode] -= held;
    }
  }

  /** Current from the drive into the node of a winding through a stage, A. */
  windingAmps(index: number, g: number, flux: number, drive: number, volts: Float64Array): number {
    const { node, sign, ohms, henries } = this.circuit.windings[index];
    const pushed = (1 - this.known(index, g)) * g * (sign * drive - volts[node]);
    return (flux + pushed) / (g * ohms + henries);
  }

  private readonly knownParts = new Map<number, Float64Array>();
  /**
   * Fraction of the push on a winding's inductance through a stage that is taken from the voltages at the stage's start:
   * all of it where the stage resolves the fastest ringing of the inductance with what its node shows while every
   * diode blocks, none where it is far too long for that or there is no inductance. The former loses no energy (it is
   * the leapfrog scheme), the latter damps.
   */
  known(index: number, g: number): number {
    let parts = this.knownParts.get(g);
    if (!parts) {
      parts = this.knownPartsOf(g);
      if (this.knownParts.size > 64) this.knownParts.clear();
      this.knownParts.set(g, parts);
    }
    return parts[index];
  }

  private knownPartsOf(g: number): Float64Array {
    if (this.circuit.ringing === 'damped') return new Float64Array(this.circuit.windings.length);
    return this.ringing(g).map((squared) =>
      squared > 0 ? Math.min(1, RESOLVED_PHASE_SQUARED / (g * g * squared)) : 0,
    );
  }

  /**
   * The fastest that each winding's inductance may ring while every diode blocks: a bound of the angular frequency
   * squared, (rad/s)^2, as seen within a time g; 0 without inductance, Infinity where nothing can be said.
   */
  ringing(g: number): Float64Array {
    const { windings } = this.circuit;
    const squared = new Float64Array(windings.length);
    if (!hasInductance(this.circuit)) return squared;
    const factor = new BandedFactor(this.nodes, this.reach);
    const answer = new Float64Array(this.nodes);
    const known = factor.factor(this.unpushed(g));
    windings.forEach(({ node, henries }, index) => {
      if (henries === 0) return;
      answer.fill(0);
      answer[node] = 1;
      if (known) factor.solve(answer);
      // The sum bounds the ringing of the windings with each other.
      const stiffness = windings.reduce((sum, other) => sum + Math.abs(answer[other.node]), 0);
      squared[index] = known ? stiffness / henries : Infinity;
    });
    return squared;
  }

  /**
   * Node voltages at the end of a stage.
   *
   * @param g length of the stage, s
   * @param charge of every free node at its start (or what stands for it), C
   * @param flux of every winding likewise, Vs
   * @param drive at its end, V
   * @param volts a guess on entry, the solution on return
   * @returns false when no solution was reached; `volts` must not be used then
   */
  solveStage(g: number, charge: Float64Array, flux: Float64Array, drive: number, volts: Float64Array): boolean {
    const { circuit, across, acrossMove, residual, move, conducting } = this;
    const { diodes } = circuit;
    this.stages += 1;
    let scale = Math.abs(drive);
    for (let node = 0; node < volts.length; node += 1) scale = Math.max(scale, Math.abs(volts[node]));
    this.readDiodes(volts, drive);
    for (let correction = 0; correction < MOST_CORRECTIONS; correction += 1) {
      this.residualAt(g, charge, flux, drive, volts);
      if (!this.prepare(g, volts, drive)) return false;
      for (let node = 0; node < move.length; node += 1) move[node] = -residual[node];
      this.factor.solve(move);
      let greatest = 0;
      for (let node = 0; node < move.length; node += 1) greatest = Math.max(greatest, Math.abs(move[node]));
      if (!(greatest < Infinity)) return false;
      let sameKinks = true;
      for (let index = 0; index < diodes.length; index += 1) {
        const { anode, cathode, forwardVolts } = diodes[index];
        acrossMove[index] = (anode >= 0 ? move[anode] : 0) - (cathode >= 0 ? move[cathode] : 0);
        if (across[index] + acrossMove[index] > forwardVolts !== (conducting[index] === 1)) sameKinks = false;
      }
      const settled = greatest <= (correction < MANY_CORRECTIONS ? SETTLED : SETTLED_BADLY_CONDITIONED) * scale;
      const straight = sameKinks && this.loadsStraight(volts, drive);
      if (straight || settled) {
        this.advance(volts, 1);
        this.readDiodes(volts, drive);
        if (straight && !settled) this.readLoads(volts, drive);
        return true;
      }
      const length = this.lineMinimum(g, volts, drive);
      this.advance(volts, length);
      this.readDiodes(volts, drive);
    }
    return false;
  }

  private settled: BandedFactor | null = null;
  /**
   * Turns charges of the free nodes into the voltages they leave after a period without conduction: across the
   * capacitances, what hangs on a winding or a resistor alone having followed it. False when that has no answer.
   */
  voltsOf(charge: Float64Array): boolean {
    if (!this.settled) {
      const factor = new BandedFactor(this.nodes, this.reach);
      if (!factor.factor(this.base(1 / this.circuit.hertz))) return false;
      this.settled = factor;
    }
    this.settled.solve(charge);
    return true;
  }

  private advance(volts: Float64Array, length: number): void {
    for (let node = 0; node < volts.length; node += 1) volts[node] += length * this.move[node];
  }

  private readDiodes(volts: Float64Array, drive: number): void {
    const { diodes } = this.circuit;
    for (let index = 0; index < diodes.length; index += 1) {
      const { anode, cathode, forwardVolts } = diodes[index];
      const between = this.at(anode, volts, drive) - this.at(cathode, volts, drive);
      this.across[index] = between;
      this.conducting[index] = between > forwardVolts ? 1 : 0;
    }
  }

  private readLoads(volts: Float64Array, drive: number): void {
    this.circuit.loads.forEach((load, index) => {
      const between = this.at(load.from, volts, drive) - this.at(load.to, volts, drive);
      this.loadSlopes[index] = load.law.slope(between, this.arcs[index] === 1);
    });
  }

  /** Whether every load stays on the straight piece that it was linearised on over the whole move. */
  private loadsStraight(volts: Float64Array, drive: number): boolean {
    const { loads } = this.circuit;
    if (!this.smooth) return false;
    for (let index = 0; index < loads.length; index += 1) {
      const { from, to, law } = loads[index];
      const before = this.at(from, volts, drive) - this.at(to, volts, drive);
      const after = before + (from >= 0 ? this.move[from] : 0) - (to >= 0 ? this.move[to] : 0);
      if (law.pieceOf!(before) !== law.pieceOf!(after)) return false;
    }
    return true;
  }

  private residualAt(g: number, charge: Float64Array, flux: Float64Array, drive: number, volts: Float64Array): void {
    const { circuit, residual } = this;
    this.multiply(this.base(g), volts, residual);
    for (let node = 0; node < residual.length; node += 1) residual[node] -= charge[node];
    for (const { from, to, farads } of circuit.capacitors) {
      if (from >= 0 && to < -1) residual[from] -= farads * this.at(to, volts, drive);
      if (to >= 0 && from < -1) residual[to] -= farads * this.at(from, volts, drive);
    }
    for (const { from, to, siemens } of circuit.resistors) {
      if (from >= 0 && to < -1) residual[from] -= g * siemens * this.at(to, volts, drive);
      if (to >= 0 && from < -1) residual[to] -= g * siemens * this.at(from, volts, drive);
    }
    for (let index = 0; index < circuit.windings.length; index += 1) {
      const { node, sign, ohms, henries } = circuit.windings[index];
      const ahead = 1 - this.known(index, g);
      residual[node] -= (g * (flux[index] + ahead * g * sign * drive)) / (g * ohms + henries);
    }
    for (let index = 0; index < circuit.diodes.length; index += 1) {
      const { anode, cathode, forwardVolts, onSiemens, leakSiemens, transitSeconds } = circuit.diodes[index];
      let carried = 0;
      if (anode < -1 || cathode < -1) {
        // The free end's own part of the leakage is in the matrix; the known end's is not.
        if (anode < -1 && cathode >= 0) residual[cathode] -= g * leakSiemens * this.at(anode, volts, drive);
        if (cathode < -1 && anode >= 0) residual[anode] -= g * leakSiemens * this.at(cathode, volts, drive);
      }
      if (this.conducting[index]) carried = (g + transitSeconds) * onSiemens * (this.across[index] - forwardVolts);
      if (carried === 0) continue;
      if (anode >= 0) residual[anode] += carried;
      if (cathode >= 0) residual[cathode] -= carried;
    }
    for (let index = 0; index < circuit.loads.length; index += 1) {
      const load = circuit.loads[index];
      const between = this.at(load.from, volts, drive) - this.at(load.to, volts, drive);
      const drawn = g * load.law.amps(between, this.arcs[index] === 1);
      if (load.from >= 0) residual[load.from] += drawn;
      if (load.to >= 0) residual[load.to] -= drawn;
    }
  }

  /** Capacitances and g times conductances, windings apart. */
  private unpushed(g: number): Float64Array {
    return this.capacitance.map((farads, at) => farads + g * this.conductance[at]);
  }

  /** Linear part of the matrix for a stage length, kept from one stage to the next. */
  private baseLength = -1;
  private baseMatrix: Float64Array = new Float64Array(0);
  private readonly bases = new Map<number, Float64Array>();
  private base(g: number): Float64Array {
    if (g === this.baseLength) return this.baseMatrix;
    let matrix = this.bases.get(g);
    if (!matrix) {
      const made = this.unpushed(g);
      matrix = made;
      this.circuit.windings.forEach(({ node, ohms, henries }, index) => {
        made[node * this.width + this.reach] += ((1 - this.known(index, g)) * g * g) / (g * ohms + henries);
      });
      if (this.bases.size > 64) this.bases.clear();
      this.bases.set(g, matrix);
    }
    this.baseLength = g;
    this.baseMatrix = matrix;
    return matrix;
  }

  /** Makes the factor for a stage length and the present kinks ready. */
  private prepare(g: number, volts: Float64Array, drive: number): boolean {
    this.readLoads(volts, drive);
    if (
      g === this.factoredLength &&
      same(this.conducting, this.factoredKinks) &&
      same(this.loadSlopes, this.factoredSlopes)
    )
      return true;
    const factor = this.factorFor(g, this.conducting, this.loadSlopes);
    if (!factor) return false;
    this.factoredLength = g;
    this.factoredKinks.set(this.conducting);
    this.factoredSlopes.set(this.loadSlopes);
    this.factor = factor;
    return true;
  }

  /**
   * The factor of capacitances plus `g` times conductances for a set of conducting diodes and load slopes, from the
   * cache where it is there; null when it is not positive definite to working precision.
   */
  factorFor(g: number, conducting: Uint8Array, loadSlopes: Float64Array): BandedFactor | null {
    const key = `${g};${conducting.join('')};${loadSlopes.join()}`;
    const known = this.cache.get(key);
    if (known) return known;
    const { circuit, matrix } = this;
    matrix.set(this.base(g));
    for (let index = 0; index < circuit.diodes.length; index += 1) {
      if (!conducting[index]) continue;
      const { anode, cathode, onSiemens, transitSeconds } = circuit.diodes[index];
      this.stamp(matrix, anode, cathode, (g + transitSeconds) * onSiemens);
    }
    for (let index = 0; index < circuit.loads.length; index += 1)
      this.stamp(matrix, circuit.loads[index].from, circuit.loads[index].to, g * loadSlopes[index]);
    if (this.cache.size >= MOST_FACTORS) this.cache.clear();
    const factor = new BandedFactor(this.nodes, this.reach);
    this.factors += 1;
    if (!factor.factor(matrix)) return null;
    this.cache.set(key, factor);
    return factor;
  }

  /** Fraction of the move at which the convex function is least along it, at most 1. */
  private lineMinimum(g: number, volts: Float64Array, drive: number): number {
    const { circuit, residual, move, across, acrossMove } = this;
    let start = 0;
    for (let node = 0; node < move.length; node += 1) start += residual[node] * move[node];
    const linear = this.quadratic(this.base(g), move);
    const derivative = (length: number) => {
      let value = start + length * linear;
      for (let index = 0; index < circuit.diodes.length; index += 1) {
        const turn = acrossMove[index];
        if (turn === 0) continue;
        const { forwardVolts, onSiemens, transitSeconds } = circuit.diodes[index];
        const before = Math.max(0, across[index] - forwardVolts);
        const after = Math.max(0, across[index] + length * turn - forwardVolts);
        value += (g + transitSeconds) * onSiemens * (after - before) * turn;
      }
      for (let index = 0; index < circuit.loads.length; index += 1) {
        const load = circuit.loads[index];
        const turn = (load.from >= 0 ? move[load.from] : 0) - (load.to >= 0 ? move[load.to] : 0);
        if (turn === 0) continue;
        const between = this.at(load.from, volts, drive) - this.at(load.to, volts, drive);
        const arc = this.arcs[index] === 1;
        value += g * (load.law.amps(between + length * turn, arc) - load.law.amps(between, arc)) * turn;
      }
      return value;
    };
    const atEnd = derivative(1);
    if (!(atEnd > 0)) return 1;
    return Math.max(1e-12, rootBetween(derivative, [0, start], [1, atEnd], 1e-12 * Math.abs(start), 1e-12));
  }

  private quadratic(matrix: Float64Array, vector: Float64Array): number {
    const { width, reach } = this;
    let sum = 0;
    for (let row = 0; row < vector.length; row += 1) {
      const at = row * width + reach - row;
      sum += matrix[at + row] * vector[row] ** 2;
      for (let column = Math.max(0, row - reach); column < row; column += 1)
        sum += 2 * matrix[at + column] * vector[row] * vector[column];
    }
    return sum;
  }

  /** Symmetric banded matrix times vector. */
  private multiply(matrix: Float64Array, vector: Float64Array, into: Float64Array): void {
    const { width, reach } = this;
    into.fill(0);
    for (let row = 0; row < vector.length; row += 1) {
      const at = row * width + reach - row;
      const here = vector[row];
      let sum = matrix[at + row] * here;
      for (let column = Math.max(0, row - reach); column < row; column += 1) {
        const value = matrix[at + column];
        sum += value * vector[column];
        into[column] += value * here;
      }
      into[row] += sum;
    }
  }

  private stamp(matrix: Float64Array, from: number, to: number, value: number): void {
    const { width, reach } = this;
    if (value === 0) return;
    if (from >= 0) matrix[from * width + reach] += value;
    if (to >= 0) matrix[to * width + reach] += value;
    if (from >= 0 && to >= 0) {
      const row = Math.max(from, to);
      matrix[row * width + reach + Math.min(from, to) - row] -= value;
    }
  }

  private stamped(branches: readonly { from: number; to: number; value: number }[]): Float64Array {
    const matrix = new Float64Array(this.nodes * this.width);
    for (const { from, to, value } of branches) this.stamp(matrix, from, to, value);
    return matrix;
  }
}

/** Whether two lists of numbers are alike. */
export function same(one: ArrayLike<number>, other: ArrayLike<number>): boolean {
  for (let at = 0; at < one.length; at += 1) if (one[at] !== other[at]) return false;
  return true;
}

function reachOf(circuit: Circuit): number {
  const pairs = [
    ...circuit.capacitors,
    ...circuit.resistors,
    ...circuit.loads,
    ...circuit.diodes.map(({ anode, cathode }) => ({ from: anode, to: cathode })),
  ];
  const neighbours: number[][] = circuit.names.map(() => []);
  for (const { from, to } of pairs) if (from >= 0 && to >= 0) neighbours[from].push(to);
  return bandwidthOf(
    neighbours,
    circuit.names.map((_, at) => at),
  );
}
