import type { Load } from '../design/design-schema';

/** What most digital meters draw through, Ω (common practice, no source). */
const METER_OHMS = 10e6;

/**
 * A load of another kind that draws about the same, rounded to three digits. A
 * corona starts at 60 % of the voltage, a gap strikes a tenth above it.
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
    case 'meter':
      return { kind, ohms: METER_OHMS };
    case 'corona': {
      const onsetVolts = round(drawn.volts * 0.6);
      return { kind, onsetVolts, ampsPerSquareVolt: round(drawn.amps / (drawn.volts * (drawn.volts - onsetVolts))) };
    }
    case 'gap':
      return { kind, strikeVolts: round(drawn.volts * 1.1), arcOhms: 1000, quenchAmps: 1e-3 };
  }
}
