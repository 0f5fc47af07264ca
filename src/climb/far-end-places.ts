import type { FarEnd, FarEndPart } from '@/core/predict/far-end';
import type { ClimbLayout } from './climb-layout';
import { tenth } from './climb-places';

/** A part beyond the terminal: along the way at its node's height, or across between two heights. */
type FarEndPlace = { part: FarEndPart; x: number; across: boolean; y: number };
/** A stretch of the way at one height, volts above the return told for its colour. */
type FarEndStretch = { id: string; from: number; to: number; y: number; underVolts: number };

/**
 * Where everything beyond the terminal stands, from left to right in the order of
 * the way: at each node what goes across to the return, then what leads on.
 *
 * @param terminalVolts at which the terminal's rung stands, and its return's
 */
export function farEndPlaces(
  { nodes, parts }: FarEnd,
  { farEnd, y, capacitorsOf, nodesOf }: Pick<ClimbLayout, 'farEnd' | 'y' | 'capacitorsOf' | 'nodesOf'>,
  terminalVolts: number,
  returnVolts: number,
): { places: FarEndPlace[]; stretches: FarEndStretch[]; wires: string; foot: number } | null {
  if (!farEnd || parts.length === 0) return null;
  const slot = (farEnd.right - farEnd.left) / parts.length;
  const foot = tenth(y(returnVolts));
  const places: FarEndPlace[] = [];
  const stretches: FarEndStretch[] = [];
  // Where nothing of the ladder stands between them it is joined to its column; elsewhere the height tells.
  const column = capacitorsOf.smoothing > nodesOf.antiphase ? tenth(capacitorsOf.smoothing) : null;
  let wires = column === null ? '' : `M${column} ${tenth(y(terminalVolts))}H${tenth(farEnd.left)}`;
  let x = farEnd.left;
  for (const [index, node] of nodes.entries()) {
    const underVolts = node.underVolts ?? 0;
    const height = tenth(y(terminalVolts - underVolts));
    const from = x;
    for (const part of parts.filter((one) => one.from === node.id && one.to === 'return')) {
      const middle = tenth(x + slot / 2);
      places.push({ part, x: middle, across: true, y: tenth((height + foot) / 2) });
      wires += `M${middle} ${height}V${foot}`;
      x += slot;
    }
    const onward = parts.find((one) => one.from === node.id && one.to !== 'return');
    if (onward) {
      places.push({ part: onward, x: tenth(x + slot / 2), across: false, y: height });
      x += slot;
      wires += `M${tenth(x)} ${height}V${tenth(y(terminalVolts - (nodes[index + 1]?.underVolts ?? 0)))}`;
    }
    stretches.push({ id: node.id, from: tenth(from), to: tenth(x), y: height, underVolts });
  }
  const across = places.filter((place) => place.across);
  if (across.length > 0)
    wires += `M${column !== null && returnVolts !== 0 ? column : across[0].x} ${foot}H${across.at(-1)!.x}`;
  return { places, stretches, wires, foot };
}
