import type { Design } from '../design/design-schema';
import { beyondHandMeter } from '../predict/before-power';
import type { Prediction } from '../predict/prediction';
import { formatQuantity } from '../quantity/format-quantity';

/** One thing to do, in its turn. */
export type DeadStep = {
  id: string;
  /** The capacitor that it is about, and the nodes it is between; null for all other steps. */
  capacitor: { id: string; lower: string; upper: string } | null;
  title: string;
  text: string;
  /** How long it takes at least, s; null where it takes as long as it takes. */
  seconds: number | null;
  /** What is read at its end: under how many volts dc it must be to go on, what may stand there instead, V, and what reads it. */
  reading: { where: string; underVolts: number; mostVolts: number; meter: string } | null;
};

export type StepFigures = {
  limitVolts: number;
  stickOhms: number;
  /** How long the stick is held at the terminal and on each capacitor, in the prediction's order, s. */
  holds: { terminal: number; each: readonly number[] };
  bleedSeconds: number | null;
  reboundVolts: number;
};

const volts = (value: number) => formatQuantity(value, 'V', 2);

/**
 * The order in which a design is made dead: the drive off and kept off, what
 * bleeds by itself, the stick at the terminal, a strap there that stays, every
 * capacitor by itself from the top down. Common practice, no source; local codes
 * and licensed practice come first.
 */
export function stepsOf(design: Design, prediction: Prediction, figures: StepFigures): DeadStep[] {
  const { limitVolts, stickOhms, holds, bleedSeconds, reboundVolts } = figures;
  const { terminals, output, capacitors } = prediction;
  const terminal = terminals.return === 'ground' ? 'the terminal' : 'one terminal';
  const other = terminals.return === 'ground' ? 'ground' : 'the other terminal';
  const stick = formatQuantity(stickOhms, 'Ω');
  const steps: DeadStep[] = [
    {
      id: 'off',
      capacitor: null,
      title: 'Drive off, and kept off',
      text: `${offWords(design)} Nobody but you touches it from here on. One hand; no rings, no watch.`,
      seconds: null,
      reading: null,
    },
  ];
  if (bleedSeconds !== null && bleedSeconds > 0)
    steps.push({
      id: 'bleeder',
      capacitor: null,
      title: 'Let the bleeder work',
      text: `A sound bleeder brings the terminal under 60 V in this time. Go on as if it had come off: it shows by nothing.`,
      seconds: Math.ceil(bleedSeconds),
      reading: null,
    });
  steps.push({
    id: 'clip',
    capacitor: null,
    title: 'Ground end of the stick first',
    text: `Clip the stick’s own lead to ${other}, pull at it, and hold the stick by its far end. ${stick}, no screwdriver: a bare short draws an arc that throws metal, and nothing but leads limits what diodes carry.`,
    seconds: null,
    reading: null,
  });
  steps.push({
    id: 'terminal',
    capacitor: null,
    title: 'Stick on the terminal',
    text: `Touch ${terminal} of the ladder itself${design.output.seriesOhms > 0 ? ', before the series string: behind one that has come open nothing is felt of all this, and nothing read' : ''}. Keep it there for the whole time.`,
    seconds: holds.terminal,
    reading: {
      where: `${terminal} against ${other}`,
      underVolts: limitVolts,
      mostVolts: output.noLoadPeakVolts,
      meter: terminalMeter(prediction, limitVolts),
    },
  });
  steps.push({
    id: 'strap',
    capacitor: null,
    title: 'Strap on, and left on',
    text: `Clip a plain lead from ${terminal} to ${other}. It stays while you work: what the dielectric has soaked up comes back over minutes, up to some ${volts(reboundVolts)}.`,
    seconds: null,
    reading: null,
  });
  for (let at = capacitors.length - 1; at >= 0; at -= 1) {
    const { id, lower, upper, count, workingVolts } = capacitors[at];
    steps.push({
      id: `capacitor ${id}`,
      capacitor: { id, lower: placeWords(lower), upper: placeWords(upper) },
      title: `Stick across ${id}`,
      text: `Both ends of the stick on its own leads, ${placeWords(lower)} and ${placeWords(upper)}${count > 1 ? '; each of the two at the winding by itself' : ''}. A diode, or the winding, that has failed keeps its charge here although the terminal reads nothing.`,
      seconds: holds.each[at],
      reading: { where: id, underVolts: limitVolts, ...readAt(workingVolts) },
    });
  }
  steps.push({
    id: 'again',
    capacitor: null,
    title: 'Once more, after a while',
    text:
      capacitors.length > 0
        ? `Strap still on: the stick across every capacitor once more, ${formatQuantity(Math.max(...holds.each), 's', 2)} each: what failed may have moved charge, and dielectrics give back over minutes. Then measure each; one that reads ${volts(limitVolts)} or more gets the stick again, and all are measured once more. It is dead where you have measured it, and nowhere else.`
        : 'Measure again. It is dead where you have measured it, and nowhere else.',
    seconds: capacitors.length > 0 ? AGAIN_SECONDS : null,
    reading: {
      where: capacitors.length > 0 ? 'highest of all capacitors' : `${terminal} against ${other}`,
      underVolts: limitVolts,
      ...readAt(capacitors.length > 0 ? reboundVolts : output.noLoadPeakVolts),
    },
  });
  return steps;
}

/** Nodes without a name of their own, in words. */
const PLACES: Readonly<Record<string, string>> = {
  ground: 'ground',
  source: 'the winding',
  antisource: 'the winding’s other end',
};
const placeWords = (node: string): string => PLACES[node] ?? node;

/** What reads a place where so much may still stand, should something have failed, V. */
function meterFor(mostVolts: number): string {
  return beyondHandMeter(mostVolts)
    ? `A divider or probe made for over ${volts(mostVolts)} first, dc: that much stands there if something has failed. A hand meter only once that reads next to nothing.`
    : `A hand meter on its dc range over ${volts(mostVolts)}: that much stands there if something has failed.`;
}

const readAt = (mostVolts: number) => ({ mostVolts, meter: meterFor(mostVolts) });

/** The same of the terminal, with what the design's own divider shows there. */
function terminalMeter({ output, divider }: Prediction, limitVolts: number): string {
  const meter = meterFor(output.noLoadPeakVolts);
  return divider ? `${meter} The design’s own divider shows under ${volts(limitVolts / divider.ratio)} then.` : meter;
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
