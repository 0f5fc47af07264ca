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
/** What a capacitor holds in a cubic metre of it, J, as a ceramic disc and wound; the widest disc, m; how much longer than wide a wound one is (common practice, no source). */
const JOULES_PER_CUBIC_METRE = { disc: 30e3, wound: 10e3 };
const WIDEST_DISC = 30e-3;
const WOUND = 1.5;

/** Usual bodies by rating and what they hold: a disc, or where that would be too wide one that is wound (common practice, no source). */
function usualCapacitor(volts: number, farads: number): BodySize {
  const lengthMetres = Math.max(5e-3, 0.5e-6 * volts);
  const joules = (farads * volts ** 2) / 2;
  const disc = Math.max(6e-3, Math.sqrt(joules / JOULES_PER_CUBIC_METRE.disc / lengthMetres / (Math.PI / 4)));
  if (disc <= WIDEST_DISC) return { lengthMetres, diameterMetres: disc, isEntered: false };
  const diameterMetres = Math.cbrt(joules / JOULES_PER_CUBIC_METRE.wound / WOUND / (Math.PI / 4));
  // As long as its voltage asks for, were it thinner than that.
  return { lengthMetres: Math.max(lengthMetres, WOUND * diameterMetres), diameterMetres, isEntered: false };
}

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
