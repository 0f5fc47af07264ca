import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { newDesign } from './new-design';
import { readDesign, readDesignText } from './read-design';
import { DESIGN_VERSION, upgradeDesign } from './upgrade';

// Files as earlier versions wrote them; they are never changed, and must open as long as there is a program to open them.
const files = ['tests/version-1', 'tests/version-2', 'tests/version-3'].flatMap((folder) =>
  readdirSync(path.resolve(folder)).flatMap((file) => (file.endsWith('.ladder.json') ? [`${folder}/${file}`] : [])),
);
const textOf = (file: string) => readFileSync(path.resolve(file), 'utf8');

const without = (section: object, name: string) =>
  Object.fromEntries(Object.entries(section).filter(([key]) => key !== name));

describe('files of earlier versions', () => {
  it('are kept', () => expect(files).toHaveLength(9));
  it.each(files)('%s opens, is of the present version, and writes itself so', (file) => {
    const reading = readDesignText(textOf(file));
    if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
    expect(reading.design.version).toBe(DESIGN_VERSION);
    expect(readDesign(JSON.parse(JSON.stringify(reading.design)))).toEqual(reading);
  });
  it.each(files)('%s keeps every value it had, under whatever name', (file) => {
    const values = (value: unknown): string[] =>
      typeof value === 'object' && value !== null ? Object.values(value).flatMap(values) : [JSON.stringify(value)];
    const before = JSON.parse(textOf(file));
    const after = upgradeDesign(before) as Record<string, unknown>;
    // The style of a line without transformer is the kind of its driver now, and says nothing of one any more.
    const gone = ['"mains"', '"direct"', '2500', '0.4'];
    const kept = values(without(before, 'version')).filter(
      (value) => !file.includes('line-doubler') || !gone.includes(value),
    );
    for (const value of kept) expect(values(after)).toContain(value);
  });
});

describe('version 1 to 2', () => {
  const old = { ...JSON.parse(JSON.stringify(newDesign('Old'))), version: 1 };
  const read = (document: unknown) => {
    const reading = readDesign(document);
    if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
    return reading.design;
  };
  it('the capacitance left at rated voltage is DC-bias derating', () => {
    const capacitor = without(old.ladder.capacitor, 'dcBiasDerating');
    const document = { ...old, ladder: { ...old.ladder, capacitor: { ...capacitor, keptAtRating: 0.4 } } };
    expect(read(document).ladder.capacitor.dcBiasDerating).toBe(0.4);
  });
  it('a resistor keeps its voltage rating under the name of today', () => {
    const rest = without(old.resistors.series, 'ratedVolts');
    const document = { ...old, resistors: { ...old.resistors, series: { ...rest, bodyVolts: 3500 } } };
    expect(read(document).resistors.series.ratedVolts).toBe(3500);
  });
  it('a store is a storage capacitor', () => {
    const driver = { kind: 'capacitor-discharge', storeFarads: 1e-6, storeVolts: 320, frequencyHertz: 100 };
    const upgraded = upgradeDesign({ ...old, driver }) as { driver: unknown };
    expect(upgraded.driver).toMatchObject({ storageFarads: 1e-6, storageVolts: 320 });
    expect(upgraded.driver).not.toHaveProperty('storeFarads');
  });
  it('an old name in a document of the present version is a fault, not a silent guess', () => {
    const capacitor = without(old.ladder.capacitor, 'dcBiasDerating');
    const ladder = { ...old.ladder, capacitor: { ...capacitor, keptAtRating: 0.4 } };
    const reading = readDesign({ ...old, version: DESIGN_VERSION, ladder });
    expect(reading.ok ? [] : reading.faults.map((fault) => fault.path)).toEqual(['$.ladder.capacitor.keptAtRating']);
  });
  it('a document with both names is refused rather than one of them dropped', () => {
    const ladder = { ...old.ladder, capacitor: { ...old.ladder.capacitor, keptAtRating: 0.4 } };
    expect(readDesign({ ...old, ladder }).ok).toBe(false);
  });
});

describe('version 2 to 3', () => {
  const read = (file: string) => {
    const reading = readDesignText(textOf(file));
    if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
    return reading.design;
  };
  it('a line without transformer is a driver of its own, isolated by nothing', () =>
    expect(read('tests/version-2/line-doubler.ladder.json').driver).toEqual({
      kind: 'direct-mains',
      isolation: 'none',
      seriesOhms: 0,
    }));
  it('the path of the flux stands with the area of the core', () => {
    const { transformer, winding } = read('tests/version-2/flocking-applicator.ladder.json');
    expect(transformer).toMatchObject({ coreSquareMetres: 1.1e-4, corePathMetres: 0.11 });
    expect(winding!.core).not.toHaveProperty('pathMetres');
  });
  it('without a transformer there is no core to have a path', () => {
    const old = { ...JSON.parse(JSON.stringify(newDesign('Old'))), version: 2, winding: { core: { pathMetres: 0.1 } } };
    expect(readDesign(old).ok).toBe(true);
  });
});

describe('version 3 to 4', () => {
  const upgraded = (target: unknown) => {
    const ladder = without(newDesign('Old').ladder, 'polarity');
    const reading = readDesign({ ...JSON.parse(JSON.stringify(newDesign('Old'))), version: 3, ladder, target });
    if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
    return reading.design;
  };
  it('polarity is the ladder’s, and the target is of the mean as it was', () => {
    const { ladder, target } = upgraded({ volts: 38e3, polarity: 'negative' });
    expect(ladder.polarity).toBe('negative');
    expect(target).toEqual({ volts: 38e3, amps: 0, ripplePeakToPeakFraction: null, of: 'mean' });
  });
  it('without a target, or one that says none, it is positive', () => {
    expect(upgraded(null).ladder.polarity).toBe('positive');
    expect(upgraded({ volts: 10 }).ladder.polarity).toBe('positive');
  });
});

it.each([null, 7, 'text', [], {}, { version: '1' }, { version: -1 }, { version: 1, ladder: 7, resistors: null }])(
  'leaves %j for the schema to refuse',
  (document) => {
    expect(() => upgradeDesign(document)).not.toThrow();
    expect(readDesign(document).ok).toBe(false);
  },
);

it('touches neither the document given nor one of the present version', () => {
  const design = newDesign('Present');
  expect(upgradeDesign(design)).toBe(design);
  const old = Object.freeze({ ...design, version: 1 });
  expect(upgradeDesign(old)).not.toBe(old);
  expect(old.version).toBe(1);
});
