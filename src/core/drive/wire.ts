/** Resistivity of annealed copper at 20 °C, Ω m: 100 % IACS (IEC 60028). */
export const COPPER_OHM_METRES = 1.7241e-8;
const VACUUM_PERMEABILITY = 4e-7 * Math.PI;

/** Diameter of a bare wire of an AWG number, m: 0.127 mm times 92 to the power (36 - n) / 39 (ASTM B258). */
export function awgMetres(number: number): number {
  return 0.127e-3 * 92 ** ((36 - number) / 39);
}

/**
 * AWG number of the thinnest wire with at least this section; below 0 stand for
 * 2/0 and thicker.
 *
 * @param squareMetres above zero
 */
export function awgOfSection(squareMetres: number): number {
  const metres = 2 * Math.sqrt(squareMetres / Math.PI);
  return Math.floor(36 - (39 * Math.log(metres / 0.127e-3)) / Math.log(92) + 1e-9);
}

/** Depth in copper at which current has fallen to 1/e, m: sqrt(rho / (pi f mu0)) (handbook). */
export function skinDepthMetres(hertz: number): number {
  return Math.sqrt(COPPER_OHM_METRES / (Math.PI * hertz * VACUUM_PERMEABILITY));
}
