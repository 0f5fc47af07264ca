import fc from 'fast-check';
import { loadAmpsAt } from './load-kinds';

it('a corona behind a resistor draws by its law at the voltage that is left', () => {
  const power = (from: number, to: number) =>
    fc.double({ min: from, max: to, noNaN: true }).map((exponent) => 10 ** exponent);
  fc.assert(
    fc.property(power(1, 5), power(1, 5), power(-14, -6), power(0, 10), (terminal, onsetVolts, k, ohms) => {
      const amps = loadAmpsAt({ kind: 'corona', onsetVolts, ampsPerSquareVolt: k }, terminal, ohms);
      const volts = terminal - amps * ohms;
      if (terminal <= onsetVolts) expect(amps).toBe(0);
      else {
        // Townsend: i = k u (u - u0) at the load itself.
        expect(volts).toBeGreaterThanOrEqual(onsetVolts * (1 - 1e-9));
        expect(Math.abs(amps - k * volts * (volts - onsetVolts))).toBeLessThanOrEqual(
          1e-6 * amps + 1e-9 * k * volts ** 2,
        );
      }
    }),
  );
});

it.each([
  [{ kind: 'open' as const }, 0],
  [{ kind: 'gap' as const, strikeVolts: 10, arcOhms: 1, quenchAmps: 1 }, 0],
  [{ kind: 'current' as const, amps: 2 }, 2],
  [{ kind: 'resistance' as const, ohms: 90 }, 1],
  [{ kind: 'meter' as const, ohms: 40 }, 2],
])('%j draws %d A from 100 V through 10 Ω', (load, amps) => expect(loadAmpsAt(load, 100, 10)).toBeCloseTo(amps, 12));
