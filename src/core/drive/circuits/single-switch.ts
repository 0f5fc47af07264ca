import { ratioOf, type Transformer } from '../../magnetics/transformer';
import {
  BODY_DIODE_VOLTS,
  feedPoint,
  SUPPLY_PROBES,
  LEAST_OHMS,
  type DriverPhase,
  type FedNode,
  type SupplyCircuit,
} from '../supply-circuit';
import { magnetising, secondaryWindings } from './windings';

/** A clamp holds its voltage within this part of it at the current it is let go with. */
const CLAMP_SOFTNESS = 0.005;
/** Steps in a radian of leakage ringing, for so many of them, and of the ring of the core. */
const LEAKAGE_STEPS_A_RADIAN = 2;
const LEAKAGE_STEPS = 60;
/** Steps in which a snubber's time constant passes, and short steps at most. */
const SNUBBER_STEPS = 6;
const MOST_FIRST_STEPS = 600;
const RING_STEPS_A_RADIAN = 8;
/** The same of leakage once the ladder has taken most of its ringing. */
const HELD_STEPS_A_RADIAN = 3;
/** Steps of a phase at least and at most. */
export const LEAST_STEPS = 120;
const MOST_STEPS = 1200;

/** Resistance in which what stands beside a base is charged, as a part of that which empties it: next to none. */
const CHARGING_SHARE = 0.01;

/** What a primary between supply and switch rings with, and what of that the steps of a phase have to follow. */
type Ringing = {
  /** Node that the primary is fed from. */
  supply: string;
  firstHeld: DriverPhase['first'];
  firstFree: DriverPhase['first'];
  /** Even steps of a phase in which the primary is held, and of one in which it is let go. */
  heldSteps: (seconds: number) => number;
  freeSteps: (seconds: number) => number;
};

/** A switch between a primary and ground, as the parts of a circuit. */
export type SingleSwitch = {
  hertz: number;
  /** Current it is expected to be opened on, A. */
  peakAmps: number;
  clampVolts: number | null;
  /** What the power that stops it there is called: a clamp's, or the switch's own where that breaks down. */
  clampFigure: 'clampWatts' | 'breakdownWatts';
  switchFarads: number;
  switchOhms: number;
  /** A capacitor behind a resistor across it. */
  snubber: { farads: number; ohms: number } | null;
  /** Of primary and secondary as they ring after the pulse, core and all. */
  ringQuality: number;
  /**
   * What its base draws from the supply, in phases that close `base`, as a resistance; beside it, and left on it when it
   * opens, a capacitance of so much, on the node `held`. Nothing: null.
   */
  base: { ohms: number; heldFarads: number | null } | null;
  phases: (ringing: Ringing) => readonly DriverPhase[];
};

/**
 * A primary on a core between the supply and a switch to ground, with leakage to
 * a secondary and its capacitance, the switch's own capacitance, body diode and
 * clamp. When the switch is closed its phases say.
 *
 * @param farads what the secondary shows of the ladder, F
 */
