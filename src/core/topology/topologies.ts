import { bipolarNetwork } from './bipolar';
import { bridgeDoublerNetwork } from './bridge-doubler';
import { clampNetwork } from './clamp';
import { fullWaveNetwork } from './full-wave';
import { halfWaveNetwork } from './half-wave';
import { standingIn, type LadderNetwork, type Topology } from './network';
import { noLadder } from './no-ladder';
import { twoEndedNetwork } from './two-ended';
import { rectifierNetwork } from './rectifier';

type TopologyKind = {
  name: string;
  /** What it is, in the words of the trade. */
  describe: string;
  /** What stage counts it takes: its form is fixed, whole stages, or halves as well. */
  stages: 'fixed' | 'whole' | 'half';
  /** Whether the count is for each of two sides. */
  stagesEach: boolean;
  /** What a stage of two of each is made of, and what one of each is, in words; empty where the form is fixed. */
  stageMakes: { two: string; one: string };
  /** Whether it lives on pulses of one polarity, as a rectifier inside the transformer hands them on. */
  takesPulses: boolean;
  /** Whether capacitors alone join it to the winding, so that either may be earthed anywhere or nowhere. */
  floats: boolean;
  /** What its ground is, in words, where no terminal is; null where one is. */
  ground: string | null;
  build: (stages: number, farads: number) => LadderNetwork;
};

const PAIR = { two: 'two capacitors and two diodes', one: 'A stage is one capacitor and one diode' };

/** Every topology there is, in the order in which they are offered. */
export const TOPOLOGY_KINDS: Record<Topology, TopologyKind> = {
  'half-wave': {
    name: 'Half-wave',
    describe: 'One oscillating and one smoothing column',
    stages: 'half',
    stageMakes: {
      two: 'two capacitors and two diodes; half a stage one of each',
      one: 'A stage is one capacitor and one diode',
    },
    takesPulses: false,
    stagesEach: false,
    floats: false,
    ground: null,
    build: halfWaveNetwork,
  },
  'full-wave': {
    name: 'Full-wave',
    describe: 'Two oscillating columns in antiphase on one smoothing column, from a centre-tapped winding',
    stages: 'whole',
    stageMakes: { two: 'three capacitors and four diodes', one: 'Two stages are three capacitors and four diodes' },
    takesPulses: false,
    stagesEach: false,
    floats: false,
    ground: null,
    build: fullWaveNetwork,
  },
  bipolar: {
    name: 'Bipolar',
    describe: 'A positive and a negative half-wave ladder on one winding, the load across both',
    stages: 'half',
    stageMakes: PAIR,
    takesPulses: false,
    stagesEach: true,
    floats: false,
    ground: 'the grounded end of the winding',
    build: bipolarNetwork,
  },
  'two-ended': {
    name: 'Two-ended',
    describe:
      'One ladder driven in its middle by a floating winding, a coupling capacitor at each end of it, the load across both terminals',
    stages: 'whole',
    stageMakes: PAIR,
    takesPulses: false,
    stagesEach: true,
    floats: true,
    ground: 'the middle of the ladder, where the winding’s other end drives it',
    build: twoEndedNetwork,
  },
  'bridge-doubler': {
    name: 'Bridge doubler',
    describe: 'Two capacitors and two diodes, each pair using one half-wave',
    stages: 'fixed',
    stageMakes: { two: '', one: '' },
    takesPulses: false,
    stagesEach: false,
    floats: false,
    ground: 'the end of the winding between the two capacitors',
    build: (_stages, farads) => bridgeDoublerNetwork(farads),
  },
  clamp: {
    name: 'Clamp',
    describe: 'One capacitor and one diode, not smoothed',
    stages: 'fixed',
    stageMakes: { two: '', one: '' },
    takesPulses: false,
    stagesEach: false,
    floats: false,
    ground: null,
    build: (_stages, farads) => clampNetwork(farads),
  },
  none: {
    name: 'None, alternating',
    describe: 'The winding straight onto the load, neither multiplied nor rectified',
    stages: 'fixed',
    stageMakes: { two: '', one: '' },
    takesPulses: false,
    stagesEach: false,
    floats: false,
    ground: null,
    build: noLadder,
  },
  rectifier: {
    name: 'Rectifier, no ladder',
    describe:
      'One diode, inside the transformer or outside, and one capacitor. Where none is fitted, enter what cable and load have: some tens of picofarads a metre',
    stages: 'fixed',
    stageMakes: { two: '', one: '' },
    takesPulses: true,
    stagesEach: false,
    floats: false,
    ground: null,
    build: (_stages, farads) => rectifierNetwork(farads),
  },
};

/** The stage count nearest above that the topology takes. */
export function stagesFor(topology: Topology, stages: number): number {
  return TOPOLOGY_KINDS[topology].stages === 'whole' ? Math.ceil(stages) : stages;
}

/**
 * Capacitors and diodes that a ladder of so many stages takes.
 *
 * @param each how many of them make up one place: strings and banks
 */
export function partsOf(
  topology: Topology,
  stages: number,
  each = { capacitors: 1, diodes: 1 },
): { capacitors: number; diodes: number } {
  const { capacitors, diodes } = TOPOLOGY_KINDS[topology].build(stages, 1);
  const standing = capacitors.reduce((sum, part) => sum + standingIn(part), 0);
  return { capacitors: each.capacitors * standing, diodes: each.diodes * diodes.length };
}

/** "16 capacitors and 16 diodes". */
export function inParts({ capacitors, diodes }: ReturnType<typeof partsOf>): string {
  const count = (number: number, name: string) => `${number} ${name}${number === 1 ? '' : 's'}`;
  return `${count(capacitors, 'capacitor')} and ${count(diodes, 'diode')}`;
}
