import { BandedFactor } from '../numeric/banded-factor';
import { bandwidthOf } from '../numeric/ordering';
import { rootBetween } from '../numeric/root';
import {
  hasInductance,
  type Circuit,
  type CircuitEvent,
  type CircuitInductor,
  type NodeIndex,
  type Saturation,
} from './circuit';

/** No step needs so many corrections: a circuit that does is refused rather than guessed. */
const MOST_CORRECTIONS = 200;
/**
 * Last correction that counts as none, as a fraction of the greatest voltage: after so many corrections rounding alone
 * moves more, most of all where diodes stand at their kink in steps far longer than what they charge takes.
 */
const SETTLED = [
  { after: 60, part: 1e-6 },
  { after: 20, part: 1e-9 },
  { after: 0, part: 1e-11 },
] as const;
const settledAfter = (corrections: number): number => SETTLED.find(({ after }) => corrections >= after)!.part;
/** What rounding may leave of a voltage, as a fraction of the greatest. */
const ROUNDING = 8 * Number.EPSILON;
/** Where all is below this, V, a correction is measured by it: of what has fallen for long nothing is asked beyond. */
const LEAST_SCALE_VOLTS = 1e-3;
/** Square of the phase of a ringing, rad^2, that a stage may take and still be taken from its start. */
const RESOLVED_PHASE_SQUARED = 1;
/** Part of a push that is known while steps, if too long for a ringing, are not beyond comparison. */
const LEAST_FOLLOWED = 0.01;
/** Factors kept at most, and stage lengths of each pattern of switches. */
const MOST_FACTORS = 512;
const MOST_LENGTHS = 64;

/** Part of an inductance's push that is known, and the linear part of the matrix, for a stage of so many seconds. */
type StageLength = { seconds: number; known: Float64Array; earlier: Float64Array; base: Float64Array };

/** What bends at a voltage between two nodes: above it a current and a charge more for each volt. */
type Kink = { anode: NodeIndex; cathode: NodeIndex; atVolts: number; siemens: number; farads: number };

/** The diodes of a circuit first, then what the capacitance of their junctions gains on the way to no voltage. */
const kinksOf = ({ diodes, junctions }: Circuit): Kink[] => [
  ...diodes.map(({ anode, cathode, forwardVolts, onSiemens, transitSeconds }) => ({
    anode,
    cathode,
    atVolts: forwardVolts,
    siemens: onSiemens,
    farads: transitSeconds * onSiemens,
  })),
  ...junctions.map(({ anode, cathode, reverseVolts, farads }) => ({
    anode,
    cathode,
    atVolts: -reverseVolts,
    siemens: 0,
    farads,
  })),
];

/** Current that a saturating core takes over what it took while it was straight, A: straight again, and steeper. */
function beyondSaturation(flux: number, henries: number, saturation: Saturation): number {
  const over = Math.abs(flux) - saturation.fluxVoltSeconds;
  return over > 0 ? Math.sign(flux) * over * (1 / saturation.henries - 1 / henries) : 0;
}

