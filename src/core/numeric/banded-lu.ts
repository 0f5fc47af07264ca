/**
 * A square banded matrix to be filled and then solved by elimination with
 * partial pivoting, so that it may be indefinite.
 */
export class BandedMatrix {
  readonly size: number;
  private readonly reach: number;
  private readonly width: number;
  private readonly rows: Float64Array;

  /** @param reach greatest distance of an entry from the diagonal */
  constructor(size: number, reach: number) {
    this.size = size;
    this.reach = reach;
    // Row exchanges push entries up to `reach` further to the right.
    this.width = 3 * reach + 1;
    this.rows = new Float64Array(size * this.width);
  }

  add(row: number, column: number, value: number): void {
    this.rows[row * this.width + column - row + this.reach] += value;
  }

  /**
   * Solves in place; the matrix is used up.
   *
   * @param right right-hand sides, each overwritten by its solution
   * @returns false when the matrix is singular to working precision
   */
  solve(...right: Float64Array[]): boolean {
    const { size, reach, width, rows } = this;
    for (let pivot = 0; pivot < size; pivot += 1) {
      const last = Math.min(size - 1, pivot + reach);
      let best = pivot;
      let most = 0;
      for (let row = pivot; row <= last; row += 1) {
        const value = Math.abs(rows[row * width + pivot - row + reach]);
        if (value > most) {
          most = value;
          best = row;
        }
      }
      if (!(most > 0)) return false;
      const end = Math.min(size - 1, pivot + 2 * reach);
      const pivotAt = pivot * width + reach - pivot;
      if (best !== pivot) {
        const bestAt = best * width + reach - best;
        for (let column = pivot; column <= end; column += 1) {
          const kept = rows[pivotAt + column];
          rows[pivotAt + column] = rows[bestAt + column];
          rows[bestAt + column] = kept;
        }
        for (const side of right) {
          const kept = side[pivot];
          side[pivot] = side[best];
          side[best] = kept;
        }
      }
      const diagonal = rows[pivotAt + pivot];
      for (let row = pivot + 1; row <= last; row += 1) {
        const rowAt = row * width + reach - row;
        const factor = rows[rowAt + pivot] / diagonal;
        if (factor === 0) continue;
        for (let column = pivot + 1; column <= end; column += 1)
          rows[rowAt + column] -= factor * rows[pivotAt + column];
        for (const side of right) side[row] -= factor * side[pivot];
      }
    }
    for (const side of right)
      for (let row = size - 1; row >= 0; row -= 1) {
        const rowAt = row * width + reach - row;
        let rest = side[row];
        const end = Math.min(size - 1, row + 2 * reach);
        for (let column = row + 1; column <= end; column += 1) rest -= rows[rowAt + column] * side[column];
        side[row] = rest / rows[rowAt + row];
      }
    return true;
  }
}
