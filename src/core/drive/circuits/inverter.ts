import type { Transformer } from '../../magnetics/transformer';
import {
  BODY_DIODE_VOLTS,
  feedPoint,
  LEAST_OHMS,
  SUPPLY_PROBES,
  type DriverInductor,
  type FedNode,
  type SupplyCircuit,
  type Terms,
} from '../supply-circuit';
import { magnetising, secondaryWindings } from './windings';

/** Of a switch, so that its end has something to swing while all are open (common practice, no source). */
const SWITCH_FARADS = 100e-12;
/** Part of a switch's resistance that the halves of a centre-tapped primary stand apart by. */
const HALVES_PART = 0.02;
const ON_STEPS = 320;
const DEAD_STEPS = 30;
/** Steps in a radian of leakage ringing, for so many of them. */
const LEAKAGE_STEPS_A_RADIAN = 8;
const LEAKAGE_STEPS = 240;

/** One way of putting a supply across a primary by turns. */
type Bridge = {
  /** Switches from the supply's node or an end to another, and which are closed in either half. */
  switches: { id: string; from: string; to: string }[];
  halves: [string[], string[]];
  ends: string[];
  /** What stands across the whole primary, and how many times the supply that is in the first half. */
  whole: Terms;
  supplies: number;
  /** A driven half carries so many times what the whole would. */
  share: 1 | 2;
  inductors: DriverInductor[];
};

/**
 * Switches that put the supply across a primary one way round and the other, in
 * fixed times, with their resistance, body diodes and a dead time.
 *
 * @param farads what the secondary shows of the ladder, F
 */
export function inverterCircuit(
  feed: { volts: number; seriesOhms: number },
  driver: {
    bridge: 'half' | 'full' | 'push-pull';
    frequencyHertz: number;
    deadSeconds: number;
    transistorOhms: number;
    blockingFarads: number | null;
  },
  transformer: Transformer,
  fed: readonly FedNode[],
  farads: number,
): SupplyCircuit {
  const { frequencyHertz, deadSeconds, blockingFarads } = driver;
  const ohms = Math.max(driver.transistorOhms, LEAST_OHMS);
  const supply = feedPoint(feed, frequencyHertz);
  const blocked = blockingFarads !== null && driver.bridge !== 'push-pull';
  const bridge = BRIDGES[driver.bridge](supply.node, blocked ? 'primary' : 'end 1', ohms);
  const secondary = secondaryWindings(transformer, fed, bridge.whole, 0, farads);
  const dead = Math.min(deadSeconds, 0.5 / frequencyHertz);
  const on = 0.5 / frequencyHertz - dead;
  const first = secondary.ringing && {
    seconds: 1 / (LEAKAGE_STEPS_A_RADIAN * secondary.ringing.held),
    steps: LEAKAGE_STEPS,
  };
  const phases = bridge.halves.flatMap((closed): SupplyCircuit['phases'][number][] => [
    { seconds: on, closed, until: null, steps: ON_STEPS, first },
    ...(dead > 0 ? [{ seconds: dead, closed: [], until: null, steps: DEAD_STEPS, first: null }] : []),
  ]);
  // Half of a half period's flux below the middle, so that the core swings evenly.
  const drawn = magnetising(transformer, bridge.whole, null, (-bridge.supplies * feed.volts * on) / 2);
  const primaryAmps = [
    ...drawn.map(({ id }) => [id, bridge.share] as const),
    ...secondary.inductors.map(({ id, terms }) => [id, bridge.share * weightOf(terms, bridge.whole)] as const),
  ];
  return {
    railVolts: feed.volts,
    hertz: frequencyHertz,
    capacitors: [
      ...supply.capacitors,
      ...bridge.ends.map((end) => ({ id: end, from: end, to: 'ground', farads: SWITCH_FARADS, startVolts: 0 })),
      ...(blocked
        ? [
            {
              id: 'blocking',
              from: 'primary',
              to: 'end 1',
              farads: blockingFarads,
              startVolts: 0,
            },
          ]
        : []),
      ...secondary.capacitors,
    ],
    resistors: supply.resistors,
    diodes: bridge.switches.map(({ id, from, to }) => ({
      id: `body ${id}`,
      anode: to,
      cathode: from,
      forwardVolts: BODY_DIODE_VOLTS,
      onOhms: ohms,
    })),
    switches: bridge.switches.map((one) => ({ ...one, ohms })),
    inductors: [...secondary.inductors, ...drawn, ...bridge.inductors],
    phases,
    probes: [
      ...SUPPLY_PROBES,
      { figure: 'primaryRmsAmps', signal: { kind: 'inductors', weights: primaryAmps }, tells: 'rms' },
      { figure: 'primaryPeakAmps', signal: { kind: 'inductors', weights: primaryAmps }, tells: 'most' },
      {
        figure: 'transistorPeakVolts',
        signal: { kind: 'across', from: bridge.ends[0], to: 'ground' },
        tells: 'most',
      },
      {
        figure: 'transistorRmsAmps',
        signal: { kind: 'inductors', weights: primaryAmps },
        tells: 'rms',
        whileClosed: bridge.halves[0][0],
      },
      {
        figure: 'conductionWatts',
        signal: { kind: 'switches', ids: bridge.switches.map(({ id }) => id), as: 'W' },
        tells: 'mean',
      },
      ...(blocked
        ? ([
            {
              figure: 'blockingRippleVolts',
              signal: { kind: 'across', from: 'primary', to: 'end 1' },
              tells: 'span',
            },
          ] as const)
        : []),
      { figure: 'secondaryPeakVolts', signal: { kind: 'across', from: 'source', to: 'ground' }, tells: 'most' },
    ],
    courses: [
      {
        id: 'switch-volts',
        name: 'across one transistor',
        signal: { kind: 'across', from: bridge.ends[0], to: 'ground' },
      },
      { id: 'primary-amps', name: 'primary current', signal: { kind: 'inductors', weights: primaryAmps } },
    ],
  };
}