export function singleSwitchCircuit(
  feed: { volts: number; seriesOhms: number },
  {
    hertz,
    peakAmps,
    clampVolts,
    clampFigure,
    switchFarads,
    switchOhms,
    snubber,
    ringQuality,
    base,
    phases,
  }: SingleSwitch,
  transformer: Transformer,
  fed: readonly FedNode[],
  farads: number,
): SupplyCircuit {
  const ohms = Math.max(switchOhms, LEAST_OHMS);
  const supply = feedPoint(feed, hertz);
  const henries = transformer.primaryHenries!;
  const held = base && base.heldFarads !== null ? { ohms: base.ohms, farads: base.heldFarads } : null;
  const across = switchFarads + (snubber?.farads ?? 0);
  const released = [
    ['drain', 1],
    [supply.node, -1],
  ] as const;
  const { ringing, ...secondary } = secondaryWindings(transformer, fed, released, across, farads);
  const ratio = transformer.coupling * ratioOf(transformer);
  const primaryFarads = across + ratio ** 2 * (transformer.secondaryFarads + farads);
  const ring = primaryFarads > 0 ? Math.sqrt(henries * primaryFarads) : null;
  const amps = {
    kind: 'inductors',
    weights: [['core', 1], ...fed.map(({ sign }, index) => [`winding ${index + 1}`, -sign * ratio] as const)],
  } as const;
  return {
    railVolts: feed.volts,
    hertz,
    capacitors: [
      { id: 'switch', from: 'drain', to: 'ground', farads: switchFarads, startVolts: feed.volts },
      ...(snubber
        ? [{ id: 'snubber', from: 'drain', to: 'snubbed', farads: snubber.farads, startVolts: feed.volts }]
        : []),
      ...supply.capacitors,
      ...secondary.capacitors,
      ...(held ? [{ id: 'held', from: 'held', to: 'ground', farads: held.farads, startVolts: feed.volts }] : []),
    ],
    resistors: [
      ...supply.resistors,
      ...(held ? [{ from: 'held', to: 'ground', ohms: held.ohms }] : []),
      ...(snubber ? [{ id: 'snubber', from: 'snubbed', to: 'ground', ohms: Math.max(LEAST_OHMS, snubber.ohms) }] : []),
    ],
    diodes: [
      { id: 'body', anode: 'ground', cathode: 'drain', forwardVolts: BODY_DIODE_VOLTS, onOhms: ohms },
      ...(clampVolts === null
        ? []
        : [
            {
              id: 'clamp',
              anode: 'drain',
              cathode: 'ground',
              forwardVolts: clampVolts,
              onOhms: Math.max(LEAST_OHMS, (CLAMP_SOFTNESS * clampVolts) / peakAmps),
            },
          ]),
    ],
    switches: [
      { id: 'switch', from: 'drain', to: 'ground', ohms },
      ...(held
        ? [{ id: 'base', from: supply.node, to: 'held', ohms: held.ohms * CHARGING_SHARE }]
        : base
          ? [{ id: 'base', from: supply.node, to: 'ground', ohms: base.ohms }]
          : []),
    ],
    inductors: [
      ...secondary.inductors,
      ...magnetising(
        transformer,
        [
          [supply.node, 1],
          ['drain', -1],
        ],
        ring && (ringQuality * henries) / ring,
      ),
    ],
    phases: phases({
      supply: supply.node,
      firstHeld: firstSteps(ringing?.held, snubber),
      firstFree: firstSteps(ringing?.free, snubber),
      heldSteps: (seconds) => stepsWithin(ringing && HELD_STEPS_A_RADIAN * seconds * ringing.held),
      freeSteps: (seconds) => stepsWithin(ring && (RING_STEPS_A_RADIAN * seconds) / ring),
    }),
    probes: [
      ...SUPPLY_PROBES,
      { figure: 'switchPeakAmps', signal: amps, tells: 'most', whileClosed: 'switch' },
      { figure: 'primaryRmsAmps', signal: amps, tells: 'rms' },
      { figure: 'transistorPeakVolts', signal: { kind: 'across', from: 'drain', to: 'ground' }, tells: 'most' },
      { figure: 'transistorRmsAmps', signal: amps, tells: 'rms', whileClosed: 'switch' },
      { figure: 'transistorWatts', signal: { kind: 'switches', ids: ['switch'], as: 'W' }, tells: 'mean' },
      { figure: 'secondaryPeakVolts', signal: { kind: 'across', from: 'source', to: 'ground' }, tells: 'most' },
      ...(snubber
        ? [{ figure: 'snubberWatts', signal: { kind: 'resistor', id: 'snubber', as: 'W' }, tells: 'mean' } as const]
        : []),
      ...(clampVolts === null
        ? []
        : [{ figure: clampFigure, signal: { kind: 'diode', id: 'clamp', as: 'W' }, tells: 'mean' } as const]),
    ],
    courses: [
      { id: 'switch-volts', name: 'across the switch', signal: { kind: 'across', from: 'drain', to: 'ground' } },
      { id: 'primary-amps', name: 'primary current', signal: amps },
    ],
  };
}

const stepsWithin = (wanted: number | null) => Math.min(MOST_STEPS, Math.max(LEAST_STEPS, wanted ?? 0));

/** Steps short enough for leakage ringing at this angular frequency, rad/s, and for what a snubber takes to charge. */
function firstSteps(ringing: number | undefined, snubber: SingleSwitch['snubber']): DriverPhase['first'] {
  const rung = ringing === undefined ? Infinity : 1 / (LEAKAGE_STEPS_A_RADIAN * ringing);
  const seconds = Math.min(rung, snubber ? (snubber.ohms * snubber.farads) / SNUBBER_STEPS : Infinity);
  if (seconds === Infinity) return null;
  const steps = rung === Infinity ? LEAKAGE_STEPS : Math.ceil((LEAKAGE_STEPS * rung) / seconds);
  return { seconds, steps: Math.min(MOST_FIRST_STEPS, steps) };
}
