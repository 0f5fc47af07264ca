import type { Design } from '../design/design-schema';

/** What one can put an ohmmeter to: its name, what the design has there, Ω, and how far off that may be, as a fraction. */
export type Resistance = { id: string; ohms: number; tolerance: number };

/** A usual resistor, and a winding whose wire is a little warmer or thinner than it is said to be (common practice, no source). */
const RESISTOR_TOLERANCE = 0.05;
const WINDING_TOLERANCE = 0.1;

/** Individual resistors and windings of a design. */
export function resistancesOf({ transformer, output }: Design): Resistance[] {
  const { seriesOhms, bleederOhms, divider, smoothing } = output;
  const usual = (id: string, ohms: number | null): Resistance[] =>
    ohms !== null && ohms > 0 ? [{ id, ohms, tolerance: RESISTOR_TOLERANCE }] : [];
  return [
    ...(transformer && transformer.secondaryOhms > 0
      ? [{ id: 'secondary', ohms: transformer.secondaryOhms, tolerance: WINDING_TOLERANCE }]
      : []),
    ...usual('bleeder', bleederOhms),
    ...smoothing.flatMap(({ ohms, henries }, at) => (henries > 0 ? [] : usual(`smoothing ${at + 1}`, ohms))),
    ...(divider
      ? [
          { id: 'divider string', ohms: divider.topOhms, tolerance: divider.topTolerance },
          { id: 'divider foot', ohms: divider.footOhms, tolerance: divider.footTolerance },
        ]
      : []),
    ...usual('series resistor', seriesOhms),
  ];
}
