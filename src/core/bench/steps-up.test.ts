import { readFileSync } from 'node:fs';
import { benchDesign } from '../../../tests/reference/bench-design';
import { readDesign } from '../design/read-design';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { DRIVER_KIND_IDS, driverOfKind } from '../drive/driver-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { meterSchema } from '../drive/meter-sense';
import { predict } from '../predict/predict';
import { atFraction } from './low-source';
import { stepsUpOf, USUAL_FRACTIONS } from './steps-up';

const METER = meterSchema.parse({});

function demo(name: string): Design {
  const read = readDesign(JSON.parse(readFileSync(`demo/${name}.ladder.json`, 'utf8')));
  if (!read.ok) throw new Error(read.faults[0].message);
  return read.design;
}

const PLAIN = benchDesign({
  driver: { positivePeakVolts: 100, frequencyHertz: 50 },
  ladder: { stages: 2, capacitor: { farads: 10e-6 } },
  load: { kind: 'resistance', ohms: 1e6 },
});

it('ideal diodes: output goes with the drive, power with its square', () => {
  const steps = stepsUpOf(PLAIN, USUAL_FRACTIONS, METER);
  expect(steps.map(({ fraction, outputVolts }) => outputVolts! / fraction / steps[3].outputVolts!)).toEqual(
    USUAL_FRACTIONS.map(() => expect.closeTo(1, 9)),
  );
  expect(steps[1].ladderWatts! / steps[3].ladderWatts!).toBeCloseTo(0.25, 9);
  expect(steps[3].outputVolts).toBe(predict(PLAIN).output.meanVolts);
  expect(steps.map(({ refused }) => refused)).toEqual([null, null, null, null]);
  expect(steps[0].shown!.value).toBe(steps[0].outputVolts);
});

it('the last step is the design itself, for every demo; each before it gives less', () => {
  for (const name of [
    'flocking-applicator',
    'dust-plate-precipitator',
    'electrospinning-bench-pair',
    'photomultiplier-bias',
    'teaching-tripler',
  ]) {
    const design = demo(name);
    const steps = stepsUpOf(design, USUAL_FRACTIONS, METER);
    const whole = predict(design);
    expect(Math.abs(steps[3].outputVolts!)).toBe(whole.output.meanVolts);
    expect(steps[3].supplyAmps).toBe(whole.source.figures.supplyAmps ?? null);
    for (let at = 1; at < steps.length; at += 1)
      expect(steps[at].noLoadPeakVolts!).toBeGreaterThan(steps[at - 1].noLoadPeakVolts!);
  }
});

it.each(DRIVER_KIND_IDS)('%s: half of its supply gives less, or nothing is said of it', (id) => {
  const plain = newDesign('Turned down');
  const design: Design = { ...plain, ...driverOfKind(id, plain, driveOf(plain)) };
  const [half, whole] = stepsUpOf(design, [0.5, 1], METER);
  if (id === 'module') {
    expect(half).toMatchObject({
      noLoadPeakVolts: null,
      outputVolts: null,
      refused: expect.stringMatching(/not known/),
    });
    return;
  }
  // Drops, clamps and what a driver starts at keep it from being half to the volt.
  expect(half.noLoadPeakVolts! / whole.noLoadPeakVolts!).toBeGreaterThan(0.2);
  // A flyback that switches off at a set current stores the same in every shot, whatever feeds it.
  expect(half.noLoadPeakVolts! / whole.noLoadPeakVolts!).toBeLessThan(id === 'flyback' ? 1 : 0.75);
});

it('a supply turned down keeps its limit of current', () => {
  const flocking = demo('flocking-applicator');
  const limited = { ...flocking, supply: { ...flocking.supply!, maxAmps: 0.01 } } as Design;
  expect(atFraction(limited, 0.5)!.supply).toMatchObject({ maxAmps: 0.01 });
  expect(stepsUpOf(limited, [0.5], METER)[0].supplyAmps!).toBeLessThan(0.0101);
});

it('a hand meter is not put on what is too much for it, and the divider that is there is judged instead', () => {
  const steps = stepsUpOf(demo('dust-plate-precipitator'), [0.02, 0.25, 1], { ...METER, limitVolts: 600 });
  expect(steps[2].refused).toMatch(/divider/);
  expect(steps[2].shown).toBeNull();
  const divided = benchDesign({
    driver: { positivePeakVolts: 1000, frequencyHertz: 50 },
    ladder: { stages: 2, capacitor: { farads: 10e-6 } },
    output: { divider: { topOhms: 999e6, footOhms: 1e6, meterOhms: null } },
  });
  const [half, full] = stepsUpOf(divided, [0.5, 1], METER);
  expect(full.refused).toBeNull();
  expect(full.shown!.value / (full.outputVolts! / 1000)).toBeCloseTo(1, 6);
  expect(half.shown!.value / full.shown!.value).toBeCloseTo(0.5, 6);
  expect(stepsUpOf(divided, [1], { ...METER, limitVolts: 2 })[0].refused).toMatch(/longer string/);
});

it('a negative output reads below ground', () =>
  expect(stepsUpOf(demo('flocking-applicator'), [0.5], METER)[0].outputVolts!).toBeLessThan(0));
