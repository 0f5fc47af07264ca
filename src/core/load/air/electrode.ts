import { VACUUM_PERMITTIVITY } from '../../quantity/permittivity';
import { choice, quantity } from '../../schema/fields';
import * as z from '../../zod';

export const ELECTRODE_SHAPES = ['sphere', 'plate', 'wire', 'tube', 'person'] as const;
export type ElectrodeShape = (typeof ELECTRODE_SHAPES)[number];

/** What hangs on an output, by its size. */
export const electrodeSchema = z.strictObject({
  shape: choice(ELECTRODE_SHAPES).default('sphere'),
  sphereMetres: quantity('m', '0.1', 'above zero').default(0.1),
  /** Diameter of a wire, or of what is inside a tube. */
  wireMetres: quantity('m', '0.002', 'above zero').default(2e-3),
  /** Of a plate or a mesh, one side. */
  areaSquareMetres: quantity('m²', '0.04', 'above zero').default(0.04),
  /** From plate, or from the middle of the wire, to what is grounded. */
  distanceMetres: quantity('m', '0.05', 'above zero').default(0.05),
  lengthMetres: quantity('m', '1', 'above zero').default(1),
  /** Inner diameter of the grounded tube around it. */
  outerMetres: quantity('m', '0.2', 'above zero').default(0.2),
});
export type Electrode = z.output<typeof electrodeSchema>;

/** Entries that a shape is made of, and what it is called. */
export const ELECTRODE_LAWS: Readonly<
  Record<ElectrodeShape, { name: string; entries: readonly (keyof Electrode)[]; source: string }>
> = {
  sphere: { name: 'Sphere, far from everything', entries: ['sphereMetres'], source: '4π ε₀ r' },
  plate: {
    name: 'Plate or mesh over a grounded plate',
    entries: ['areaSquareMetres', 'distanceMetres'],
    source: 'ε₀ A / d, edges left out',
  },
  wire: {
    name: 'Wire over a grounded plate',
    entries: ['wireMetres', 'lengthMetres', 'distanceMetres'],
    source: '2π ε₀ L / arcosh(h / r)',
  },
  tube: {
    name: 'Wire or tube in a grounded tube',
    entries: ['wireMetres', 'lengthMetres', 'outerMetres'],
    source: '2π ε₀ L / ln(R / r)',
  },
  person: { name: 'Person on insulation', entries: [], source: 'IEC 61000-4-2, 150 pF, from memory' },
};

/** An entry outside what a law holds for, and what would be right. */
export type ElectrodeFault = { at: keyof Electrode; reason: string };

/** Part of the plate's size that its distance may be for the edges to be left out (common practice, no source). */
const FLAT = 0.25;
const PERSON_FARADS = 150e-12;

/**
 * Capacitance of what hangs on an output, F, by the handbook's formulas for a sphere
 * by itself, plates, a wire over a plane and one in a tube, in air.
 *
 * @returns the entry that lies outside the formula where one does
 */
export function electrodeFarads(electrode: Electrode): number | ElectrodeFault {
  const { shape, areaSquareMetres: area, distanceMetres: distance, lengthMetres: length, outerMetres } = electrode;
  const { sphereMetres, wireMetres } = electrode;
  switch (shape) {
    case 'sphere':
      return 2 * Math.PI * VACUUM_PERMITTIVITY * sphereMetres;
    case 'plate':
      return distance > FLAT * Math.sqrt(area)
        ? {
            at: 'distanceMetres',
            reason: 'must be under a quarter of the plate’s side: edges count for more than the plate there',
          }
        : (VACUUM_PERMITTIVITY * area) / distance;
    case 'wire':
      if (distance <= wireMetres / 2)
        return { at: 'distanceMetres', reason: 'must be more than half the wire: it would touch' };
      return length < distance
        ? { at: 'lengthMetres', reason: 'must be more than its distance: its ends count for more than the wire there' }
        : (2 * Math.PI * VACUUM_PERMITTIVITY * length) / Math.acosh((2 * distance) / wireMetres);
    case 'tube':
      return outerMetres <= wireMetres
        ? { at: 'outerMetres', reason: 'must be wider than what is inside it' }
        : (2 * Math.PI * VACUUM_PERMITTIVITY * length) / Math.log(outerMetres / wireMetres);
    case 'person':
      return PERSON_FARADS;
  }
}
