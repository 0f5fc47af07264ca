/** Resistivity of annealed copper at 20 °C, Ω m: 100 % IACS (IEC 60028). */
export const COPPER_OHM_METRES = 1.7241e-8;
const VACUUM_PERMEABILITY = 4e-7 * Math.PI;

/** Diameter of a bare wire of an AWG number, m: 0.127 mm times 92 to the power (36 - n) / 39 (ASTM B258). */
export function awgMetres(number: number): number {
  return 0.127e-3 * 92 ** ((36 - number) / 39);
}

/** Current that copper of a winding is commonly given, A/m² (common practice, no source). */
export const AMPS_PER_SQUARE_METRE = 3e6;

/** Section of a round wire, m². */
export const sectionOf = (metres: number) => (Math.PI / 4) * metres ** 2;

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

/**
 * Diameter over the enamel, m, of a wire of this bare diameter: grade 1 adds
 * about 0.062 mm times the root of the diameter in mm (fitted to the greatest
 * overall diameters of IEC 60317-0-1, from memory; 0.05 mm to 2 mm within a few
 * micrometres).
 */
export function enamelledMetres(bareMetres: number): number {
  return bareMetres + 0.062e-3 * Math.sqrt(bareMetres / 1e-3);
}

/** Past this radius over skin depth the tabulated sum loses digits and its limit, r / 2d + 1/4, is right to 0.3 %. */
const THICK = 12;

/**
 * Resistance of a round wire at a frequency over that for direct current, by
 * the skin effect of the wire alone: Re[(kr/2) J0(kr) / J1(kr)] with k = (1 - j)
 * / skin depth (Kelvin, 1887; handbook). Neighbouring turns crowd the current
 * further (proximity), which is not counted: it is a lower bound in a winding.
 */
export function skinFactor(wireMetres: number, hertz: number): number {
  const times = wireMetres / 2 / skinDepthMetres(hertz);
  if (times > THICK) return times / 2 + 0.25;
  // With z = kr, (z/2)^2 is purely imaginary: -j times^2 / 2; the series of J0 and J1 in it.
  const half = times ** 2 / 2;
  let [zeroReal, zeroImaginary, oneReal, oneImaginary] = [0, 0, 0, 0];
  let term = 1;
  for (let power = 0; power < 200; power += 1) {
    if (power > 0) term *= half / power ** 2;
    // (-(z/2)^2)^m / m!^2 turns by a right angle with each m.
    const [real, imaginary] = [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ][power % 4];
    zeroReal += term * real;
    zeroImaginary += term * imaginary;
    oneReal += (term * real) / (power + 1);
    oneImaginary += (term * imaginary) / (power + 1);
    if (power > half && term < 1e-18) break;
  }
  // J1 = (z/2) times its series, so that (z/2) J0 / J1 is the quotient of the two series.
  return (zeroReal * oneReal + zeroImaginary * oneImaginary) / (oneReal ** 2 + oneImaginary ** 2);
}
