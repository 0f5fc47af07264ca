import type * as z from '../zod';
import { newDesign } from '../design/new-design';
import type { Design } from '../design/design-schema';
import { readDesign } from '../design/read-design';
import { LOAD_KIND_IDS, LOAD_KINDS, loadAmpsAt, loadOfKind, loadOhms, steadyAmpsOf } from '../load/load-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { readingOf } from '../parts/place';
import { RATINGS } from '../quantity/ratings';
import { amplitudeVolts } from './drive';
import { DRIVER_KIND_IDS, DRIVER_KINDS, driverOfKind, sourceRatings } from './driver-kinds';

// What every kind owes to those who list, show, store and place it, whatever it is: a new kind is checked by being in the registry.
const plain = newDesign('Kinds');
const fieldsOf = (schema: z.ZodType) => Object.keys((schema as unknown as { shape: object }).shape);

/** What a coil gives at no load is set by its strays, far above what it gives a ladder. */
const FREE_WITHOUT_LOAD: readonly string[] = ['blocking-oscillator', 'capacitor-discharge'];

describe.each(DRIVER_KIND_IDS)('driver kind %s', (id) => {
  const kind = DRIVER_KINDS[id];
  const source = driverOfKind(id, plain, driveOf(plain));
  const design: Design = { ...plain, ...source };
  it('starts as a document that can be read, with about the peak there was', () => {
    const reading = readDesign(JSON.parse(JSON.stringify(design)));
    expect(reading.ok ? [] : reading.faults).toEqual([]);
    const ratio = amplitudeVolts(driveOf(design)) / amplitudeVolts(driveOf(plain));
    // Turns are whole and tanks of standard values: a starting point, not a design.
    expect(ratio).toBeGreaterThan(0.3);
    if (!FREE_WITHOUT_LOAD.includes(id)) expect(ratio).toBeLessThan(3);
  });
  it('has a name, and on screen only fields that it stores', () => {
    expect(kind.name).toMatch(/^[A-Z]/);
    const stored = fieldsOf(kind.schema);
    for (const { name } of kind.fields) expect(stored).toContain(name);
    expect(new Set(kind.fields.map(({ name }) => name)).size).toBe(kind.fields.length);
  });
  it('takes parts only into fields that it stores, and counts them in whole numbers', () => {
    const stored = fieldsOf(kind.schema).map((field) => `driver.${field}`);
    for (const place of kind.places) {
      expect(stored).toContain(place.partId);
      // A place that several kinds share names what any of them stores.
      expect(place.fields.some((field) => stored.includes(field) || !field.startsWith('driver.'))).toBe(true);
      expect(Number.isInteger(place.count(readingOf(design)))).toBe(true);
    }
  });
  it('is rated by ratings of the catalogue', () => {
    for (const { id: rating } of sourceRatings(source)) expect(RATINGS).toHaveProperty(rating);
  });
  it('names each check before power once, in a sentence', () => {
    const checks = kind.beforePower(source.driver as never, {});
    expect(new Set(checks.map(({ code }) => code)).size).toBe(checks.length);
    for (const { text } of checks) expect(text).toMatch(/^[A-Z].*\.$/);
  });
  it('has the supply and the transformer that it says it needs', () => {
    expect(source.supply !== null).toBe(kind.needs.supply.length > 0);
    if (source.supply) expect(kind.needs.supply).toContain(source.supply.kind);
    expect(source.transformer !== null).toBe(kind.needs.transformer);
    if (kind.needs.inductance) expect(source.transformer!.primaryHenries).not.toBeNull();
  });
});

describe.each(LOAD_KIND_IDS)('load kind %s', (id) => {
  const kind = LOAD_KINDS[id];
  const load = loadOfKind(id, { amps: 1e-4, volts: 10e3 });
  it('stores what it shows', () => {
    const stored = fieldsOf(kind.schema);
    for (const { name } of kind.fields) expect(stored).toContain(name);
  });
  it('draws nothing at nothing, and never less at more', () => {
    let before = 0;
    for (const volts of [0, 1e3, 5e3, 10e3, 20e3, 50e3]) {
      const amps = loadAmpsAt(load, volts, 1e5);
      expect(amps).toBeGreaterThanOrEqual(steadyAmpsOf(load) === null ? before : 0);
      before = amps;
    }
    if (steadyAmpsOf(load) === null) expect(loadAmpsAt(load, 0, 1e5)).toBe(0);
  });
  it('draws less behind a greater resistance, where it is none that sets its own current', () => {
    if (steadyAmpsOf(load) !== null) return;
    expect(loadAmpsAt(load, 12e3, 1e8)).toBeLessThanOrEqual(loadAmpsAt(load, 12e3, 1e5));
  });
  it('is in the time domain what it is in the closed form', () => {
    const branch = kind.branch(load as never, 1e3);
    const ohms = loadOhms(load);
    if (branch === null) {
      // A resistance or open.
      expect(loadAmpsAt(load, 8e3, 0)).toBeCloseTo(ohms === null ? 0 : 8e3 / ohms, 12);
      return;
    }
    for (const volts of [2e3, 8e3, 12e3]) expect(branch.amps(volts, false)).toBeCloseTo(loadAmpsAt(load, volts, 0), 12);
    // Its slope is that of its current.
    for (const volts of [2e3, 12e3]) {
      const slope = (branch.amps(volts + 0.5, false) - branch.amps(volts - 0.5, false)) / 1;
      expect(branch.slope(volts, false)).toBeCloseTo(slope, 9);
    }
  });
});
