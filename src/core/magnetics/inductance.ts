const VACUUM_PERMEABILITY = 4e-7 * Math.PI;

/** Turns ratio from the inductances of two windings on one core: sqrt(L2 / L1) (handbook). */
export function ratioOfInductances(primaryHenries: number, secondaryHenries: number): number {
  return Math.sqrt(secondaryHenries / primaryHenries);
}

/**
 * Coupling from one winding's inductance with the other open and with it
 * shorted: sqrt(1 - Ls / Lo) (handbook); null where the shorted reading is no
 * lower, which no transformer gives.
 */
export function couplingOf(openHenries: number, shortedHenries: number): number | null {
  return shortedHenries < openHenries ? Math.sqrt(1 - shortedHenries / openHenries) : null;
}

/** Frequency at which an inductance and a capacitance ring, Hz: 1 / (2 pi sqrt(L C)) (handbook). */
export function resonanceHertz(henries: number, farads: number): number {
  return 1 / (2 * Math.PI * Math.sqrt(henries * farads));
}

/** Inductance that rings with a known capacitance at a measured frequency, H (handbook). */
export function henriesOfResonance(hertz: number, farads: number): number {
  return 1 / ((2 * Math.PI * hertz) ** 2 * farads);
}

/** What a core is to flux: area and path, its material's permeability, the gap as a whole. */
export type Core = {
  squareMetres: number;
  pathMetres: number;
  relativePermeability: number;
  gapMetres: number;
};

/**
 * Inductance of one turn squared (AL), H: mu0 A / (gap + path / mur)
 * (handbook). Flux that bulges at the gap is not counted: with gaps over a tenth
 * of the core's width it adds some ten per cent.
 */
export function inductanceFactor({ squareMetres, pathMetres, relativePermeability, gapMetres }: Core): number {
  return (VACUUM_PERMEABILITY * squareMetres) / (gapMetres + pathMetres / relativePermeability);
}

/** Gap that brings AL down to a wanted value, m; null where the core without a gap has less already. */
export function gapFor(
  wantedFactor: number,
  { squareMetres, pathMetres, relativePermeability }: Omit<Core, 'gapMetres'>,
): number | null {
  const gap = (VACUUM_PERMEABILITY * squareMetres) / wantedFactor - pathMetres / relativePermeability;
  return gap >= 0 ? gap : null;
}

/**
 * Fewest turns that keep the flux density under a limit: flux linkage over area
 * and density (Faraday's law). The linkage's peak, V s, is Vpk / (2 pi f) for a
 * sine, V / (4 f) for a square, L Ip for a primary charged by a switch.
 */
export function leastTurns(linkageVoltSeconds: number, squareMetres: number, tesla: number): number {
  return Math.ceil(linkageVoltSeconds / (squareMetres * tesla) - 1e-9);
}
