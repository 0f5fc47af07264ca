import type { Part } from '../../parts/part-schema';
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
      const { watts, ratedVolts, pulseJoules } = part;
      const string = stringOf(part, (read(ohmsField) as number | null) ?? 0, noLoadVolts, takesAllPower);
      return (
        string && {
          words: string.words,
          values: {
            [ohmsField]: string.ohms,
            [`resistors.${id}`]: { count: string.count, watts, ratedVolts, pulseJoules, partId: null },
          },
        }
      );
    },
  };
}

/** So many of a resistor in series; null where too many would be wanted, or they come to quite another resistance. */
function stringOf(
  { ohms, watts, ratedVolts }: Part & { kind: 'resistor' },
  wantedOhms: number,
  noLoadVolts: number,
  takesAllPower: boolean,
): { count: number; ohms: number; words: string } | null {
  const byVolts = ratedVolts === null ? 1 : (SAFETY * noLoadVolts) / ratedVolts;
  // Each of n takes V^2 / (n^2 R) across the output; in series with it the load alone sets the power.
  const byWatts = !takesAllPower || watts === null ? 1 : Math.sqrt((SAFETY * noLoadVolts ** 2) / (ohms * watts));
  const fewest = Math.ceil(Math.max(1, byVolts, byWatts) - 1e-9);
  const count = Math.max(fewest, Math.round(wantedOhms / ohms));
  const total = Number((count * ohms).toPrecision(12));
  const away = wantedOhms > 0 ? Math.max(total / wantedOhms, wantedOhms / total) : 1;
  if (count > MOST_RESISTORS || away > MOST_AWAY) return null;
  return { count, ohms: total, words: `${count === 1 ? 'one' : `${count} in series`}, ${formatQuantity(total, 'Ω')}` };
}

const STRING = 'output.divider';

/** The string of a measuring divider, where there is one. */
export const dividerPlace: Place = {
  id: 'divider',
  name: 'Divider’s string',
  takes: 'resistor',
  partId: `${STRING}.partId`,
  fields: ['topOhms', 'topCount', 'topRatedVolts', 'topWatts'].map((field) => `${STRING}.${field}`),
  count: (read) => (read(`${STRING}.topCount`) as number | undefined) ?? 0,
  fit: (read, part, { noLoadVolts }) => {
    const wantedOhms = read(`${STRING}.topOhms`) as number | undefined;
    if (part.kind !== 'resistor' || wantedOhms === undefined) return null;
    const string = stringOf(part, wantedOhms, noLoadVolts, true);
    return (
      string && {
        words: string.words,
        values: {
          [`${STRING}.topOhms`]: string.ohms,
          [`${STRING}.topCount`]: string.count,
          [`${STRING}.topRatedVolts`]: part.ratedVolts,
          [`${STRING}.topWatts`]: part.watts,
        },
      }
    );
  },
};

export const seriesPlace = resistorPlace('series', 'Series resistor', false);
export const bleederPlace = resistorPlace('bleeder', 'Bleeder', true);
