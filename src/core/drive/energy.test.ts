import fc from 'fast-check';
import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { DRIVER_KIND_IDS, driverOfKind, type DriverKindId } from './driver-kinds';

const decades = (from: number, to: number) =>
  fc.double({ min: from, max: to, noNaN: true }).map((power) => 10 ** power);

/** Supplies about as people build them: a kind, what it starts from, and that moved by up to a factor of three. */
const anySupply = fc.record({
  kind: fc.constantFrom<DriverKindId>(...DRIVER_KIND_IDS.filter((kind) => kind !== 'measured')),
  peakVolts: decades(2, 4.2),
  volts: decades(0.7, 2),
  seriesOhms: fc.oneof(fc.constant(0), decades(-2, 1)),
  maxAmps: fc.option(decades(-1, 1), { nil: null }),
  stages: fc.integer({ min: 1, max: 6 }),
  farads: decades(-10, -7),
  ohms: decades(6, 9.5),
  efficiency: fc.double({ min: 0.2, max: 0.99, noNaN: true }),
});

const FIELDS = { 'resonant-push-pull': '$.driver.tankFarads', inverter: '$.driver.frequencyHertz' } as const;

it('no driver hands a ladder more power than it takes from its supply', () => {
  let judged = 0;
  fc.assert(
    fc.property(anySupply, decades(-0.5, 0.5), (part, times) => {
      const base = newDesign('any');
      const present: Design = {
        ...base,
        supply: { kind: 'dc', volts: part.volts, seriesOhms: part.seriesOhms, maxAmps: part.maxAmps },
        driver: { ...base.driver, positivePeakVolts: part.peakVolts } as Design['driver'],
        ladder: { ...base.ladder, stages: part.stages, capacitor: { ...base.ladder.capacitor, farads: part.farads } },
        load: { kind: 'resistance', ohms: part.ohms },
      };
      const { drive, source } = predict(present, WITHOUT_OPTIMUM);
      let design: Design = { ...present, ...driverOfKind(part.kind, present, drive, source.ladderFarads) };
      if ('efficiency' in design.driver)
        design = changeDesign(design, { path: '$.driver.efficiency', value: part.efficiency });
      const field = FIELDS[part.kind as keyof typeof FIELDS];
      if (field) {
        const value = (design.driver as unknown as Record<string, number>)[field.slice('$.driver.'.length)];
        design = changeDesign(design, { path: field, value: value * times });
      }
      expect(readDesign(design).ok).toBe(true);
      const { input, source: found } = predict(design, WITHOUT_OPTIMUM);
      const given = found.figures.supplyWatts ?? found.figures.shotWatts;
      if (input.watts === null || given === undefined) return;
      judged += 1;
      expect(input.watts).toBeLessThanOrEqual(given * (1 + 1e-3) + 1e-12);
    }),
    { numRuns: 500 },
  );
  // Mains and modules say nothing of what stands before them; a working point is not always there.
  expect(judged).toBeGreaterThan(150);
});
