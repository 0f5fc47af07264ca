import fc from 'fast-check';
import { BandedFactor, solveDense } from './banded-factor';
import { BandedMatrix } from './banded-lu';
import { bandOrder, bandwidthOf } from './ordering';

const numbers = (length: number) =>
  fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: length, maxLength: length });

/** A symmetric banded matrix made dominant by its diagonal, in full. */
const dominant = (size: number, reach: number, values: number[]) => {
  const full = new Float64Array(size * size);
  for (let row = 0; row < size; row += 1)
    for (let column = Math.max(0, row - reach); column < row; column += 1)
      full[row * size + column] = full[column * size + row] = values[row * size + column];
  for (let row = 0; row < size; row += 1) {
    let sum = 0.1;
    for (let column = 0; column < size; column += 1) sum += Math.abs(full[row * size + column]);
    full[row * size + row] = sum;
  }
  return full;
};
const times = (full: Float64Array, vector: readonly number[]) =>
  Float64Array.from(vector, (_, row) =>
    vector.reduce((sum, value, at) => sum + full[row * vector.length + at] * value, 0),
  );

it('both banded solvers and the dense one undo a multiplication', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 9 }),
      fc.integer({ min: 0, max: 3 }),
      numbers(81),
      numbers(9),
      (size, far, values, vector) => {
        const reach = Math.min(far, size - 1);
        const full = dominant(size, reach, values);
        const wanted = vector.slice(0, size);
        const factor = new BandedFactor(size, reach);
        const rows = new Float64Array(size * (reach + 1));
        const banded = new BandedMatrix(size, reach);
        for (let row = 0; row < size; row += 1)
          for (let column = Math.max(0, row - reach); column <= Math.min(size - 1, row + reach); column += 1) {
            banded.add(row, column, full[row * size + column]);
            if (column <= row) rows[row * (reach + 1) + reach + column - row] = full[row * size + column];
          }
        const [one, other, third] = [times(full, wanted), times(full, wanted), times(full, wanted)];
        expect(factor.factor(rows)).toBe(true);
        factor.solve(one);
        expect(banded.solve(other)).toBe(true);
        expect(solveDense(full.slice(), third)).toBe(true);
        for (const found of [one, other, third]) found.forEach((value, at) => expect(value).toBeCloseTo(wanted[at], 9));
      },
    ),
  );
});

it('many right-hand sides at once give what each gives alone', () => {
  const factor = new BandedFactor(3, 1);
  factor.factor(Float64Array.from([0, 2, -1, 2, -1, 2]));
  const many = Float64Array.from([1, 0, 0, 1, 0, 5]);
  factor.solveMany(many, 2);
  [0, 1].forEach((side) => {
    const alone = Float64Array.from([0, 1, 2], (row) => [1, 0, 0, 1, 0, 5][row * 2 + side]);
    factor.solve(alone);
    alone.forEach((value, row) => expect(many[row * 2 + side]).toBeCloseTo(value, 12));
  });
});

it('refuses a matrix that is not positive definite, and a singular one', () => {
  expect(new BandedFactor(2, 1).factor(Float64Array.from([0, 1, 2, 1]))).toBe(false);
  expect(solveDense(Float64Array.from([1, 2, 2, 4]), Float64Array.from([1, 2]))).toBe(false);
  expect(new BandedMatrix(2, 1).solve(new Float64Array(2))).toBe(false);
});

it('orders a ladder so that its band is as narrow as its columns are many, wherever its nodes were numbered', () => {
  const rungs = 12;
  const shuffled = Array.from({ length: 2 * rungs }, (_, at) => (at * 7) % (2 * rungs));
  const neighbours: number[][] = shuffled.map(() => []);
  const join = (a: number, b: number) => {
    neighbours[shuffled[a]].push(shuffled[b]);
    neighbours[shuffled[b]].push(shuffled[a]);
  };
  for (let rung = 0; rung < rungs; rung += 1) {
    join(2 * rung, 2 * rung + 1);
    if (rung + 1 < rungs) {
      join(2 * rung, 2 * rung + 2);
      join(2 * rung + 1, 2 * rung + 3);
    }
  }
  const place = new Int32Array(neighbours.length);
  bandOrder(neighbours).forEach((node, at) => (place[node] = at));
  expect([...place].sort((a, b) => a - b)).toEqual(shuffled.map((_, at) => at));
  expect(bandwidthOf(neighbours, place)).toBeLessThanOrEqual(3);
});
