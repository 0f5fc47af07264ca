/**
 * Where a continuous function passes zero between two points at which its signs
 * differ: false position with Illinois weights (M. Dowell and P. Jarratt, BIT
 * 11, 1971, from memory).
 *
 * @param low with its value `atLow`, and high with `atHigh`, of opposite sign or zero
 * @param enough magnitude of the value that counts as zero
 * @param narrow width of the bracket at which it is settled
 * @returns a point within the bracket
 */
export function rootBetween(
  value: (at: number) => number,
  [low, atLow]: readonly [number, number],
  [high, atHigh]: readonly [number, number],
  enough: number,
  narrow: number,
): number {
  let [a, atA, b, atB] = [low, atLow, high, atHigh];
  if (atA === 0) return a;
  if (atB === 0) return b;
  const rises = atB > 0;
  let side = 0;
  for (let step = 0; step < MOST_STEPS; step += 1) {
    const middle = a + ((b - a) * -atA) / (atB - atA);
    const found = value(middle);
    if (Math.abs(found) <= enough || b - a < narrow) return middle;
    if (found > 0 === rises) {
      b = middle;
      atB = found;
      if (side === 1) atA /= 2;
      side = 1;
    } else {
      a = middle;
      atA = found;
      if (side === -1) atB /= 2;
      side = -1;
    }
  }
  return (a + b) / 2;
}

const MOST_STEPS = 60;