/** What a winding's current is of the primary's: its weight on the primary's first node, over the primary's own there. */
function weightOf(terms: Terms, primary: Terms): number {
  const [node, own] = primary[0];
  return terms.find(([name]) => name === node)![1] / own;
}

const BRIDGES: Record<'half' | 'full' | 'push-pull', (supply: string, hot: string, ohms: number) => Bridge> = {
  half: (supply, hot) => ({
    switches: [
      { id: 'upper', from: supply, to: 'end 1' },
      { id: 'lower', from: 'end 1', to: 'ground' },
    ],
    halves: [['upper'], ['lower']],
    ends: ['end 1'],
    // The other end of the primary stands in the middle of two capacitors that hardly ripple.
    whole: [
      [hot, 1],
      [supply, -0.5],
    ],
    supplies: 0.5,
    share: 1,
    inductors: [],
  }),
  full: (supply, hot) => ({
    switches: [
      { id: 'upper 1', from: supply, to: 'end 1' },
      { id: 'lower 1', from: 'end 1', to: 'ground' },
      { id: 'upper 2', from: supply, to: 'end 2' },
      { id: 'lower 2', from: 'end 2', to: 'ground' },
    ],
    halves: [
      ['upper 1', 'lower 2'],
      ['upper 2', 'lower 1'],
    ],
    ends: ['end 1', 'end 2'],
    whole: [
      [hot, 1],
      ['end 2', -1],
    ],
    supplies: 1,
    share: 1,
    inductors: [],
  }),
  'push-pull': (supply, _hot, ohms) => ({
    switches: [
      { id: 'switch 1', from: 'end 1', to: 'ground' },
      { id: 'switch 2', from: 'end 2', to: 'ground' },
    ],
    halves: [['switch 2'], ['switch 1']],
    ends: ['end 1', 'end 2'],
    whole: [
      ['end 1', 1],
      ['end 2', -1],
    ],
    supplies: 2,
    share: 2,
    // The halves are wound together: the tap stands in the middle of the ends, but for the copper between.
    inductors: [
      {
        id: 'tap',
        terms: [
          ['end 1', 0.5],
          ['end 2', 0.5],
          [supply, -1],
        ],
        ohms: Math.max(LEAST_OHMS, HALVES_PART * ohms),
        henries: 0,
        dampingOhms: null,
        saturation: null,
        startFlux: 0,
      },
    ],
  }),
};
