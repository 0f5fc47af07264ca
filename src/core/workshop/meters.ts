import deepEqual from 'fast-deep-equal';
import type { OwnMeters } from '../drive/meter-sense';
import type { Taken } from './messages';

type NamedMeter = OwnMeters['meters'][number];

/** Meters of an archive beside one's own, by their names. */
export function metersBeside(own: readonly NamedMeter[], archived: readonly NamedMeter[]) {
  const names = new Map(own.map((one) => [one.name, one]));
  return {
    fresh: archived.filter(({ name }) => !names.has(name)),
    same: archived.filter((one) => deepEqual(names.get(one.name), one)),
    clashing: archived.filter((one) => names.has(one.name) && !deepEqual(names.get(one.name), one)),
  };
}

/** One's own meters with those of an archive; where two of one name differ, one's own or the archive's. */
export function metersTaken(
  own: readonly NamedMeter[],
  archived: readonly NamedMeter[],
  clashing: Taken,
): NamedMeter[] {
  const { fresh, clashing: others } = metersBeside(own, archived);
  const instead = new Map(clashing === 'archive' ? others.map((one) => [one.name, one]) : []);
  return [...own.map((one) => instead.get(one.name) ?? one), ...fresh];
}
