import { FLYBACK, suppliedDesign, TRANSFORMER } from '../../../tests/reference/supplied-design';
import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { driverOfKind } from '../drive/driver-kinds';
import { seeded } from '../numeric/chance';
import { predict } from '../predict/predict';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

// What docs/physics.md and the finding of a rough drive say of closed forms that leave ringing out, held against whole circuits.
const DRAWS = 14;
/** From a heavy load to hardly any. */
const LOAD_OHMS = [2e6, 1e11] as const;

type Draw = { pick: <T>(of: readonly T[]) => T; between: (least: number, most: number) => number };

/** A draw of any of these, and evenly over the logarithm. */
function drawing(seed: number): Draw {
  const random = seeded(seed);
  return {
    pick: (of) => of[Math.floor(random() * of.length)],
    between: (least, most) => least * Math.exp(random() * Math.log(most / least)),
  };
}

function flyback({ pick, between }: Draw): Design {
  const volts = between(9, 40);
  const driver = {
    ...FLYBACK.driver,
    efficiency: 0.99,
    duty: between(0.15, 0.45),
    frequencyHertz: between(15e3, 40e3),
    clampVolts: pick([true, true, false]) ? volts * between(4, 12) : null,
  };
  const transformer = {
    ...TRANSFORMER,
    coupling: pick([1, 0.995, 0.98, 0.95]),
    secondaryTurns: Math.round(between(80, 600)),
    primaryHenries: between(15e-6, 150e-6),
    secondaryFarads: between(8e-12, 40e-12),
  };
  const design = suppliedDesign(
    { supply: { kind: 'dc', volts }, driver, transformer },
    pick([1, 2, 3]),
    between(...LOAD_OHMS),
  );
  return changeDesign(design, { path: '$.ladder.topology', value: pick(['rectifier', 'half-wave', 'half-wave']) });
}

function inverter({ pick, between }: Draw): Design {
  const driver = {
    kind: 'inverter',
    bridge: pick(['half', 'full', 'push-pull']),
    frequencyHertz: between(15e3, 60e3),
    transistorOhms: 0.1,
  };
  const transformer = {
    ...TRANSFORMER,
    primaryTurns: 20,
    coupling: pick([0.995, 0.98, 0.95]),
    secondaryTurns: Math.round(between(200, 1200)),
    primaryHenries: between(200e-6, 1500e-6),
    secondaryFarads: between(8e-12, 60e-12),
  };
  const supply = { kind: 'dc', volts: between(12, 60) };
  const design = suppliedDesign({ supply, driver, transformer }, pick([1, 2, 3]), between(...LOAD_OHMS));
  const value = pick(['rectifier', 'half-wave', 'half-wave', 'full-wave', 'bipolar']);
  return changeDesign(design, { path: '$.ladder.topology', value });
}

/** Logarithm of closed form over whole circuit, of every draw for which both have a figure. */
function apart(of: (draw: Draw) => Design): number[] {
  return Array.from({ length: DRAWS }, (_, seed) => of(drawing(seed + 1))).flatMap((design) => {
    const { meanVolts } = predict(design).output;
    if (meanVolts === null) return [];
    const { transient } = finish(transientOf(design));
    return transient.driver.kind === 'circuit' && transient.converged
      ? [Math.log(meanVolts / transient.meanVolts)]
      : [];
  });
}

const rms = (values: readonly number[]) => Math.sqrt(values.reduce((sum, one) => sum + one ** 2, 0) / values.length);
const mean = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;

it.each([
  ['flyback', flyback, { rms: 0.1, mean: 0.05, worst: 0.3 }],
  ['inverter behind leakage', inverter, { rms: 0.1, mean: 0.05, worst: 0.5 }],
] as const)('%s as its circuit has it, within what is said of it', (_name, of, most) => {
  const found = apart(of);
  expect(found.length).toBeGreaterThan(0.8 * DRAWS);
  expect(rms(found)).toBeLessThan(most.rms);
  expect(Math.abs(mean(found))).toBeLessThan(most.mean);
  expect(Math.max(...found.map(Math.abs))).toBeLessThan(most.worst);
});

/** What starts out of the form choose, with nothing drawn and with a little; how far the closed form may lie from their circuits. */
it.each([
  ['resonant-push-pull', 0.02],
  ['flyback', 0.15],
  ['inverter', 0.15],
  ['blocking-oscillator', 0.15],
  ['capacitor-discharge', 0.3],
] as const)('%s chosen anew runs as one circuit, its closed form not far from it', (kind, most) => {
  for (const { positivePeakVolts, frequencyHertz, load } of [
    { positivePeakVolts: 1000, frequencyHertz: 20e3, load: { kind: 'resistance' as const, ohms: 1e9 } },
    { positivePeakVolts: 4000, frequencyHertz: 38e3, load: { kind: 'open' as const } },
  ]) {
    const plain = newDesign('Chosen');
    const before: Design = {
      ...plain,
      driver: { ...plain.driver, positivePeakVolts, frequencyHertz } as Design['driver'],
      ladder: { ...plain.ladder, stages: 4 },
      load,
    };
    const { drive, source } = predict(before);
    const design = { ...before, ...driverOfKind(kind, before, drive, source.ladderFarads) };
    const { transient } = finish(transientOf(design));
    expect(transient.driver.kind).toBe('circuit');
    expect(Math.abs(Math.log(predict(design).output.meanVolts! / transient.meanVolts))).toBeLessThan(most);
  }
});
