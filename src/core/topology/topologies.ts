import { bipolarNetwork } from './bipolar';
import { bridgeDoublerNetwork } from './bridge-doubler';
import { clampNetwork } from './clamp';
import { fullWaveNetwork } from './full-wave';
import { halfWaveNetwork } from './half-wave';
import type { LadderNetwork, Topology } from './network';
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
  /** What one stage is made of, for the hint beside the count. */
  stageHint: string;
  /** Whether it lives on pulses of one polarity, as a rectifier inside the transformer hands them on. */
  takesPulses: boolean;
  /** Whether capacitors alone join it to the winding, so that either may be earthed anywhere or nowhere. */
  floats: boolean;
  build: (stages: number, farads: number) => LadderNetwork;
};

/** Every topology there is, in the order in which they are offered. */
export const TOPOLOGY_KINDS: Record<Topology, TopologyKind> = {
  'half-wave': {
    name: 'Half-wave',
    describe: 'One oscillating and one smoothing column',
    stages: 'half',
    stageHint: 'A stage is two of each; half a stage one.',
    takesPulses: false,
    stagesEach: false,
    floats: false,
    build: halfWaveNetwork,
  },
  'full-wave': {
    name: 'Full-wave',
    describe: 'Two oscillating columns in antiphase on one smoothing column, from a centre-tapped winding',
    stages: 'whole',
    stageHint: 'A stage is three capacitors and four diodes.',
    takesPulses: false,
    stagesEach: false,
    floats: false,
    build: fullWaveNetwork,
  },
  bipolar: {
    name: 'Bipolar',
    describe: 'A positive and a negative half-wave ladder on one winding, the load across both',
    stages: 'half',
    stageHint: 'The count is for each side.',
    takesPulses: false,
    stagesEach: true,
    floats: false,
    build: bipolarNetwork,
  },
  'two-ended': {
    name: 'Two-ended',
    describe:
      'One ladder driven in its middle by a floating winding, a coupling capacitor at each end of it, the load across both terminals',
    stages: 'whole',
    stageHint: 'The count is for each side.',
    takesPulses: false,
    stagesEach: true,
    floats: true,
    build: twoEndedNetwork,
  },
  'bridge-doubler': {
    name: 'Bridge doubler',
    describe: 'Two capacitors and two diodes, each pair using one half-wave',
    stages: 'fixed',
    stageHint: '',
    takesPulses: false,
    stagesEach: false,
    floats: false,
    build: (_stages, farads) => bridgeDoublerNetwork(farads),
  },
  clamp: {
    name: 'Clamp',
    describe: 'One capacitor and one diode, not smoothed',
    stages: 'fixed',
    stageHint: '',
    takesPulses: false,
    stagesEach: false,
    floats: false,
    build: (_stages, farads) => clampNetwork(farads),
  },
  none: {
    name: 'None, alternating',
    describe: 'The winding straight onto the load, neither multiplied nor rectified',
    stages: 'fixed',
    stageHint: '',
    takesPulses: false,
    stagesEach: false,
    floats: false,
    build: noLadder,
  },
  rectifier: {
    name: 'Rectifier, no ladder',
    describe:
      'One diode, inside the transformer or outside, and one capacitor. Where none is fitted, enter what cable and load have: some tens of picofarads a metre',
    stages: 'fixed',
    stageHint: '',
    takesPulses: true,
    stagesEach: false,
    floats: false,
    build: (_stages, farads) => rectifierNetwork(farads),
  },
};

/** The stage count nearest above that the topology takes. */
export function stagesFor(topology: Topology, stages: number): number {
  return TOPOLOGY_KINDS[topology].stages === 'whole' ? Math.ceil(stages) : stages;
}
