import { cholesky, solveCholesky } from './cholesky';

/** Rounds at most in which all that is wrong changes side at once, and without gain before one at a time does. */
const PATIENCE = 4;
const MOST_ROUNDS = 400;
/** A value this small beside the greatest counts as none. */
const ROUNDING = 1e-11;

/**
 * The linear complementarity problem w = M z + b, w ≥ 0, z ≥ 0, w z = 0 for a symmetric positive definite M, by block
 * principal pivoting with Murty's rule where that makes no headway (L. F. Portugal, J. J. Júdice and L. N. Vicente,
 * Mathematics of Computation 63, 1994; from memory).
 *
 * @param matrix M, row by row
 * @param given b; Infinity where z is none whatever the rest is
 * @param begun which z are above zero at first; holds on return which are
 * @returns z; null where M is not what it has to be
 */
export function complementary(matrix: Float64Array, given: Float64Array, begun: Uint8Array): Float64Array | null {
  const size = given.length;
  const z = new Float64Array(size);
  const w = new Float64Array(size);
  const free = new Int32Array(size);
  let fewest = size + 1;
  let patience = PATIENCE;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    let count = 0;
    for (let at = 0; at < size; at += 1) {
      if (given[at] === Infinity) begun[at] = 0;
      if (begun[at]) free[count++] = at;
    }
    const block = new Float64Array(count * count);
    for (let row = 0; row < count; row += 1)
      for (let column = 0; column <= row; column += 1)
        block[row * count + column] = matrix[free[row] * size + free[column]];
    const factor = cholesky(block, count);
    if (!factor) return null;
    const found = new Float64Array(count);
    for (let one = 0; one < count; one += 1) found[one] = -given[free[one]];
    solveCholesky(factor, count, found);
    z.fill(0);
    for (let one = 0; one < count; one += 1) z[free[one]] = found[one];
    let [mostZ, mostW] = [0, 0];
    for (let at = 0; at < size; at += 1) {
      let sum = given[at];
      for (let one = 0; one < count; one += 1) sum += matrix[at * size + free[one]] * found[one];
      w[at] = sum;
      mostZ = Math.max(mostZ, Math.abs(z[at]));
      if (given[at] !== Infinity) mostW = Math.max(mostW, Math.abs(given[at]));
    }
    const wrong: number[] = [];
    for (let at = 0; at < size; at += 1)
      if (begun[at] ? z[at] < -ROUNDING * mostZ : w[at] < -ROUNDING * mostW) wrong.push(at);
    if (wrong.length === 0) return z;
    if (wrong.length < fewest) {
      fewest = wrong.length;
      patience = PATIENCE;
    } else patience -= 1;
    for (const at of patience >= 0 ? wrong : wrong.slice(-1)) begun[at] = begun[at] ? 0 : 1;
  }
  return null;
}
