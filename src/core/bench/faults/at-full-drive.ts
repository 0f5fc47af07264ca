import type { Design } from '../../design/design-schema';
import { meterSchema } from '../../drive/meter-sense';
import type { Prediction } from '../../predict/prediction';
import { marginOf } from '../../quantity/margin';
import { circuitOfDesign } from '../../transient/circuit-of-design';
import { asSettled } from '../../transient/comparison';
import type { SettleProgress } from '../../transient/steady-state';
import { transientNearby, type Transient, type TransientRun } from '../../transient/transient';
import { ladderParts } from '../../parts/bank';
import type { LoadedLadder } from '../../ladder/loaded';
import { ChargeBalance, leakingLeast, type Balanced } from './charge-balance';
import type { Fault, TestBench } from './fault';
import { FAULT_KINDS, usualDegree, withFault } from './faults';
import { driveOf, soundlyRead } from './read-through';

function benchAtFullDrive(design: Design): { ladder: LoadedLadder; bench: TestBench } {
  const { ladder, circuit } = circuitOfDesign(design);
  return { ladder, bench: soundlyRead(ladder.network, circuit, ladder.drive, meterSchema.parse({})) };
}

/** Faults that a part may have, in the order of the catalogue, as they are said. */
export function faultsOfPart(design: Design, part: string): { fault: Fault; name: string }[] {
  const { bench } = benchAtFullDrive(design);
  return FAULT_KINDS.filter((kind) => kind.places(bench).includes(part)).map((kind) => ({
    fault: { kind: kind.id, place: part, degree: usualDegree(kind) },
    name: kind.said(part),
  }));
}

const greatestVolts = ({ meanVolts, ripplePeakToPeakVolts }: Transient['capacitors'][number]): number =>
  Math.abs(meanVolts) + ripplePeakToPeakVolts / 2;

const byId = <T extends { id: string }>(parts: readonly T[], id: string): T => parts.find((one) => one.id === id)!;

/**
 * A prediction with what the time domain has of a ladder with a fault: nodes, and what each part stands and carries. What
 * the closed form alone knows of a part is not there.
 */
export function asFaulty(prediction: Prediction, transient: Transient): Prediction {
  return {
    ...asSettled(prediction, transient),
    capacitors: prediction.capacitors.map((part) => {
      const found = byId(transient.capacitors, part.id);
      const workingVolts = greatestVolts(found);
      return {
        ...part,
        workingVolts,
        margin: marginOf(part.ratedVolts, workingVolts),
        biasedFarads: part.farads,
        loadedMeanVolts: found.meanVolts,
        ripplePeakToPeakVolts: found.ripplePeakToPeakVolts,
        rmsAmps: found.rmsAmps,
        lossWatts: null,
        temperatureRiseKelvin: null,
      };
    }),
    diodes: prediction.diodes.map((part) => {
      const { reverseVolts, averageAmps, rmsAmps, watts } = byId(transient.diodes, part.id);
      return {
        ...part,
        reverseVolts,
        averageAmps,
        rmsAmps,
        watts: watts / prediction.places.diode.series,
        recoveryWatts: null,
        margin: marginOf(part.ratedVolts, reverseVolts),
      };
    }),
  };
}

/** A stress that is higher with a fault than without. */
export type RaisedStress = {
  part: string;
  of: 'capacitor-volts' | 'diode-volts' | 'diode-amps';
  sound: number;
  faulty: number;
  /** Null where it is not known. */
  rated: number | null;
};

/** By how much a stress must rise to be listed, as a fraction of what it was. */
const LISTED_RISE = 0.05;
const MOST_LISTED = 5;

/**
 * Parts that are stressed more with a fault than without, the one nearest to its rating, or furthest over it, first: greatest
 * voltage of capacitors and diodes, V, and average current of diodes, A, in the time domain.
 */
export function raisedStresses({ ladder }: Design, sound: Transient, faulty: Transient): RaisedStress[] {
  const { capacitor, diode } = ladderParts(ladder);
  const all: RaisedStress[] = [
    ...faulty.capacitors.map((one): RaisedStress => {
      const before = greatestVolts(byId(sound.capacitors, one.id));
      const now = greatestVolts(one);
      return { part: one.id, of: 'capacitor-volts', sound: before, faulty: now, rated: capacitor.ratedVolts };
    }),
    ...faulty.diodes.flatMap((one): RaisedStress[] => {
      const { reverseVolts, averageAmps } = byId(sound.diodes, one.id);
      return [
        {
          part: one.id,
          of: 'diode-volts',
          sound: reverseVolts,
          faulty: one.reverseVolts,
          rated: diode.peakInverseVolts,
        },
        {
          part: one.id,
          of: 'diode-amps',
          sound: averageAmps,
          faulty: one.averageAmps,
          rated: ladder.diode.averageAmps,
        },
      ];
    }),
  ];
  // As a fraction of its rating, or where that is not known of what it was.
  const share = ({ faulty: now, rated, sound: before }: RaisedStress) =>
    rated === null ? now / before - 1 : now / rated;
  return all
    .filter(({ sound: before, faulty: now }) => now > (1 + LISTED_RISE) * before)
    .toSorted((one, other) => share(other) - share(one))
    .slice(0, MOST_LISTED);
}

/** How often a load’s current is evaluated anew at the voltage that it leaves. */
const TIMES = 8;
/** Of the drive's peak to peak: a load is evaluated at no less. */
const LEAST_ACROSS = 1e-3;

/** The charge balance of a bench whose loads are taken as resistances that draw the same current. */
function estimated({ circuit, peaks }: TestBench): Balanced | null {
  const least = LEAST_ACROSS * (peaks.positive + peaks.negative);
  let siemens = circuit.loads.map(() => 0);
  for (let time = 0; ; time += 1) {
    const loads = circuit.loads.map(({ from, to }, at) => ({ from, to, siemens: siemens[at] }));
    const found = new ChargeBalance({ ...circuit, resistors: [...circuit.resistors, ...loads] }, peaks).balanced();
    if (!found || circuit.loads.length === 0 || time === TIMES) return found;
    const at = (node: number) => (node < 0 ? 0 : found.means[node]);
    siemens = circuit.loads.map(({ from, to, law }, one) => {
      const across = at(from) - at(to);
      const volts = Math.sign(across || 1) * Math.max(Math.abs(across), least);
      const drawn = Math.max(0, law.amps(volts, false) / volts);
      return siemens[one] > 0 ? Math.sqrt(siemens[one] * Math.max(drawn, 1e-3 * siemens[one])) : drawn;
    });
  }
}

/** A run with a fault, and the same ladder on the same drive without, where that settles. */
export type FaultyRun = TransientRun & { sound: TransientRun | null };

/**
 * A design at full drive and load with a fault in it, in the time domain: what its parts are stressed by until one fails.
 * The drive stays what it is, however much is asked of it.
 *
 * @returns null where the charge balance has no solution, or the time domain does not settle from it
 */
export function* faultyRunOf(design: Design, fault: Fault): Generator<SettleProgress, FaultyRun | null> {
  const { ladder, bench } = benchAtFullDrive(design);
  const faulty = yield* runOf(design, ladder, withFault(bench, fault));
  return faulty && { ...faulty, sound: yield* runOf(design, ladder, bench) };
}

function* runOf(
  design: Design,
  ladder: LoadedLadder,
  bench: TestBench,
): Generator<SettleProgress, TransientRun | null> {
  const near = estimated(bench);
  if (!near) return null;
  const drive = driveOf(ladder.drive, bench);
  return yield* transientNearby(design, { ...ladder, drive }, leakingLeast(bench.circuit), near.means);
}
