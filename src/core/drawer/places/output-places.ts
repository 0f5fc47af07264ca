import type { Place } from '../../parts/place';
import { formatQuantity } from '../../quantity/format-quantity';
import { CHOSEN_MARGIN } from '../../quantity/margin';

const SAFETY = 1 + CHOSEN_MARGIN;
const MOST_RESISTORS = 100;
/** How many times another resistance than there is may be offered in its place. */
const MOST_AWAY = 5;

/**
 * A resistor of the output: as many in series as come nearest the resistance
 * there is, and carry voltage and power with margin.
 *
 * @param takesAllPower whether the whole voltage stands across it for long, so that power decides as well
 */
function resistorPlace(id: 'series' | 'bleeder', name: string, takesAllPower: boolean): Place {
  const ohmsField = `output.${id}Ohms`;
  return {
    id,
    name,
    takes: 'resistor',
    partId: `resistors.${id}.partId`,
    fields: [ohmsField, ...['count', 'watts', 'ratedVolts', 'pulseJoules'].map((field) => `resistors.${id}.${field}`)],
    count: (read) => (read(ohmsField) ? (read(`resistors.${id}.count`) as number) : 0),
    fit: (read, part, { noLoadVolts }) => {
      if (part.kind !== 'resistor') return null;
      const { ohms, watts, ratedVolts, pulseJoules } = part;
      const wantedOhms = (read(ohmsField) as number | null) ?? 0;
      const byVolts = ratedVolts === null ? 1 : (SAFETY * noLoadVolts) / ratedVolts;
      // Each of n takes V^2 / (n^2 R) across a bleeder; in series with the output the load alone sets the power.
      const byWatts = !takesAllPower || watts === null ? 1 : Math.sqrt((SAFETY * noLoadVolts ** 2) / (ohms * watts));
      const fewest = Math.ceil(Math.max(1, byVolts, byWatts) - 1e-9);
      const count = Math.max(fewest, Math.round(wantedOhms / ohms));
      const total = Number((count * ohms).toPrecision(12));
      const away = wantedOhms > 0 ? Math.max(total / wantedOhms, wantedOhms / total) : 1;
      if (count > MOST_RESISTORS || away > MOST_AWAY) return null;
      return {
        words: `${count === 1 ? 'one' : `${count} in series`}, ${formatQuantity(total, 'Ω')}`,
        values: {
          [ohmsField]: total,
          [`resistors.${id}`]: { count, watts, ratedVolts, pulseJoules, partId: null },
        },
      };
    },
  };
}

export const seriesPlace = resistorPlace('series', 'Series resistor', false);
export const bleederPlace = resistorPlace('bleeder', 'Bleeder', true);
