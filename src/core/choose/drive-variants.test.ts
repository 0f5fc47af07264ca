import type { Design } from '../design/design-schema';
import { driverOfKind, type DriverKindId } from '../drive/driver-kinds';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { amplitudeVolts } from '../drive/drive';
import { driveOf } from '../operating/ladder-of-design';
import { driveVariants } from './drive-variants';

const plain = newDesign('Variants');
const driven = (kind: DriverKindId): Design => ({ ...plain, ...driverOfKind(kind, plain, driveOf(plain)) });
const free = { turnDown: true, otherFrequency: true };

it('the design’s own drive alone where nothing may vary', () => {
  expect(driveVariants(plain, { turnDown: false, otherFrequency: false })).toEqual([
    { design: plain, driveScale: 1, frequencyFactor: 1 },
  ]);
});

it.each(['measured', 'mains', 'inverter', 'module'] as const)('%s turned down gives peaks in proportion', (kind) => {
  const design = driven(kind);
  const whole = amplitudeVolts(driveOf(design));
  const variants = driveVariants(design, { ...free, otherFrequency: false });
  expect(variants[0].design).toBe(design);
  expect(variants.map(({ driveScale }) => driveScale)).toEqual([
    1, 0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5,
  ]);
  for (const { design: variant, driveScale } of variants) {
    expect(readDesign(JSON.parse(JSON.stringify(variant))).ok).toBe(true);
    // Settings are kept to four digits.
    expect(amplitudeVolts(driveOf(variant)) / (driveScale * whole)).toBeCloseTo(1, 2);
  }
});

it('a battery is what it is, and a frequency that a tank or the mains sets stays', () => {
  const battery: Design = {
    ...driven('inverter'),
    supply: { kind: 'battery', cells: 8, voltsEach: 1.5, ohmsEach: 0.1, ampHours: null },
  };
  expect(driveVariants(battery, { turnDown: true, otherFrequency: false })).toHaveLength(1);
  for (const kind of ['resonant-push-pull', 'mains'] as const)
    expect(driveVariants(driven(kind), free).every(({ frequencyFactor }) => frequencyFactor === 1)).toBe(true);
});

it('another frequency is that of the drive, half to double', () => {
  const variants = driveVariants(plain, { turnDown: false, otherFrequency: true });
  expect(variants.map(({ frequencyFactor }) => frequencyFactor)).toEqual([1, 0.5, 0.7, 1.4, 2]);
  for (const { design, frequencyFactor } of variants)
    expect(driveOf(design).frequencyHertz).toBeCloseTo(20_000 * frequencyFactor, 6);
});
