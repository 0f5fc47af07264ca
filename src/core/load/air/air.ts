import { saying, share } from '../../schema/fields';
import * as z from '../../zod';

const DEGREES = 'degrees Celsius from -40 to 60, such as 20';
const HEIGHT = 'metres from -400 to 5000, such as 250';

/** The air in the workshop. */
export const airSchema = z.strictObject({
  celsius: z
    .number({ error: saying(DEGREES) })
    .gte(-40, { error: saying(DEGREES) })
    .lte(60, { error: saying(DEGREES) })
    .default(20),
  /** Above the sea. */
  altitudeMetres: z
    .number({ error: saying(HEIGHT) })
    .gte(-400, { error: saying(HEIGHT) })
    .lte(5000, { error: saying(HEIGHT) })
    .default(0),
  relativeHumidity: share('0.5').default(0.5),
});
export type Air = z.output<typeof airSchema>;

const STANDARD_PASCALS = 101_325;

/**
 * Pressure of the standard atmosphere at a height, Pa (ISO 2533, from memory):
 * 101 325 Pa (1 - 2.25577e-5 h)^5.25588. Weather takes it up and down by some 3 %.
 */
const pascalsAt = (altitudeMetres: number) => STANDARD_PASCALS * (1 - 2.25577e-5 * altitudeMetres) ** 5.25588;

/** Density of air as a part of that at 20 °C and 101.3 kPa, by which breakdown goes (IEC 60060-1, from memory). */
export const relativeDensity = ({ celsius, altitudeMetres }: Air): number =>
  (pascalsAt(altitudeMetres) / STANDARD_PASCALS) * (293 / (273 + celsius));

/** Water in the air, g/m³: Magnus' formula for the pressure of its vapour, 6.112 hPa e^(17.67 t / (t + 243.5)) (from memory). */
export const waterGrams = ({ celsius, relativeHumidity }: Air): number =>
  (relativeHumidity * 611.2 * Math.exp((17.67 * celsius) / (celsius + 243.5)) * 2.1674) / (273.15 + celsius);
