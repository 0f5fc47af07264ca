import { DRIVER_KIND_IDS, driverOfKind } from '../drive/driver-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { changeWords } from './change-words';
import { changeDesign } from './change-design';
import { newDesign } from './new-design';

const design = newDesign('one');
const words = (path: string, value: unknown) =>
  changeWords(design, changeDesign(design, { path, value }), 'two-of-each').replace(/\s/g, ' ');

it.each<[string, unknown, string]>([
  ['$.ladder.stages', 12, 'Stages 2 to 12'],
  ['$.ladder.capacitor.farads', 4.7e-9, 'Each capacitor 1.00 nF to 4.70 nF'],
  ['$.ladder.capacitor.lossTangent', 0.02, 'Capacitor loss tangent none to 0.0200'],
  ['$.ladder.topology', 'full-wave', 'Topology half-wave to full-wave'],
  ['$.ladder.diode.leakageAmps', 2e-6, 'Diode leakage 0 A to 2.00 µA'],
  ['$.output.bleederOhms', 1e9, 'Bleeder none to 1.00 GΩ'],
  [
    '$.output.smoothing',
    [{ ohms: 1e5, henries: 0, farads: 1e-9, ratedVolts: null }],
    'Smoothing section 1 none to given',
  ],
  ['$.target', { volts: 5000, amps: 0, ripplePeakToPeakFraction: null, of: 'mean' }, 'Target none to 5.00 kV'],
  ['$.resistors.bleeder.watts', 2, 'Bleeder watts none to 2.00 W'],
  ['$.spread.frequency', 0.1, 'Tolerance frequency 3.00 % to 10.0 %'],
  ['$.ladder.capacitorFarads', [1e-9, 1e-9, 1e-9, 1e-9], 'Individual capacitors none to 4 values'],
  ['$.notes', 'warm', 'Notes'],
  ['$.name', 'other', 'Name one to other'],
])('%s is told as the card calls it', (path, value, told) => expect(words(path, value)).toBe(told));

it('what a section of the smoothing is made of is told as the card calls it', () => {
  const section = { ohms: 1e5, henries: 0, farads: 1e-9, ratedVolts: null };
  const smoothed = changeDesign(design, { path: '$.output.smoothing', value: [section] });
  const changed = changeDesign(smoothed, { path: '$.output.smoothing.0.farads', value: 2e-9 });
  expect(changed.output.smoothing).toEqual([{ ...section, farads: 2e-9 }]);
  expect(changeWords(smoothed, changed, 'two-of-each').replace(/\s/g, ' ')).toBe(
    'Smoothing capacitor 1.00 nF to 2.00 nF',
  );
});

it('stages are told as they are counted', () =>
  expect(changeWords(design, changeDesign(design, { path: '$.ladder.stages', value: 2.5 }), 'one-of-each')).toBe(
    'Stages 4 to 5',
  ));

it('nothing changed is nothing said', () =>
  expect(changeWords(design, structuredClone(design), 'two-of-each')).toBe(''));

it.each(DRIVER_KIND_IDS)('no path nor camel case is shown of a change to %s and within it', (kind) => {
  const other = { ...design, ...driverOfKind(kind, design, driveOf(design)) };
  const driver = Object.fromEntries(
    Object.entries(other.driver).map(([name, value]) => [name, typeof value === 'number' ? value * 2 : value]),
  );
  for (const told of [
    changeWords(design, other, 'two-of-each'),
    changeWords(other, { ...other, driver: driver as never }, 'two-of-each'),
  ])
    expect(told).not.toMatch(/\$|[a-z]{2}[A-Z][a-z]|undefined|NaN|\[object/);
});