/** How that answers to flux, A/Vs. */
function slopeBeyondSaturation(flux: number, { henries, saturation }: CircuitInductor): number {
  return saturation && Math.abs(flux) > saturation.fluxVoltSeconds ? 1 / saturation.henries - 1 / henries : 0;
}

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
  /** The same for every pattern of switches that was asked for, by its bits. */
  private readonly conductances = new Map<number, Float64Array>();
  readonly kinks: readonly Kink[];
  /** Which of them the last solution is above: diodes that conduct, junctions that hold more. */
  readonly above: Uint8Array;
  /** How each load behaves there: its slope, S. */
  readonly loadSlopes: Float64Array;
  /** How much steeper each saturating core stood there, A/Vs. */
  readonly coreSlopes: Float64Array;
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
  private factoredClosed = -1;
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
    this.kinks = kinksOf(circuit);
    this.above = new Uint8Array(this.kinks.length);
    this.loadSlopes = new Float64Array(circuit.loads.length);
    this.coreSlopes = new Float64Array(circuit.inductors.length);
    this.arcs = new Uint8Array(circuit.loads.length);
    this.factoredKinks = new Uint8Array(this.kinks.length);
    this.factoredSlopes = new Float64Array(circuit.loads.length);
    this.matrix = new Float64Array(size * this.width);
    this.residual = new Float64Array(size);
    this.move = new Float64Array(size);
    this.across = new Float64Array(this.kinks.length);
    this.acrossMove = new Float64Array(this.kinks.length);
    this.factor = new BandedFactor(size, this.reach);
    this.smooth = circuit.loads.every(({ law }) => law.pieceOf !== null);
  }

  /** Which switches are closed, a bit for each; set from outside between steps. */
  closed = 0;

  /** Voltage of a node: free ones from `volts`, ground 0, known ones after the drive. */
  at(node: number, volts: Float64Array, drive: number): number {
    if (node >= 0) return volts[node];
    if (node === -1) return 0;
    const known = this.circuit.known[-2 - node];
    return known.drive * drive + known.volts;
  }

  /** What stands across an inductance at these voltages, V. */
  acrossInductor(index: number, volts: Float64Array, drive: number): number {
    let sum = 0;
    for (const { node, weight } of this.circuit.inductors[index].terms) sum += weight * this.at(node, volts, drive);
    return sum;
  }

  /** A sum of weighted nodes and fluxes that something waits for. */
  eventAt(
    { terms, fluxes, constant }: CircuitEvent,
    { volts, flux }: { volts: Float64Array; flux: Float64Array },
    drive: number,
  ): number {
    let sum = constant;
    for (const { index, weight } of fluxes) sum += weight * flux[index];
    for (const { node, weight } of terms) sum += weight * this.at(node, volts, drive);
    return sum;
  }

  /** What known nodes put across it, V. */
  private knownAcross({ terms }: CircuitInductor, drive: number): number {
    let sum = 0;
    for (const { node, weight } of terms)
      if (node < -1) {
        const known = this.circuit.known[-2 - node];
        sum += weight * (known.drive * drive + known.volts);
      }
    return sum;
  }

  /** Charge of every free node at these voltages: what capacitances, junctions and conducting diodes hold. */
  chargeAt(volts: Float64Array, drive: number, into: Float64Array): void {
    this.multiply(this.capacitance, volts, into);
    for (const { from, to, farads } of this.circuit.capacitors) {
      if (from >= 0 && to < -1) into[from] -= farads * this.at(to, volts, drive);
      if (to >= 0 && from < -1) into[to] -= farads * this.at(from, volts, drive);
    }
    for (const { anode, cathode, atVolts, farads } of this.kinks) {
      if (farads === 0) continue;
      const over = this.at(anode, volts, drive) - this.at(cathode, volts, drive) - atVolts;
      if (over <= 0) continue;
      if (anode >= 0) into[anode] += farads * over;
      if (cathode >= 0) into[cathode] -= farads * over;
    }
  }

  /** Current of an inductance through a stage, A: what its damping carries included. */
  inductorAmps(index: number, g: number, flux: number, drive: number, volts: Float64Array): number {
    const { ohms, henries, dampingSiemens, saturation } = this.circuit.inductors[index];
    const across = this.acrossInductor(index, volts, drive);
    const pushed = this.ahead(index, g) * g * across;
    const amps = (flux + pushed) / (g * ohms + henries) + dampingSiemens * across;
    return saturation ? amps + beyondSaturation(flux, henries, saturation) : amps;
  }

  /**
   * Fraction of the push on an inductance through a stage that is taken from the voltages at the stage's start:
   * all of it where the stage resolves the fastest ringing of the inductance with what its nodes show while every
   * diode blocks, none where it is far too long for that or there is no inductance. The former loses no energy (it is
   * the leapfrog scheme), the latter damps.
   */
  known(index: number, g: number): number {
    return this.lengthOf(g).known[index];
  }

  /**
   * Fraction of the push that is taken from one step earlier still, and as much from the stage's own end: of inductances
   * that have a loss of their own beside them, which lets the ringing die that the steps do not follow. That takes no
   * energy from what they do follow (Newmark's average acceleration, from memory), as letting it die in the steps would.
   */
  earlier(index: number, g: number): number {
    return this.lengthOf(g).earlier[index];
  }

  /** The rest of the push, from the voltages at the stage's end. */
  ahead(index: number, g: number): number {
    const { known, earlier } = this.lengthOf(g);
    return 1 - known[index] - earlier[index];
  }

  private readonly lengths = new Map<number, Map<number, StageLength>>();
  private length: StageLength | null = null;
  private lengthClosed = -1;
  /** What depends on a stage's length and the switches alone, kept from one stage to the next. */
  private lengthOf(g: number): StageLength {
    if (this.length?.seconds === g && this.lengthClosed === this.closed) return this.length;
    let ofPattern = this.lengths.get(this.closed);
    if (!ofPattern) this.lengths.set(this.closed, (ofPattern = new Map<number, StageLength>()));
    let length = ofPattern.get(g);
    if (!length) {
      if (ofPattern.size > MOST_LENGTHS) ofPattern.clear();
      const known = this.knownPartsOf(g);
      const earlier = new Float64Array(known.length);
      const base = this.unpushed(g);
      this.circuit.inductors.forEach(({ terms, ohms, henries, dampingSiemens }, index) => {
        // Far longer steps follow nothing of it: there it dies at once.
        if (dampingSiemens > 0 && known[index] > LEAST_FOLLOWED) {
          earlier[index] = (1 - known[index]) / 4;
          known[index] = 1 - 2 * earlier[index];
        }
        this.stampTerms(base, terms, ((1 - known[index] - earlier[index]) * g * g) / (g * ohms + henries));
      });
      length = { seconds: g, known, earlier, base };
      ofPattern.set(g, length);
    }
    this.length = length;
    this.lengthClosed = this.closed;
    return length;
  }

  private base(g: number): Float64Array {
    return this.lengthOf(g).base;
  }

  private knownPartsOf(g: number): Float64Array {
    const { inductors, ringing } = this.circuit;
    const parts = new Float64Array(inductors.length);
    if (ringing === 'damped' || !hasInductance(this.circuit)) return parts;
    const fastestFirst = this.ringing(g).map((squared, index) => (inductors[index].henries > 0 ? squared : 0));
    const order = Array.from(inductors, (_, index) => index)
      .filter((index) => fastestFirst[index] > 0)
      .sort((one, other) => fastestFirst[other] - fastestFirst[one]);
    // What an inductance is not followed in, it holds the others with.
    const held = this.unpushed(g);
    let holding = false;
    for (const index of order) {
      const squared = holding ? this.ringing(g, held)[index] : fastestFirst[index];
      parts[index] = Math.min(1, RESOLVED_PHASE_SQUARED / (g * g * squared));
      if (parts[index] === 1) continue;
      const { terms, ohms, henries } = inductors[index];
      this.stampTerms(held, terms, ((1 - parts[index]) * g * g) / (g * ohms + henries));
      holding = true;
    }
    return parts;
  }

  /**
   * The fastest that each inductance may ring while every diode blocks: a bound of the angular frequency
   * squared, (rad/s)^2, as seen within a time g; 0 without inductance, Infinity where nothing can be said.
   *
   * @param held capacitances, and what else holds the nodes through that time
   */
  ringing(g: number, held: Float64Array = this.unpushed(g)): Float64Array {
    const { inductors } = this.circuit;
    const squared = new Float64Array(inductors.length);
    if (!hasInductance(this.circuit)) return squared;
    const factor = new BandedFactor(this.nodes, this.reach);
    const answer = new Float64Array(this.nodes);
    const known = factor.factor(held);
    const free = ({ terms }: CircuitInductor) => terms.filter(({ node }) => node >= 0);
    inductors.forEach((inductor, index) => {
      if (inductor.henries === 0) return;
      answer.fill(0);
      for (const { node, weight } of free(inductor)) answer[node] = weight;
      if (known) factor.solve(answer);
      // The sum bounds the ringing of inductances with each other.
      const stiffness = inductors.reduce((sum, other) => {
        const seen = free(other).reduce((total, { node, weight }) => total + weight * answer[node], 0);
        return other.henries > 0 ? sum + Math.abs(seen) / Math.sqrt(inductor.henries * other.henries) : sum;
      }, 0);
      squared[index] = known ? stiffness : Infinity;
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
    const { circuit, across, acrossMove, residual, move, above, kinks } = this;
    this.stages += 1;
    let scale = Math.max(Math.abs(drive), LEAST_SCALE_VOLTS);
    for (let node = 0; node < volts.length; node += 1) scale = Math.max(scale, Math.abs(volts[node]));
    for (let index = 0; index < flux.length; index += 1)
      if (circuit.inductors[index].saturation)
        this.coreSlopes[index] = slopeBeyondSaturation(flux[index], circuit.inductors[index]);
    this.readKinks(volts, drive);
    for (let correction = 0; correction < MOST_CORRECTIONS; correction += 1) {
      this.residualAt(g, charge, flux, drive, volts);
      if (!this.prepare(g, volts, drive)) return false;
      for (let node = 0; node < move.length; node += 1) move[node] = -residual[node];
      this.factor.solve(move);
      let greatest = 0;
      for (let node = 0; node < move.length; node += 1) greatest = Math.max(greatest, Math.abs(move[node]));
      if (!(greatest < Infinity)) return false;
      let sameKinks = true;
      for (let index = 0; index < kinks.length; index += 1) {
        const { anode, cathode, atVolts } = kinks[index];
        acrossMove[index] = (anode >= 0 ? move[anode] : 0) - (cathode >= 0 ? move[cathode] : 0);
        if (across[index] + acrossMove[index] > atVolts !== (above[index] === 1)) sameKinks = false;
      }
      const settled = greatest <= settledAfter(correction) * scale;
      const straight = sameKinks && this.loadsStraight(volts, drive);
      if (straight || settled) {
        this.advance(volts, 1);
        this.readKinks(volts, drive);
        if (straight && !settled) this.readLoads(volts, drive);
        return true;
      }
      const length = this.lineMinimum(g, volts, drive);
      this.advance(volts, length);
      this.readKinks(volts, drive);
      if (length * greatest <= ROUNDING * scale) this.crossKinks(ROUNDING * scale);
    }
    return false;
  }

  /** Takes what stands under its kink by no more than rounding, and was to cross it, as across: it stopped a move that came to nothing. */
  private crossKinks(within: number): void {
    const { kinks, across, acrossMove, above } = this;
    for (let index = 0; index < kinks.length; index += 1)
      if (acrossMove[index] > 0 && Math.abs(across[index] - kinks[index].atVolts) <= within) above[index] = 1;
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

  private readKinks(volts: Float64Array, drive: number): void {
    const { kinks, across, above } = this;
    for (let index = 0; index < kinks.length; index += 1) {
      const { anode, cathode, atVolts } = kinks[index];
      across[index] = this.at(anode, volts, drive) - this.at(cathode, volts, drive);
      above[index] = across[index] > atVolts ? 1 : 0;
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
    for (let index = 0; index < circuit.switches.length; index += 1) {
      if (!(this.closed & (1 << index))) continue;
      const { from, to, onSiemens } = circuit.switches[index];
      if (from >= 0 && to < -1) residual[from] -= g * onSiemens * this.at(to, volts, drive);
      if (to >= 0 && from < -1) residual[to] -= g * onSiemens * this.at(from, volts, drive);
    }
    for (let index = 0; index < circuit.inductors.length; index += 1) {
      const inductor = circuit.inductors[index];
      const { terms, ohms, henries, dampingSiemens, saturation } = inductor;
      const ahead = this.ahead(index, g);
      const across = this.knownAcross(inductor, drive);
      let amps = (flux[index] + ahead * g * across) / (g * ohms + henries) + dampingSiemens * across;
      if (saturation) amps += beyondSaturation(flux[index], henries, saturation);
      for (const { node, weight } of terms) if (node >= 0) residual[node] += g * weight * amps;
    }
    for (const { anode, cathode, leakSiemens } of circuit.diodes) {
      // The free end's own part of the leakage is in the matrix; the known end's is not.
      if (anode < -1 && cathode >= 0) residual[cathode] -= g * leakSiemens * this.at(anode, volts, drive);
      if (cathode < -1 && anode >= 0) residual[anode] -= g * leakSiemens * this.at(cathode, volts, drive);
    }
    for (let index = 0; index < this.kinks.length; index += 1) {
      if (!this.above[index]) continue;
      const { anode, cathode, atVolts, siemens, farads } = this.kinks[index];
      const carried = (g * siemens + farads) * (this.across[index] - atVolts);
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

  private conductanceOf(closed: number): Float64Array {
    let matrix = this.conductances.get(closed);
    if (matrix) return matrix;
    const { resistors, diodes, switches, inductors } = this.circuit;
    matrix = this.stamped([
      ...resistors.map(({ from, to, siemens }) => ({ from, to, value: siemens })),
      ...diodes.map(({ anode, cathode, leakSiemens }) => ({ from: anode, to: cathode, value: leakSiemens })),
      ...switches.map(({ from, to, onSiemens }, index) => ({
        from,
        to,
        value: closed & (1 << index) ? onSiemens : 0,
      })),
    ]);
    for (const { terms, dampingSiemens } of inductors)
      if (dampingSiemens > 0) this.stampTerms(matrix, terms, dampingSiemens);
    this.conductances.set(closed, matrix);
    return matrix;
  }

  /** Capacitances and g times conductances, inductances apart. */
  private unpushed(g: number): Float64Array {
    const conductance = this.conductanceOf(this.closed);
    return this.capacitance.map((farads, at) => farads + g * conductance[at]);
  }

  /** Makes the factor for a stage length and the present kinks ready. */
  private prepare(g: number, volts: Float64Array, drive: number): boolean {
    this.readLoads(volts, drive);
    if (this.factorAtHand(g)) return true;
    const factor = this.factorFor(g, this.above, this.loadSlopes);
    if (!factor) return false;
    this.factoredLength = g;
    this.factoredClosed = this.closed;
    this.factoredKinks.set(this.above);
    this.factoredSlopes.set(this.loadSlopes);
    this.factor = factor;
    return true;
  }

  /** The factor of the last solution, where it was of this length and has the kinks that the solution has; null otherwise. */
  factorAtHand(g: number): BandedFactor | null {
    return g === this.factoredLength &&
      this.closed === this.factoredClosed &&
      same(this.above, this.factoredKinks) &&
      same(this.loadSlopes, this.factoredSlopes)
      ? this.factor
      : null;
  }

  /**
   * The factor of capacitances plus `g` times conductances for what is above its kink and load slopes, from the
   * cache where it is there; null when it is not positive definite to working precision.
   */
  factorFor(g: number, above: Uint8Array, loadSlopes: Float64Array): BandedFactor | null {
    const key = `${g};${this.closed};${above.join('')};${loadSlopes.join()}`;
    const known = this.cache.get(key);
    if (known) return known;
    const { circuit, matrix } = this;
    matrix.set(this.base(g));
    for (let index = 0; index < this.kinks.length; index += 1) {
      if (!above[index]) continue;
      const { anode, cathode, siemens, farads } = this.kinks[index];
      this.stamp(matrix, anode, cathode, g * siemens + farads);
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
    const { circuit, residual, move, across, acrossMove, kinks } = this;
    let start = 0;
    for (let node = 0; node < move.length; node += 1) start += residual[node] * move[node];
    const linear = this.quadratic(this.base(g), move);
    const derivative = (length: number) => {
      let value = start + length * linear;
      for (let index = 0; index < kinks.length; index += 1) {
        const turn = acrossMove[index];
        if (turn === 0) continue;
        const { atVolts, siemens, farads } = kinks[index];
        const before = Math.max(0, across[index] - atVolts);
        const after = Math.max(0, across[index] + length * turn - atVolts);
        value += (g * siemens + farads) * (after - before) * turn;
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

  /** The square of a sum of weighted nodes, so many times. */
  private stampTerms(matrix: Float64Array, terms: CircuitInductor['terms'], value: number): void {
    if (value === 0) return;
    const { width, reach } = this;
    for (const one of terms)
      for (const other of terms)
        if (one.node >= other.node && other.node >= 0)
          matrix[one.node * width + reach + other.node - one.node] += value * one.weight * other.weight;
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
    ...circuit.switches,
    ...circuit.inductors.flatMap(({ terms }) =>
      terms.flatMap(({ node: from }) => terms.map(({ node: to }) => ({ from, to }))),
    ),
  ];
  const neighbours: number[][] = circuit.names.map(() => []);
  for (const { from, to } of pairs) if (from >= 0 && to >= 0) neighbours[from].push(to);
  return bandwidthOf(
    neighbours,
    circuit.names.map((_, at) => at),
  );
}
