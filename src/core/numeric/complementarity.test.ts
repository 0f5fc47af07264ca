import { Matrix, solve } from 'ml-matrix';
import { seeded } from './chance';
import { cholesky, solveCholesky } from './cholesky';
import { complementary } from './complementarity';

/** A symmetric positive definite matrix, its smallest values far below its largest. */
function definite(size: number, random: () => number): Matrix {
  const root = Matrix.zeros(size, size).apply(function set(this: Matrix, row, column) {
    this.set(row, column, (random() - 0.5) * 10 ** (-4 * random()));
  });
  return root.mmul(root.transpose()).add(Matrix.eye(size).mul(1e-6));
}

it('Cholesky’s factor solves what ml-matrix solves', () => {
  const random = seeded(3);
  for (let size = 1; size <= 12; size += 1) {
    const matrix = definite(size, random);
    const right = Array.from({ length: size }, () => random() - 0.5);
    const own = solveCholesky(cholesky(matrix.to1DArray(), size)!, size, Float64Array.from(right));
    const other = solve(matrix, Matrix.columnVector(right)).getColumn(0);
    own.forEach((value, at) =>
      expect(Math.abs(value - other[at])).toBeLessThan(1e-6 * Math.max(1, ...other.map(Math.abs))),
    );
  }
  expect(cholesky([1, 2, 2, 1], 2)).toBeNull();
  expect(cholesky([], 0)).toEqual(new Float64Array(0));
});

it('w = M z + b with both zero or more and their products none, from anywhere', () => {
  const random = seeded(5);
  for (let run = 0; run < 300; run += 1) {
    const size = 1 + Math.floor(random() * 24);
    const matrix = definite(size, random);
    const given = Float64Array.from({ length: size }, () => random() - 0.6);
    const begun = Uint8Array.from({ length: size }, () => Number(random() < 0.5));
    const z = complementary(Float64Array.from(matrix.to1DArray()), given, begun)!;
    const w = matrix
      .mmul(Matrix.columnVector([...z]))
      .getColumn(0)
      .map((value, at) => value + given[at]);
    const scale = Math.max(...z);
    for (let at = 0; at < size; at += 1) {
      expect(z[at]).toBeGreaterThanOrEqual(-1e-9 * scale);
      expect(w[at]).toBeGreaterThanOrEqual(-1e-8);
      expect(Math.abs(z[at] * w[at])).toBeLessThan(1e-6 * Math.max(1, scale));
      expect(begun[at] === 1 || z[at] === 0).toBe(true);
    }
  }
});

it('what is never above zero stays out, and nothing at all is solved', () => {
  const found = complementary(Float64Array.of(1, 0, 0, 1), Float64Array.of(-1, Infinity), Uint8Array.of(0, 1))!;
  expect([...found]).toEqual([1, 0]);
  expect(complementary(new Float64Array(0), new Float64Array(0), new Uint8Array(0))).toEqual(new Float64Array(0));
  expect(complementary(Float64Array.of(-1), Float64Array.of(-1), new Uint8Array(1))).toBeNull();
});
