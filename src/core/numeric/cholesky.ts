/** L of L Lᵀ, row by row, of a symmetric positive definite matrix of this many rows; null where it is not one. */
export function cholesky(matrix: ArrayLike<number>, size: number): Float64Array | null {
  const factor = new Float64Array(size * size);
  for (let row = 0; row < size; row += 1) {
    for (let column = 0; column <= row; column += 1) {
      let sum = matrix[row * size + column];
      for (let at = 0; at < column; at += 1) sum -= factor[row * size + at] * factor[column * size + at];
      if (column < row) factor[row * size + column] = sum / factor[column * size + column];
      else if (sum > 0) factor[row * size + row] = Math.sqrt(sum);
      else return null;
    }
  }
  return factor;
}

/** Solves L Lᵀ x = b in place. */
export function solveCholesky(factor: Float64Array, size: number, right: Float64Array): Float64Array {
  for (let row = 0; row < size; row += 1) {
    let sum = right[row];
    for (let at = 0; at < row; at += 1) sum -= factor[row * size + at] * right[at];
    right[row] = sum / factor[row * size + row];
  }
  for (let row = size - 1; row >= 0; row -= 1) {
    let sum = right[row];
    for (let at = row + 1; at < size; at += 1) sum -= factor[at * size + row] * right[at];
    right[row] = sum / factor[row * size + row];
  }
  return right;
}
