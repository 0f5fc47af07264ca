import type { Prediction } from '@/core/predict/prediction';
import { valueAt, type Motion, type Place } from '@/core/transient/motion';
import { nodeX, type ClimbLayout } from './climb-layout';
import { hundredth, tenth } from './climb-places';
import { farEndPlaces } from './far-end-places';

/** What a part looks like at one moment. */
type MovingPart = {
  path: string;
  /** Middle of its body. */
  x: number;
  y: number;
  /** How thick its current is drawn, from 0 to 1, and which way along the path it flows. */
  flow: number;
  direction: 1 | -1;
};

type MovingCapacitor = MovingPart & {
  /** Share of its rating, or of what it works at where it has none. */
  fill: number;
  /** Between its ends, pixels: hardly any while it is empty. */
  room: number;
};

export type Moving = {
  nodes: { x: number; y: number }[];
  capacitors: MovingCapacitor[];
  diodes: MovingPart[];
  /** Stretches of the way beyond the terminal. */
  beyond: { from: number; to: number; y: number }[];
};

/** A capacitor's current counts from this share of the greatest of any diode. */
const LEAST_FLOW = 0.02;

/** Thick by the cube root, so that what is a thousandth of the surge is still seen. */
const thickness = (amps: number, mostAmps: number) =>
  mostAmps > 0 ? hundredth(Math.cbrt(Math.abs(amps) / mostAmps)) : 0;

/**
 * Where everything stands at one moment of a motion: each node at its own
 * height, each part between its two nodes, in the prediction's order.
 */
export function movingPlaces(prediction: Prediction, layout: ClimbLayout, motion: Motion, place: Place): Moving {
  const at = new Map(
    prediction.nodes.map((node) => [
      node.id,
      { x: tenth(nodeX(layout, node)), y: tenth(layout.y(valueAt(motion.nodes.get(node.id)!, place))) },
    ]),
  );
  return {
    nodes: prediction.nodes.map(({ id }) => at.get(id)!),
    beyond: stretchesOf(prediction, layout).flatMap(({ id, from, to }) => {
      const own = motion.beyond.find((one) => one.id === id);
      return own ? [{ from, to, y: tenth(layout.y(valueAt(own.volts, place))) }] : [];
    }),
    capacitors: prediction.capacitors.map((part, index) => {
      const [low, high] = [at.get(part.lower)!, at.get(part.upper)!];
      const x = tenth(layout.capacitorsOf[part.column]);
      const { volts, amps } = motion.capacitors[index];
      const now = valueAt(amps, place);
      return {
        path: `M${low.x} ${low.y}H${x}V${high.y}H${high.x}`,
        x,
        y: tenth((low.y + high.y) / 2),
        room: Math.abs(high.y - low.y),
        flow: Math.abs(now) > LEAST_FLOW * motion.mostAmps ? thickness(now, motion.mostAmps) : 0,
        direction: now < 0 ? -1 : 1,
        fill: hundredth(Math.min(1, Math.abs(valueAt(volts, place)) / (part.ratedVolts ?? part.workingVolts))),
      };
    }),
    diodes: prediction.diodes.map((part, index) => {
      const [from, to] = [at.get(part.anode)!, at.get(part.cathode)!];
      const { amps, conducts } = motion.diodes[index];
      return {
        path: `M${from.x} ${from.y}L${to.x} ${to.y}`,
        x: tenth((from.x + to.x) / 2),
        y: tenth((from.y + to.y) / 2),
        flow: conducts[place.fraction < 0.5 ? place.frame : place.next]
          ? thickness(amps[place.frame], motion.mostAmps)
          : 0,
        direction: 1,
      };
    }),
  };
}

/** Across the picture, where each node beyond the terminal is drawn: the same at every moment. */
const stretchesOf = ({ farEnd }: Prediction, layout: ClimbLayout) =>
  farEndPlaces(farEnd, layout, 0, 0)?.stretches ?? [];
