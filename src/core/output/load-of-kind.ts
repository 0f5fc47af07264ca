import type { Load } from '../design/design-schema';

/**
 * A load of another kind that draws about the same, rounded to three digits.
 *
 * @param drawn what is drawn now: A, and the mean V it is drawn at; both above zero
 */
export function loadOfKind(kind: Load['kind'], drawn: { amps: number; volts: number }): Load {
  const round = (value: number) => Number(value.toPrecision(3));
  switch (kind) {
    case 'open':
      return { kind };
    case 'current':
      return { kind, amps: round(drawn.amps) };
    case 'resistance':
      return { kind, ohms: round(drawn.volts / drawn.amps) };
  }
}
