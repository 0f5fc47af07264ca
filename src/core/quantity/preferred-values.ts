/** The E series of IEC 60063 that parts are sold in, by their number of values a decade. */
export type ESeries = 3 | 6 | 12 | 24 | 48 | 96;

/** E24 is no pure geometric series: these are its values as the standard lists them; E12, E6 and E3 thin it out. */
const E24 = [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91];

/** ISO 3, R20 rounded: the nominal diameters of enamelled wire. */
const R20 = [1, 1.12, 1.25, 1.4, 1.6, 1.8, 2, 2.24, 2.5, 2.8, 3.15, 3.55, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9];

/** Values of one decade from 1 up to under 10, rising. */
function decadeOf(series: ESeries): number[] {
  if (series <= 24) return E24.filter((_, at) => at % (24 / series) === 0).map((value) => value / 10);
  return Array.from({ length: series }, (_, at) => Math.round(100 * 10 ** (at / series)) / 100);
}

/** All values of a decade's list between two limits, rising, cleaned of binary dust. */
function between(decade: readonly number[], least: number, most: number): number[] {
  const values: number[] = [];
  for (let power = Math.floor(Math.log10(least)); power <= Math.ceil(Math.log10(most)); power += 1)
    for (const value of decade) {
      const scaled = Number(`${value}e${power}`);
      if (scaled >= least * (1 - 1e-9) && scaled <= most * (1 + 1e-9)) values.push(scaled);
    }
  return values;
}

/**
 * Preferred values from `least` to `most`, rising.
 *
 * @param series values a decade; E48 and E96 are 10^(i / n) to three digits, the
 *   coarser ones the standard's own list (IEC 60063:2015, table 1; from memory)
 * @param least above zero
 */
export function preferredValues(series: ESeries, least: number, most: number): number[] {
  return between(decadeOf(series), least, most);
}

/** The smallest preferred value that is no smaller than the one wanted, which is above zero. */
export function preferredAtLeast(series: ESeries, wanted: number): number {
  return preferredValues(series, wanted, wanted * 10)[0];
}

/** The largest preferred value that is no larger than the one wanted, which is above zero. */
export function preferredAtMost(series: ESeries, wanted: number): number {
  return preferredValues(series, wanted / 10, wanted).at(-1)!;
}

/** Diameter of the thinnest usual enamelled wire at least this thick, m: R20 of ISO 3, as IEC 60317 lists them. */
export function metricWireAtLeast(metres: number): number {
  return between(R20, metres, metres * 10)[0];
}
