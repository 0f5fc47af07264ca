import type { Fault, FaultKind, TestBench } from './fault';
import { capacitorLeaky, capacitorLow, capacitorOpen, capacitorShorted } from './kinds/capacitor';
import { diodeLeaky, diodeOpen, diodeReversed, diodeShorted } from './kinds/diode';
import { meterAlternating, meterLoads, meterOverBand, meterOverLimit, probeHigh, probeLow } from './kinds/meter';
import { driveWeak, oneHalfMissing, rectifierInside, windingOpen } from './kinds/supply';
import { groundMissing, ladderReversed, nodeToGround, outputShorted, stageReversed } from './kinds/wiring';

/** Every kind of fault. */
export const FAULT_KINDS: readonly FaultKind[] = [
  diodeOpen,
  diodeShorted,
  diodeReversed,
  diodeLeaky,
  capacitorOpen,
  capacitorShorted,
  capacitorLow,
  capacitorLeaky,
  nodeToGround,
  stageReversed,
  ladderReversed,
  groundMissing,
  outputShorted,
  driveWeak,
  oneHalfMissing,
  rectifierInside,
  windingOpen,
  meterLoads,
  meterAlternating,
  probeHigh,
  probeLow,
  meterOverBand,
  meterOverLimit,
];

const BY_ID = new Map(FAULT_KINDS.map((kind) => [kind.id, kind]));

/** @throws for a kind that is none */
export function faultKind(id: string): FaultKind {
  const found = BY_ID.get(id);
  if (!found) throw new Error(`There is no fault "${id}".`);
  return found;
}

/** Degrees at which a kind is tried first; a degree between is found from these. */
const TRIED = 4;

/** The degree at a fraction of a kind's range, 0..1; 0 of a kind without one. */
export function degreeAt({ degree }: FaultKind, fraction: number): number {
  if (!degree) return 0;
  const { least, most, isLogarithmic } = degree;
  return isLogarithmic ? least * (most / least) ** fraction : least + fraction * (most - least);
}

/** How far a fault of some degree goes where one is only thought of, 0..1 of its range. */
const USUAL_FRACTION = 0.7;
export const usualDegree = (kind: FaultKind): number => degreeAt(kind, USUAL_FRACTION);

/** Where a degree lies in its kind's range, 0..1. */
export function fractionOf({ degree }: FaultKind, value: number): number {
  if (!degree) return 0;
  const { least, most, isLogarithmic } = degree;
  return isLogarithmic ? Math.log(value / least) / Math.log(most / least) : (value - least) / (most - least);
}

/** Every single fault of a bench: for each kind and place what it can be, of several degrees where it has one. */
export const singleFaults = (bench: TestBench): Fault[][] =>
  FAULT_KINDS.flatMap((kind) =>
    kind.places(bench).map((place) =>
      kind.degree
        ? Array.from({ length: TRIED }, (_, at) => ({
            kind: kind.id,
            place,
            degree: degreeAt(kind, at / (TRIED - 1)),
          }))
        : [{ kind: kind.id, place, degree: 0 }],
    ),
  );

export const withFault = (bench: TestBench, { kind, place, degree }: Fault): TestBench =>
  faultKind(kind).apply(bench, place, degree);

/** With several, one after the other. */
export const withFaults = (bench: TestBench, faults: readonly Fault[]): TestBench => faults.reduce(withFault, bench);

/** "D3 open", "D3 open and C2 leaky". */
export const saidOfFaults = (faults: readonly Fault[]): string =>
  faults.map(({ kind, place }) => faultKind(kind).said(place)).join(' and ');
