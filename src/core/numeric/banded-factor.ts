/**
 * Factors of a symmetric positive definite banded matrix, kept for many
 * solutions: L D L^T without exchange of rows.
 *
 * Stored by rows: entry (row, column) with row - reach <= column <= row at
 * `row * (reach + 1) + reach + column - row`.
 */
export class BandedFactor {
  readonly size: number;
  readonly reach: number;
  private readonly rows: Float64Array;
  private readonly inverse: Float64Array;

  constructor(size: number, reach: number) {
    this.size = size;
    this.reach = reach;
    this.rows = new Float64Array(size * (reach + 1));
    this.inverse = new Float64Array(size);
  }

  /**
   * Factors a matrix given in the same layout.
   *
   * @returns false when it is not positive definite to working precision
   */
  factor(matrix: Float64Array): boolean {
    const { size, reach, rows, inverse } = this;
    const width = reach + 1;
    rows.set(matrix);
    for (let row = 0; row < size; row += 1) {
      const at = row * width + reach - row;
      const first = Math.max(0, row - reach);
      let diagonal = rows[at + row];
      for (let column = first; column < row; column += 1) {
        const columnAt = column * width + reach - column;
        let value = rows[at + column];
        for (let inner = Math.max(first, column - reach); inner < column; inner += 1)
          value -= rows[at + inner] * rows[columnAt + inner];
        rows[at + column] = value;
      }
      for (let column = first; column < row; column += 1) {
        const value = rows[at + column];
        const scaled = value * inverse[column];
        diagonal -= value * scaled;
        rows[at + column] = scaled;
      }
      if (!(diagonal > 0)) return false;
      inverse[row] = 1 / diagonal;
    }
    return true;
  }

  /** Overwrites a right-hand side with its solution. */
  solve(right: Float64Array): void {
    const { size, reach, rows, inverse } = this;
    const width = reach + 1;
    for (let row = 0; row < size; row += 1) {
      const at = row * width + reach - row;
      let value = right[row];
      for (let column = Math.max(0, row - reach); column < row; column += 1) value -= rows[at + column] * right[column];
      right[row] = value;
    }
    for (let row = size - 1; row >= 0; row -= 1) {
      const value = right[row] * inverse[row];
      right[row] = value;
      // Back substitution by rows of the transpose: row `row` of L^T is column `row` of L.
      for (let below = row + 1; below <= Math.min(size - 1, row + reach); below += 1)
        right[row] -= rows[below * width + reach - below + row] * right[below];
    }
  }

  /** The same for many right-hand sides at once, each row of them contiguous. */
  solveMany(right: Float64Array, count: number): void {
    const { size, reach, rows, inverse } = this;
    const width = reach + 1;
    for (let row = 0; row < size; row += 1) {
      const at = row * width + reach - row;
      const here = row * count;
      for (let column = Math.max(0, row - reach); column < row; column += 1) {
        const value = rows[at + column];
        if (value === 0) continue;
        const there = column * count;
        for (let side = 0; side < count; side += 1) right[here + side] -= value * right[there + side];
      }
    }
    for (let row = size - 1; row >= 0; row -= 1) {
      const here = row * count;
      const scale = inverse[row];
      for (let side = 0; side < count; side += 1) right[here + side] *= scale;
      for (let below = row + 1; below <= Math.min(size - 1, row + reach); below += 1) {
        const value = rows[below * width + reach - below + row];
        if (value === 0) continue;
        const there = below * count;
        for (let side = 0; side < count; side += 1) right[here + side] -= value * right[there + side];
      }
    }
  }
}

/** Solves a dense square system in place by elimination with partial pivoting; both arguments are used up. False when singular. */
export function solveDense(matrix: Float64Array, right: Float64Array): boolean {
  const size = right.length;
  for (let pivot = 0; pivot < size; pivot += 1) {
    let best = pivot;
    for (let row = pivot + 1; row < size; row += 1)
      if (Math.abs(matrix[row * size + pivot]) > Math.abs(matrix[best * size + pivot])) best = row;
    const diagonal = matrix[best * size + pivot];
    if (!(Math.abs(diagonal) > 0)) return false;
    if (best !== pivot) {
      for (let column = pivot; column < size; column += 1) {
        const kept = matrix[pivot * size + column];
        matrix[pivot * size + column] = matrix[best * size + column];
        matrix[best * size + column] = kept;
      }
      const kept = right[pivot];
      right[pivot] = right[best];
      right[best] = kept;
    }
    for (let row = pivot + 1; row < size; row += 1) {
      const factor = matrix[row * size + pivot] / diagonal;
      if (factor === 0) continue;
      for (let column = pivot + 1; column < size; column += 1)
        matrix[row * size + column] -= factor * matrix[pivot * size + column];
      right[row] -= factor * right[pivot];
    }
  }
  for (let row = size - 1; row >= 0; row -= 1) {
    let value = right[row];
    for (let column = row + 1; column < size; column += 1) value -= matrix[row * size + column] * right[column];
    right[row] = value / matrix[row * size + row];
  }
  return true;
}
