import type { Design } from '../design/design-schema';
import { beyondHandMeter } from '../predict/before-power';
import type { Prediction } from '../predict/prediction';
import { isOutputNode, isSmoothedNode, smoothedNode } from '../output/elements';
import { formatQuantity } from '../quantity/format-quantity';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { LEAST_HOLD_SECONDS, OUTPUT_END, type Touch } from './touches';

/** One thing to do, in its turn. */
export type DeadStep = {
  id: string;
  /** The node it is about, in words, whether it stands behind the ladder's own terminal, and the capacitors that are empty with it; null for steps at no one node. */
  node: { name: string; isTerminal: boolean; isBeyond: boolean; empties: string[] } | null;
  title: string;
  text: string;
  /** How long it takes at least, s; null where it takes as long as it takes. */
  seconds: number | null;
  /** What is read at its end: under how many volts dc it must be to go on, what may stand there where something has failed, V, and what reads it. */
  reading: { where: string; underVolts: number; failedVolts: number; meter: string } | null;
};

export type StepFigures = {
  limitVolts: number;
  stickOhms: number;
  /** Nodes in their order, and how long the stick is held on each, s. */
  touches: readonly (Touch & { seconds: number })[];
  /** The most that stands at any node, V. */
  mostVolts: number;
  bleedSeconds: number | null;
  reboundVolts: number;
};

const volts = (value: number) => formatQuantity(value, 'V', 2);
/** To two digits, and never too low, or never too high. */
const atLeast = (value: number) => volts(twoDigits(value, Math.ceil));
const atMost = (value: number) => volts(twoDigits(value, Math.floor));
function twoDigits(value: number, to: (value: number) => number): number {
  if (!(value > 0)) return 0;
  const power = Math.floor(Math.log10(value)) - 1;
  return Number(`${to(Number(`${value}e${-power}`))}e${power}`);
}

/**
 * The order in which a design is made dead: the drive off and kept off, what
 * bleeds by itself, then with the stick's lead on ground one node after the other:
 * stick, meter, strap. One hand, and it touches nothing that was not measured
 * against ground just before. Common practice, no source; local codes and licensed
 * practice come first.
 */
