/** The part of odex (Hairer's explicit extrapolation integrator) that the checks use. */
export class Solver {
  constructor(dimension: number);
  absoluteTolerance: number;
  relativeTolerance: number;
  maxSteps: number;
  maxStepSize: number;
  initialStepSize: number;
  solve(
    derivative: (x: number, y: readonly number[]) => number[],
    start: number,
    initial: readonly number[],
    end: number,
  ): { y: number[]; outcome: number };
}
