import { readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import { planDrawerRows, rowsOfDrawer } from './drawer-rows';
import { readPartLine } from './part-line';
import type { Part } from '../parts/part-schema';

let made = 0;
const newId = () => `22222222-2222-4222-8222-${String((made += 1)).padStart(12, '0')}`;
const part = (line: string): Part => {
  const read = readPartLine(line, newId());
  if (!read.ok) throw new Error(read.reason);
  return read.part;
};
const DRAWER = [part('100p 15kV cer disc x30 @0.5'), part('diode 20kV 5mA 100ns stick x16'), part('1M 2W res long')];
const plan = (text: string, standing: readonly Part[] = DRAWER) =>
  planDrawerRows(
    text.split('\n').map((line) => line.split(',')),
    standing,
    newId,
  );

it('what is handed out comes back as it was, every field', () => {
  const { rows, faults, ignored } = planDrawerRows(rowsOfDrawer(DRAWER), DRAWER, newId);
  expect(faults).toEqual([]);
  expect(ignored).toEqual([]);
  expect(rows.map(({ what }) => what)).toEqual(['same', 'same', 'same']);
  const elsewhere = planDrawerRows(rowsOfDrawer(DRAWER), [], newId);
  expect(elsewhere.rows.map((row) => row.part)).toEqual(DRAWER);
});

it('says line by line what would be new, changed and wrong, and changes nothing', () => {
  const before = structuredClone(DRAWER);
  const found = plan(
    [
      'Kind,Name,Count,Farads,RatedVolts,Colour',
      'capacitor,disc,12,100p,15kV,blue',
      'capacitor,knob,4,500p,20k,brown',
      'capacitor,bad,4,five,20k,',
      'gizmo,what,1,,,',
      'diode,stick,-3,,,',
      'capacitor,Knob,1,1n,1k,',
      '',
    ].join('\n'),
  );
  expect(found.ignored).toEqual(['Colour']);
  expect(found.rows).toEqual([
    {
      line: 2,
      what: 'changed',
      changes: ['count'],
      part: expect.objectContaining({ id: DRAWER[0].id, count: 12, price: 0.5 }),
    },
    { line: 3, what: 'new', changes: [], part: expect.objectContaining({ kind: 'capacitor', farads: 500e-12 }) },
  ]);
  expect(found.faults.map(({ line }) => line)).toEqual([4, 5, 6, 7]);
  expect(found.faults[0].message).toMatch(/farads is “five”/);
  expect(found.faults[1].message).toMatch(/must be one of capacitor/);
  expect(found.faults[2].message).toMatch(/count is -3; must be a whole number/);
  expect(found.faults[3].message).toMatch(/line 3/);
  expect(DRAWER).toEqual(before);
});

it('an id finds a part that was renamed; a table without its kinds is refused', () => {
  const [disc] = DRAWER;
  const renamed = plan(`kind,name,id\ncapacitor,Blue disc,${disc.id}`);
  expect(renamed.rows[0]).toMatchObject({ what: 'changed', changes: ['name'], part: { id: disc.id, farads: 100e-12 } });
  expect(plan(`kind,name,id\ndiode,Blue disc,${disc.id}`).faults[0].message).toMatch(/must be “capacitor”/);
  expect(plan('name,farads\ndisc,1n').faults).toEqual([
    { line: 1, message: expect.stringMatching(/no column “kind”/) },
  ]);
});

it('fractions read as such or in per cent, and a part without a name gets one', () => {
  const { rows } = plan('kind,name,farads,tolerance\ncapacitor,,1n,5 %\ncapacitor,b,2n,0.2', []);
  expect(rows.map((row) => row.part)).toMatchObject([
    { tolerance: 0.05, name: 'Ceramic, class 2 1.00 nF' },
    { tolerance: 0.2, name: 'b' },
  ]);
});

it('a table with the headings of version 1 gives the same parts as one with those of today', () => {
  const planOf = (file: string) => {
    let made = 0;
    const { data } = Papa.parse<string[]>(readFileSync(path.resolve(file), 'utf8'));
    return planDrawerRows(data, [], () => `55555555-5555-4555-8555-${String((made += 1)).padStart(12, '0')}`);
  };
  const [old, now] = [planOf('tests/version-1/drawer.csv'), planOf('demo/drawer.csv')];
  expect([old.faults, now.faults]).toEqual([[], []]);
  expect(old.rows.length).toBeGreaterThan(10);
  expect(old.rows).toEqual(now.rows);
});

it('no text starts a formula in a spreadsheet, and every one comes back as it was', () => {
  const names = ['=1+1', '+x', '-x', '@x', "'=x", "'x", 'x=1', '\u2212x'];
  const parts = names.map((name, at) => ({
    ...DRAWER[0],
    id: `55555555-5555-4555-8555-00000000000${at}`,
    name,
    note: name,
  }));
  const rows = rowsOfDrawer(parts);
  for (const cell of rows.flat()) expect(cell).not.toMatch(/^[=+\-@\t\r]/);
  const plan = planDrawerRows(rows, [], () => 'x');
  expect(plan.rows.map(({ part }) => part)).toEqual(parts);
});

it('a table longer than one change is refused as a whole, with the limit', () => {
  const rows = [['kind', 'name', 'farads'], ...Array.from({ length: 5001 }, (_, at) => ['capacitor', `c${at}`, '1n'])];
  const { rows: taken, faults } = planDrawerRows(rows, [], () => crypto.randomUUID());
  expect([taken.length, faults.length, faults[0].line]).toEqual([0, 1, 5002]);
  expect(faults[0].message).toContain('5000');
});
