import { changeDesign } from './change-design';
import { newDesign } from './new-design';
import { readDesign, readDesignText, writeDesignText } from './read-design';

const least = {
  format: 'eager-ladder/design',
  version: 1,
  name: 'Least',
  driver: { kind: 'measured', positivePeakVolts: 5000, frequencyHertz: 30e3 },
  ladder: { stages: 3, capacitor: { farads: 1e-9 } },
};

const faults = (change: { path: string; value: unknown }) => {
  const reading = readDesign(changeDesign(least as never, change));
  return reading.ok ? [] : reading.faults;
};

describe('reading a design', () => {
  it('fills in what a practitioner would expect', () => {
    const reading = readDesign(least);
    expect(reading).toMatchObject({
      ok: true,
      design: {
        notes: '',
        target: null,
        driver: { waveform: 'sine', seriesOhms: 0, maxWatts: null },
        ladder: { topology: 'half-wave', grading: 'equal', strayFarads: 0, diode: { forwardVolts: 1 } },
        output: { seriesOhms: 0, bleederOhms: null },
        load: { kind: 'open' },
      },
    });
  });
  it('writes what it reads', () => {
    const design = newDesign('Round trip');
    expect(readDesignText(writeDesignText(design))).toEqual({ ok: true, design });
  });
  it.each<[string, unknown, RegExp]>([
    ['$.ladder.stages', 2.3, /whole or half number/],
    ['$.ladder.stages', 0, /whole or half number/],
    ['$.ladder.stages', 51, /from 0.5 to 50/],
    ['$.ladder.capacitor.farads', '4n7', /the text "4n7"; must be a number above zero, in farads/],
    ['$.ladder.capacitor.farads', -1e-9, /above zero/],
    ['$.ladder.topology', 'spiral', /"half-wave"/],
    ['$.driver.positivePeakVolts', 0, /above zero, in volts/],
    ['$.driver.kind', 'steam', /"measured"/],
    ['$.driver.enteredAs', 'mean', /"rms", "peak", "peak-to-peak"/],
    ['$.load', { kind: 'lamp' }, /"open", "current", "resistance"/],
    ['$.load', { kind: 'current' }, /is missing/],
    ['$.ladder.capacitorFarads', [1e-9, 2e-9], /has 2 values; must have 6/],
    ['$.ladder.capacitorFarads', [1e-9, 0, 1e-9, 1e-9, 1e-9, 1e-9], /above zero/],
    ['$.ladder', { ...least.ladder, topology: 'full-wave', stages: 1.5 }, /whole number for a full-wave/],
    ['$.driver.duty', 1, /between 0 and 1/],
    ['$.name', '  ', /1 to 120 characters/],
    ['$.version', 5, /later/],
    ['$.format', 'other', /eager-ladder\/design/],
    ['$.ladder', 7, /object in braces/],
  ])('faults %s = %j once, saying what would be right', (path, value, message) => {
    const found = faults({ path, value });
    expect(found).toHaveLength(1);
    expect(found[0].path.startsWith(path)).toBe(true);
    expect(found[0].message).toMatch(message);
  });
  it('names a misspelt field instead of taking the default', () => {
    expect(faults({ path: '$.ladder.strayFarad', value: 1e-12 })).toEqual([
      { path: '$.ladder.strayFarad', message: expect.stringContaining('not a field') },
    ]);
  });
  it('finds every fault at once', () => {
    const reading = readDesign({ ...least, version: 9, name: 5 });
    expect(reading.ok ? [] : reading.faults.map((fault) => fault.path)).toEqual(['$.version', '$.name']);
  });
  it.each(['', '{', '[1', 'null', '3', '"text"'])('refuses the text %j at the root', (text) => {
    const reading = readDesignText(text);
    expect(reading.ok).toBe(false);
    if (!reading.ok) expect(reading.faults[0].path).toBe('$');
  });
});

describe('changing one field', () => {
  it('leaves the original as it was and shares the rest', () => {
    const design = newDesign('Before');
    const changed = changeDesign(design, { path: '$.ladder.capacitor.farads', value: 2e-9 });
    expect(changed.ladder.capacitor.farads).toBe(2e-9);
    expect(design.ladder.capacitor.farads).toBe(1e-9);
    expect(changed.driver).toBe(design.driver);
  });
  it('a list of capacitances keeps each part’s value by its place when the ladder grows or changes its topology', () => {
    const listed = changeDesign(newDesign('Listed'), {
      path: '$.ladder.capacitorFarads',
      value: [1e-9, 2e-9, 3e-9, 4e-9],
    });
    const taller = changeDesign(listed, { path: '$.ladder.stages', value: 3 });
    expect(taller.ladder.capacitorFarads).toEqual([1e-9, 2e-9, 3e-9, 4e-9, 1e-9, 1e-9]);
    const twoSided = changeDesign(listed, { path: '$.ladder.topology', value: 'bipolar' });
    expect(twoSided.ladder.capacitorFarads).toEqual([1e-9, 2e-9, 3e-9, 4e-9, 1e-9, 1e-9, 1e-9, 1e-9]);
    expect(readDesign(twoSided).ok).toBe(true);
  });
  it('half a stage is rounded up where the new topology takes none', () => {
    const half = changeDesign(newDesign('Half'), { path: '$.ladder.stages', value: 1.5 });
    expect(changeDesign(half, { path: '$.ladder.topology', value: 'full-wave' }).ladder.stages).toBe(2);
  });
  it('refuses a path through nothing', () =>
    expect(() => changeDesign(newDesign('x'), { path: '$.target.volts', value: 1 })).toThrow(RangeError));
});