export function stepsOf(design: Design, prediction: Prediction, figures: StepFigures): DeadStep[] {
  const { limitVolts, stickOhms, touches, mostVolts, bleedSeconds, reboundVolts } = figures;
  const { capacitors, divider } = prediction;
  const meter = meterFor(mostVolts);
  const steps: DeadStep[] = [
    {
      id: 'off',
      node: null,
      title: 'Drive off, and kept off',
      text: `${offWords(design)} Nobody but you touches it from here on. One hand; no rings, no watch.`,
      seconds: null,
      reading: null,
    },
  ];
  if (bleedSeconds !== null && bleedSeconds > 0)
    steps.push({
      id: 'bleeder',
      node: null,
      title: 'Let the bleeder work',
      text: 'A sound bleeder brings the output under 60 V in this time. Go on as if it had come off: nothing shows that it has.',
      seconds: Math.ceil(bleedSeconds),
      reading: null,
    });
  steps.push({
    id: 'clip',
    node: null,
    title: 'The stick’s lead on ground',
    text: `Clip it on before anything else, pull at it, and hold the stick by its far end. ${formatQuantity(stickOhms, 'Ω')}, no screwdriver: a bare short draws an arc that throws metal, and nothing but leads limits what diodes carry.${groundWords(prediction)}`,
    seconds: null,
    reading: null,
  });
  const series = design.output.seriesOhms > 0 || design.output.smoothing.length > 0;
  const dividerAt = design.output.smoothing.length > 0 ? smoothedNode(design.output.smoothing.length) : null;
  // Between two terminals that both float one feeds the other for a while.
  const areTwo = prediction.terminals.return !== 'ground';
  for (const { node, isTerminal, empties, failedVolts, seconds } of touches) {
    const name = nodeWords(node, isTerminal, design.output.smoothing.length);
    steps.push({
      id: `node ${node}`,
      node: { name, isTerminal, isBeyond: isOutputNode(node), empties },
      title: `Stick on ${name}`,
      text: `${node === OUTPUT_END ? 'Where the load is: what hangs there keeps its charge if the string has come open. ' : isSmoothedNode(node) ? 'It keeps its charge if what is before it has come open. ' : isTerminal && series ? 'The ladder’s own, before what stands behind it: keep clear of that until its turn, for a way that has come open keeps it charged. ' : ''}Hold it there for the whole time, then measure against ground. Under ${volts(limitVolts)}: a plain lead, clipped to ground first and then to it, and left on.${areTwo && isTerminal && !isOutputNode(node) ? ' If it still reads more, hold it there again for as long: the other terminal feeds it for a while.' : ''}`,
      seconds,
      reading: {
        where: `${name} against ground`,
        underVolts: limitVolts,
        failedVolts,
        meter:
          meter +
          (divider && (dividerAt ? node === dividerAt : isTerminal && node !== OUTPUT_END)
            ? ` The design’s own divider shows under ${atMost(limitVolts / divider.ratio)} then.`
            : ''),
      },
    });
  }
  steps.push({
    id: 'again',
    node: null,
    title: 'Once more, after a while',
    text: `Straps on, all of them: what a dielectric has soaked up comes back over minutes, at the output up to some ${atLeast(reboundVolts)}. Measure across every capacitor. It is dead where you have measured it, and nowhere else; a strap that comes off is measured for anew.`,
    seconds: capacitors.length > 0 ? AGAIN_SECONDS : null,
    reading: {
      where: capacitors.length > 0 ? 'the highest of all capacitors' : 'the output against ground',
      underVolts: limitVolts,
      failedVolts: Math.max(0, ...capacitors.map((part) => part.workingVolts)),
      meter,
    },
  });
  return steps;
}

/** What ground is where no terminal is, and how it is brought to earth. */
function groundWords({ topology }: Prediction): string {
  const { ground } = TOPOLOGY_KINDS[topology];
  return ground === null
    ? ''
    : ` Ground is here ${ground}: if that is not on earth already, put the stick’s lead on earth, touch it with the stick for ${LEAST_HOLD_SECONDS} s first, measure it, and strap it to earth.`;
}

/** Nodes without a name of their own, in words. */
const PLACES: Readonly<Record<string, string>> = {
  source: 'the winding’s hot end',
  antisource: 'the winding’s other hot end',
};
function nodeWords(node: string, isTerminal: boolean, sections: number): string {
  if (isSmoothedNode(node))
    return sections > 1 ? `smoothing capacitor ${node.replace(/\D/g, '')}` : 'the smoothing capacitor';
  if (node === OUTPUT_END) return 'the end of the series string';
  if (isTerminal) return node in PLACES ? 'the output' : `terminal ${node}`;
  return PLACES[node] ?? node;
}

/** What reads any place of a ladder of which so much stands anywhere, V: with something failed no place is known to have less. */
function meterFor(mostVolts: number): string {
  return beyondHandMeter(mostVolts)
    ? `A divider or probe made for over ${atLeast(mostVolts)} first, dc, whatever the place. A hand meter only once that reads next to nothing.`
    : `A hand meter on a dc range over ${atLeast(mostVolts)}, whatever the place.`;
}

/** Dielectric absorption is mostly back after so long, s (common practice, no source). */
const AGAIN_SECONDS = 300;

function offWords({ supply }: Design): string {
  switch (supply?.kind) {
    case 'mains':
      return 'Switch off and pull the plug: a switch alone may leave the live line on.';
    case 'smoothed-mains':
      return 'Switch off and pull the plug. The supply’s own smoothing capacitor stays charged to the peak of the mains: it is discharged and measured like one of the ladder’s, whatever this plan says of the ladder.';
    case 'battery':
      return 'Switch off and take the battery’s lead off.';
    default:
      return 'Switch off and take the supply’s lead off.';
  }
}
