import { amplitudeVolts, type Drive } from '../drive/drive';
import type { LightLoad } from '../ladder/charge-bookkeeping';
import { loadedLadder, withPeaksOf, type LoadedLadder } from '../ladder/loaded';
import type { LadderNetwork } from '../topology/network';
import { idealVolts } from '../ladder/unloaded';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import type { LadderShape } from './ladder-shapes';

/**
 * What the closed form says of a shape with one farad in each single place on a
 * drive of one volt amplitude, so that any value and peak follow by proportion:
 * droops and ripples go as 1 / C, voltages as the peak.
 */
export type ShapeResponse = {
  /** Of the light load, 1/F. */
  droop: number;
  ripple: number;
  outputElastance: number;
  outputTurns: LightLoad['outputTurns'];
  /** Output without load for each volt of amplitude, and what a volt of diode drop takes off it; both without strays too. */
  outputPerPeak: number;
  outputPerDrop: number;
  idealPerPeak: number;
  idealPerDrop: number;
  feedthroughPerPeak: number;
  /** The most that stands across one capacitor and against one diode without load, for each volt. */
  workingPerPeak: number;
  reversePerPeak: number;
  /** Energy at one farad, for each square volt. */
  energyPerSquare: number;
  /** Charges through all diodes, and through the one that passes most, for each charge of the load. */
  chargeInAll: number;
  chargeAtMost: number;
  /** Of each winding, F; and its charges at either peak. */
  inputFarads: readonly number[];
  windingPulses: readonly { positive: number; negative: number }[];
  /** Each diode that feeds the output: volts for each volt of amplitude, jump and steady in 1/F. */
  feeding: readonly Omit<LoadedLadder['feeding'][number], 'until'>[];
  steps: number;
};

/** What strays do goes about as their ratio times the square of the stages: knots stand at these products, first at none. */
const FIRST_KNOT = 0.02;
const KNOT_STEP = 2;
/** A diode drop small enough that no step is lost to it. */
const SMALL_DROP = 1e-3;

/** A shape's response for any ratio of strays to capacitance: exact at knots, in proportion between. */
export class ShapeTable {
  private readonly network: LadderNetwork;
  /** Ratio of strays at which their product with the square of the stages is one. */
  private readonly unit: number;
  private readonly knots = new Map<number, ShapeResponse | null>();
  private readonly known = new Map<number, ShapeResponse | null>();

  /** @param form the drive scaled to an amplitude of one volt, mirrored where the ladder is negative */
  constructor(
    shape: LadderShape,
    private readonly form: Drive,
  ) {
    const network = TOPOLOGY_KINDS[shape.topology].build(shape.stages, 1);
    this.unit = 1 / Math.max(1, shape.stages) ** 2;
    this.network = {
      ...network,
      capacitors: network.capacitors.map((part, at) => ({ ...part, farads: shape.multiples[at] })),
    };
  }

  /**
   * @param ratio stray capacitance across each diode over the capacitance of one place
   * @returns null where bookkeeping has no answer
   */
  at(ratio: number): ShapeResponse | null {
    const before = this.known.get(ratio);
    if (before !== undefined) return before;
    const product = ratio / this.unit;
    const upper = product <= 0 ? 0 : Math.max(1, Math.ceil(1 + Math.log(product / FIRST_KNOT) / Math.log(KNOT_STEP)));
    const other = this.knot(upper);
    const one = upper === 0 ? other : this.knot(upper - 1);
    const [from, to] = [knotAt(upper - 1), knotAt(upper)];
    const found = upper === 0 ? other : one && other && between(one, other, partBetween(product, from, to));
    this.known.set(ratio, found);
    return found;
  }

  private knot(at: number): ShapeResponse | null {
    const before = this.knots.get(at);
    if (before !== undefined) return before;
    const found = this.exactAt(knotAt(at) * this.unit);
    this.knots.set(at, found);
    return found;
  }

