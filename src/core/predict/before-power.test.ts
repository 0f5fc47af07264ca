import type { Design } from '../design/design-schema';
import { DRIVER_KIND_IDS, driverOfKind, type DriverKindId } from '../drive/driver-kinds';
import { newDesign } from '../design/new-design';
import { driveOf } from '../operating/ladder-of-design';
import { formatQuantity } from '../quantity/format-quantity';
import { predict } from './predict';

const plain: Design = { ...newDesign('Before power'), load: { kind: 'current', amps: 1e-5 } };
const of = (kind: DriverKindId): Design => ({ ...plain, ...driverOfKind(kind, plain, driveOf(plain)) });
const checks = (design: Design) => new Map(predict(design).beforePower.map(({ code, text }) => [code, text]));

it.each(DRIVER_KIND_IDS)('%s: meter and discharge are always on the list, no figure is missing', (kind) => {
  const list = checks(of(kind));
  expect([...list.keys()]).toEqual(expect.arrayContaining(['meter', 'discharge']));
  for (const text of list.values()) expect(text).not.toMatch(/NaN|–\s|undefined|Infinity/);
});

it('what belongs to a kind is on its list and on no other', () => {
  expect(checks(of('resonant-push-pull')).get('push-pull-start')).toMatch(/^Set 24\.0\sV first/);
  expect(checks(of('flyback')).has('switch-unloaded')).toBe(true);
  expect(checks(of('mains')).has('mains')).toBe(true);
  expect(checks(of('inverter')).has('push-pull-start')).toBe(false);
});

it('a module’s own notes reach the list', () => {
  const bought = of('module');
  const noted: Design = {
    ...bought,
    driver: {
      ...(bought.driver as Extract<Design['driver'], { kind: 'module' }>),
      startNote: ' duty under 70 % ',
      heatSinkLive: true,
    },
  };
  expect(checks(noted).get('module-start')).toBe('To start the module: duty under 70 %');
  expect(checks(noted).has('heat-sink-live')).toBe(true);
  expect(checks(bought).has('module-start')).toBe(false);
});

it.each([
  ['inverter', 1, 1.5],
  ['inverter', 0.97, 2],
  ['flyback', 0.97, 2],
] as const)('%s coupled by %d: the current limit is %d times what the load asks', (kind, coupling, times) => {
  const design = of(kind);
  const coupled: Design = { ...design, transformer: { ...design.transformer!, coupling } };
  const amps = predict(coupled).source.figures.supplyAmps!;
  const text = checks(coupled).get('current-limit')!;
  expect(amps).toBeGreaterThan(0);
  for (const wanted of [amps, times * amps]) expect(text).toContain(formatQuantity(wanted, 'A', 2));
});

it('X-rays are named over 5 kV only, a missing bleeder always', () => {
  expect(checks(plain).has('x-rays')).toBe(false);
  expect(checks({ ...plain, ladder: { ...plain.ladder, stages: 4 } }).has('x-rays')).toBe(true);
  expect(checks(plain).get('discharge')).toMatch(/^There is no bleeder/);
  expect(checks({ ...plain, output: { ...plain.output, bleederOhms: 1e9 } }).get('discharge')).toMatch(/^The bleeder/);
});

it.each([
  [12, /^A hand meter/, /resistor with clips.*measure each\.$/],
  [100, /^A meter and leads rated for well over 397/, /insulated stick.*measure each\.$/],
  [1000, /^A divider rated for more than 3\.97.kV.*no hand meter/, /insulated stick.*measure each\.$/],
] as const)('with %d V peak the meter and the discharge are those for it', (peak, meter, discharge) => {
  const { driver } = plain;
  const design: Design = {
    ...plain,
    driver: { ...driver, positivePeakVolts: peak, negativePeakVolts: peak } as Design['driver'],
    ladder: { ...plain.ladder, diode: { ...plain.ladder.diode, forwardVolts: 0 } },
  };
  const list = checks(design);
  expect(list.get('meter')).toMatch(meter);
  expect(list.get('discharge')).toMatch(discharge);
  // A short across a charged capacitor is never advised.
  for (const text of list.values()) expect(text).not.toMatch(/\bshort every\b/i);
});
