/**
 * What a power ferrite of the usual manganese-zinc grades loses, in W/m³ at 100 kHz
 * and 0.1 T, and how that goes with frequency and flux (data sheets agree within a
 * factor of two; common practice, from memory).
 */
const USUAL = { wattsPerCubicMetre: 80e3, hertz: 100e3, tesla: 0.1, byHertz: 1.45, byTesla: 2.5 };

/**
 * Loss of a ferrite core, W: k f^a B^b times its volume (C. P. Steinmetz, 1892),
 * with the figures of a usual grade: an estimate within a factor of two or three.
 *
 * @param tesla half of what the flux density goes through in a period
 * @param core area and path of the flux, above zero
 */
export function coreLossWatts(
  tesla: number,
  hertz: number,
  { squareMetres, pathMetres }: { squareMetres: number; pathMetres: number },
): number {
  const perVolume =
    USUAL.wattsPerCubicMetre * (hertz / USUAL.hertz) ** USUAL.byHertz * (tesla / USUAL.tesla) ** USUAL.byTesla;
  return perVolume * squareMetres * pathMetres;
}
