import { partSchema } from '../parts/part-schema';
import { sticksOnHand } from './stick-on-hand';

let made = 0;
const resistor = (name: string, count: number, ohms: number, more: object = {}) => {
  made += 1;
  return partSchema.parse({
    kind: 'resistor',
    id: `11111111-1111-4111-8111-${String(made).padStart(12, '0')}`,
    name,
    count,
    ohms,
    ratedVolts: 3500,
    ...more,
  });
};
const wanted = { ohms: 1e6, volts: 20e3, joules: 0.5 };
const names = (...of: Parameters<typeof sticksOnHand>) => sticksOnHand(...of).map(({ name, count }) => [name, count]);

it('resistance, voltage and pulse each ask for so many, and the fewest come first', () => {
  // 1 MΩ of 470 kΩ: three; 20 kV at 3.5 kV each: six; half a joule at 0.05 J each: ten.
  const parts = [
    resistor('by voltage', 20, 470e3),
    resistor('by resistance', 20, 100e3, { ratedVolts: 10e3 }),
    resistor('by pulse', 20, 470e3, { pulseJoules: 0.04 }),
  ];
  expect(names(parts, [], wanted)).toEqual([
    ['by voltage', 6],
    ['by resistance', 10],
    ['by pulse', 13],
  ]);
  expect(sticksOnHand(parts, [], wanted)[0].ohms).toBeCloseTo(6 * 470e3, 6);
});

it('what is not there, is taken, or whose voltage is not known makes none', () => {
  const few = resistor('few', 5, 470e3);
  const unknown = resistor('unknown', 50, 470e3, { ratedVolts: null });
  expect(names([few, unknown], [], wanted)).toEqual([]);
  const enough = resistor('enough', 8, 470e3);
  const use = { designId: 'a', designName: 'A', partId: enough.id, count: 3 };
  expect(names([enough], [], wanted)).toEqual([['enough', 6]]);
  expect(names([enough], [use], wanted)).toEqual([]);
  expect(names([resistor('very many', 900, 1e3)], [], wanted)).toEqual([]);
});