  private exactAt(strayFarads: number): ShapeResponse | null {
    const { network, form } = this;
    const ladder = loadedLadder(network, form, { forwardVolts: 0, strayFarads, onOhms: 0 });
    const { lightLoad, unloaded, feeding } = ladder;
    if (!Number.isFinite(lightLoad.droop)) return null;
    const dropped = withPeaksOf({ ...ladder, diode: { ...ladder.diode, forwardVolts: SMALL_DROP } }, form);
    const amplitude = amplitudeVolts(form);
    const ideal = idealVolts(network, form, 0);
    return {
      droop: lightLoad.droop,
      ripple: lightLoad.ripple,
      outputElastance: ladder.outputElastance,
      outputTurns: lightLoad.outputTurns,
      outputPerPeak: unloaded.outputVolts / amplitude,
      outputPerDrop: (unloaded.outputVolts - dropped.unloaded.outputVolts) / SMALL_DROP,
      idealPerPeak: ideal / amplitude,
      idealPerDrop: (ideal - idealVolts(network, form, SMALL_DROP)) / SMALL_DROP,
      feedthroughPerPeak: unloaded.feedthroughPeakToPeakVolts / amplitude,
      workingPerPeak: Math.max(...unloaded.capacitorVolts) / amplitude,
      reversePerPeak: Math.max(...unloaded.reverseVolts) / amplitude,
      energyPerSquare:
        network.capacitors.reduce((sum, part, at) => sum + part.farads * unloaded.capacitorVolts[at] ** 2, 0) /
        (2 * amplitude ** 2),
      chargeInAll: lightLoad.diodeCharges.reduce((sum, charge) => sum + charge, 0),
      chargeAtMost: Math.max(...lightLoad.diodeCharges),
      inputFarads: ladder.inputFarads,
      windingPulses: lightLoad.windingPulses,
      feeding: feeding.map(({ peak, volts, jump, rise, steady }) => ({
        peak,
        volts: volts / amplitude,
        jump,
        rise,
        steady,
      })),
      steps: ladder.steps,
    };
  }
}

/** How far along: what strays leave goes about as a power of one and four times the product, as a line's input does (handbook). */
const partBetween = (product: number, from: number, to: number) =>
  Math.log((1 + 4 * product) / (1 + 4 * from)) / Math.log((1 + 4 * to) / (1 + 4 * from));

const knotAt = (at: number) => (at <= 0 ? 0 : FIRST_KNOT * KNOT_STEP ** (at - 1));

const SINGLE = [
  'droop',
  'ripple',
  'outputElastance',
  'outputPerPeak',
  'outputPerDrop',
  'idealPerPeak',
  'idealPerDrop',
  'feedthroughPerPeak',
  'workingPerPeak',
  'reversePerPeak',
  'energyPerSquare',
  'chargeInAll',
  'chargeAtMost',
] as const satisfies readonly (keyof ShapeResponse)[];

/** Every figure between two knots: along the power that joins them, or straight where a sign changes. */
function between(one: ShapeResponse, other: ShapeResponse, fraction: number): ShapeResponse {
  const mix = (a: number, b: number) => (a > 0 && b > 0 ? a * (b / a) ** fraction : a + (b - a) * fraction);
  const mixed = { ...one };
  for (const name of SINGLE) mixed[name] = mix(one[name], other[name]);
  mixed.outputTurns = one.outputTurns.map(({ before, after }, at) => ({
    before: mix(before, other.outputTurns[at].before),
    after: mix(after, other.outputTurns[at].after),
  }));
  mixed.inputFarads = one.inputFarads.map((farads, at) => mix(farads, other.inputFarads[at]));
  mixed.windingPulses = one.windingPulses.map(({ positive, negative }, at) => ({
    positive: mix(positive, other.windingPulses[at].positive),
    negative: mix(negative, other.windingPulses[at].negative),
  }));
  mixed.feeding = one.feeding.map(({ peak, volts, jump, rise, steady }, at) => ({
    peak,
    volts: mix(volts, other.feeding[at].volts),
    jump: mix(jump, other.feeding[at].jump),
    rise: mix(rise, other.feeding[at].rise),
    steady: mix(steady, other.feeding[at].steady),
  }));
  return mixed;
}
