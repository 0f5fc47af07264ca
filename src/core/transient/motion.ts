import type { Prediction } from '../predict/prediction';
import { nodeVoltsOf, type Moments } from './moments';

/** What is played: the settled period over and over, the charge-up from dead, or the discharge. */
export type MotionKind = 'settled' | 'charge-up' | 'discharge';

/** A run as the Climb plays it: everything by the prediction's own parts, frame by frame, as magnitudes like it. */
export type Motion = {
  kind: MotionKind;
  /** From the start of the run, s. */
  times: Float64Array;
  /** Where each frame stands in the playing, from 0 to 1: a period by time, a run from or to nothing by what happens in it. */
  pace: Float64Array;
  /** How often each diode conducts, for the length of the playing. */
  cycles: number;
  nodes: ReadonlyMap<string, Float64Array>;
  /** Voltage from lower to upper and the current that charges it, in the prediction's order, V and A. */
  capacitors: { id: string; volts: Float64Array; amps: Float64Array }[];
  /** Current, A, and whether it is one that counts, in the prediction's order. */
  diodes: { id: string; amps: Float64Array; conducts: Uint8Array }[];
  /** Nodes beyond the ladder as far as the run has them, from its terminal on. */
  beyond: { id: string; volts: Float64Array }[];
  /** Between the terminals, V. */
  output: Float64Array;
  /** Greatest current of any part, A: at no load what strays take, far more than any diode passes. */
  mostAmps: number;
  /** Frames at which diodes start or stop. */
  events: { frame: number; starts: string[]; stops: string[] }[];
};

/** A diode conducts where it passes more than this of the most it passes about then, and of the most that any diode ever does. */
const OF_ITS_OWN = 0.01;
const OF_ALL = 1e-5;
/** Frames to either side that count as about then, where the run is not one period. */
const ABOUT_THEN = 30;

/**
 * The frames of a run for playing.
 *
 * Of a period frames follow time; a charge-up strides over periods that look
 * alike and a discharge falls over decades of time, so both go frame by frame.
 *
 * @param moments at least one
 * @throws RangeError without a moment
 */
export function motionOf(prediction: Prediction, moments: Moments, kind: MotionKind): Motion {
  const { times } = moments;
  const frames = times.length;
  if (frames === 0) throw new RangeError('motionOf: nothing was recorded');
  const volts = new Map(prediction.nodes.map(({ id }) => [id, nodeVoltsOf(moments, id)]));
  const between = (upper: string, lower: string) => volts.get(upper)!.map((high, at) => high - volts.get(lower)![at]);
  const { output, return: back } = prediction.terminals;
  const capacitors = prediction.capacitors.map(({ id, upper, lower, farads }) => {
    const across = between(upper, lower);
    return { id, volts: across, amps: chargingAmps(across, farads, times, kind) };
  });
  const ofDiodes = Math.max(0, ...moments.diodeAmps.map((amps) => greatest(amps, 0, frames)));
  const mostAmps = Math.max(ofDiodes, ...capacitors.map(({ amps }) => greatest(amps.map(Math.abs), 0, frames)));
  const diodes = prediction.diodes.map(({ id }, index) => {
    const amps = moments.diodeAmps[index];
    return { id, amps, conducts: conducting(amps, kind === 'settled' ? frames : ABOUT_THEN, OF_ALL * ofDiodes) };
  });
  const events = eventsOf(diodes, kind === 'settled');
  return {
    kind,
    times,
    pace: times.map((seconds, frame) =>
      kind === 'settled' ? seconds / times[frames - 1] : frames > 1 ? frame / (frames - 1) : 1,
    ),
    cycles: Math.max(1, ...diodes.map(({ id }) => events.filter(({ starts }) => starts.includes(id)).length)),
    nodes: volts,
    capacitors,
    diodes,
    beyond: prediction.farEnd.nodes.flatMap(({ id }) => {
      const found = id === 'terminal' ? volts.get(output) : moments.nodes.get(id);
      return found ? [{ id, volts: found }] : [];
    }),
    output: between(output, back),
    mostAmps,
    events,
  };
}

function chargingAmps(volts: Float64Array, farads: number, times: Float64Array, kind: MotionKind): Float64Array {
  return volts.map((now, frame) => {
    if (frame > 0) return (farads * (now - volts[frame - 1])) / (times[frame] - times[frame - 1]);
    // A period ends where it begins; of a run's start nothing came before.
    return kind === 'settled' ? (farads * (now - volts[volts.length - 1])) / times[0] : 0;
  });
}

function greatest(values: Float64Array, from: number, to: number): number {
  let most = 0;
  for (let at = Math.max(0, from); at < Math.min(values.length, to); at += 1) most = Math.max(most, values[at]);
  return most;
}

function conducting(amps: Float64Array, about: number, least: number): Uint8Array {
  return Uint8Array.from(amps, (now, frame) =>
    now > least && now > OF_ITS_OWN * greatest(amps, frame - about, frame + about + 1) ? 1 : 0,
  );
}

function eventsOf(diodes: Motion['diodes'], repeats: boolean): Motion['events'] {
  const frames = diodes[0]?.conducts.length ?? 0;
  const events: Motion['events'] = [];
  for (let frame = 0; frame < frames; frame += 1) {
    const was = ({ conducts }: Motion['diodes'][number]) =>
      frame > 0 ? conducts[frame - 1] : repeats ? conducts[frames - 1] : 0;
    const change = (to: 0 | 1) =>
      diodes.filter((diode) => diode.conducts[frame] === to && was(diode) !== to).map(({ id }) => id);
    const [starts, stops] = [change(1), change(0)];
    if (starts.length + stops.length > 0) events.push({ frame, starts, stops });
  }
  return events;
}

/** A place between two frames. */
export type Place = { frame: number; next: number; fraction: number };

/** Which frames stand about a position from 0 to 1, by a search in the pace. */
export function placeAt({ pace }: Pick<Motion, 'pace'>, position: number): Place {
  let low = 0;
  let high = pace.length - 1;
  if (position <= pace[0]) return { frame: 0, next: 0, fraction: 0 };
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (pace[middle] <= position) low = middle;
    else high = middle;
  }
  const fraction = high === low ? 0 : Math.min(1, (position - pace[low]) / (pace[high] - pace[low]));
  return { frame: low, next: high, fraction };
}

/** A frame's value, or one between two frames. */
export const valueAt = (values: Float64Array, { frame, next, fraction }: Place): number =>
  values[frame] + fraction * (values[next] - values[frame]);

/** The position, 0 to 1, at a time of the run, s; the nearest there is. */
export function positionAt({ times, pace }: Pick<Motion, 'times' | 'pace'>, seconds: number): number {
  const place = placeAt({ pace: times }, seconds);
  return valueAt(pace, place);
}

/** The position of the next event, or the one before; around its end where a period repeats, else where it stands. */
export function eventBeside({ events, pace, kind }: Motion, position: number, by: 1 | -1): number {
  const places = events.map(({ frame }) => pace[frame]);
  const beyond =
    by > 0 ? places.find((place) => place > position + 1e-9) : places.findLast((place) => place < position - 1e-9);
  if (beyond !== undefined) return beyond;
  if (places.length === 0) return position;
  if (kind === 'settled') return by > 0 ? places[0] : places[places.length - 1];
  return by > 0 ? 1 : 0;
}
