import type { Design } from '../design/design-schema';

/** A round body between two leads. */
type BodySize = {
  lengthMetres: number;
  diameterMetres: number;
  /** Whether it was entered; else it is the usual size of such a part. */
  isEntered: boolean;
};

/** What a place of the ladder takes up: its parts in series one behind the other, strings in parallel as a round bundle. */
export type PlaceBodies = { capacitor: BodySize; diode: BodySize; each: { capacitor: BodySize; diode: BodySize } };

/** Left free between bodies that stand one behind the other in a string, m: for the joint (common practice, no source). */
const JOINT_LENGTH = 4e-3;
/** What is taken for a rating that is not known, V. */
const USUAL_VOLTS = { capacitor: 1e3, diode: 1e3 };

/** Usual bodies by their ratings: a small part to 1 kV, then so much longer for each kilovolt (common practice, no source). */
const usualDiode = (volts: number): BodySize => ({
  lengthMetres: Math.max(5e-3, 0.6e-6 * volts),
  diameterMetres: 3e-3,
  isEntered: false,
});
const usualCapacitor = (volts: number, farads: number): BodySize => ({
  lengthMetres: Math.max(5e-3, 0.5e-6 * volts),
  // By the energy it holds, some 10 kJ in a cubic metre.
  diameterMetres: Math.max(
    6e-3,
    Math.sqrt((0.5 * farads * volts ** 2) / 1e4 / (0.785 * Math.max(5e-3, 0.5e-6 * volts))),
  ),
  isEntered: false,
});

const entered = (usual: BodySize, lengthMetres: number | null, diameterMetres: number | null): BodySize => ({
  lengthMetres: lengthMetres ?? usual.lengthMetres,
  diameterMetres: diameterMetres ?? usual.diameterMetres,
  isEntered: lengthMetres !== null && diameterMetres !== null,
});

/** So many in a row, so many such rows as a round bundle (circles in a circle: area over 0.7, from 3 on; handbook). */
function inPlace(one: BodySize, series: number, parallel: number): BodySize {
  const around = parallel === 1 ? 1 : parallel === 2 ? 2 : Math.sqrt(parallel / 0.7) + 0.5;
  return {
    ...one,
    lengthMetres: series * one.lengthMetres + (series - 1) * JOINT_LENGTH,
    diameterMetres: around * one.diameterMetres,
  };
}

/** Bodies of a design's parts, as entered or usual. */
export function bodiesOf({ ladder, build }: Design): PlaceBodies {
  const { capacitor, diode } = ladder;
  const each = {
    capacitor: entered(
      usualCapacitor(capacitor.ratedVolts ?? USUAL_VOLTS.capacitor, capacitor.farads),
      capacitor.lengthMetres,
      capacitor.diameterMetres,
    ),
    diode: entered(
      usualDiode(diode.peakInverseVolts ?? USUAL_VOLTS.diode),
      build.diodeLengthMetres,
      build.diodeDiameterMetres,
    ),
  };
  return {
    each,
    capacitor: inPlace(each.capacitor, capacitor.series, capacitor.parallel),
    diode: inPlace(each.diode, diode.series, 1),
  };
}
