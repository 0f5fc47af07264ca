import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { readDesignText } from '../design/read-design';
import { DRIVE_FIGURES } from '../drive/figures';
import { driverOfKind, DRIVER_KIND_IDS } from '../drive/driver-kinds';
import { newDesign } from '../design/new-design';
import { driveOf } from '../operating/ladder-of-design';
import { formatQuantity } from '../quantity/format-quantity';
import { UNIT_NAMES } from '../quantity/units';
import { FIGURES, type FigureId } from './figures';
import { predict } from './predict';

const ids = Object.keys(FIGURES) as FigureId[];

it.each(ids)('%s has a name of its own and a unit that is known, and keeps the unit out of the name', (id) => {
  const { label, unit } = FIGURES[id];
  expect(UNIT_NAMES.has(unit)).toBe(true);
  expect(label).toMatch(/^[A-Z]/);
  expect(label).not.toMatch(/, (V|A|W|F|H|s|Hz|mT|T|mm|mm²|cm³|%)$/);
});

it('no figure of a drive is hidden by one of the ladder', () => {
  for (const [id, { label, unit }] of Object.entries(DRIVE_FIGURES))
    expect(FIGURES[id as FigureId]).toMatchObject({ label, unit });
});

it('every demo design reads a finite value or none for every figure, and each can be printed', () => {
  for (const file of readdirSync(path.resolve('demo')).filter((name) => name.endsWith('.ladder.json'))) {
    const reading = readDesignText(readFileSync(path.resolve('demo', file), 'utf8'));
    if (!reading.ok) throw new Error(file);
    const prediction = predict(reading.design);
    for (const id of ids) {
      const value = FIGURES[id].read(prediction);
      if (value === null) continue;
      expect(Number.isFinite(value)).toBe(true);
      expect(formatQuantity(value, FIGURES[id].unit)).toMatch(/\d/);
    }
  }
});

it('a drive’s figures are there for its own kind and absent for others', () => {
  const plain = newDesign('Kinds');
  const known = Object.fromEntries(
    DRIVER_KIND_IDS.map((kind) => {
      const design = { ...plain, ...driverOfKind(kind, plain, driveOf(plain)) };
      const prediction = predict(design);
      return [kind, ids.filter((id) => id in DRIVE_FIGURES && FIGURES[id].read(prediction) !== null)];
    }),
  );
  expect(known['resonant-push-pull']).toEqual(expect.arrayContaining(['tankPeakVolts', 'tankRmsAmps']));
  expect(known.flyback).toEqual(expect.arrayContaining(['switchPeakAmps', 'flybackVolts']));
  expect(known.measured).not.toEqual(expect.arrayContaining(['tankPeakVolts']));
  expect(known.mains).not.toEqual(expect.arrayContaining(['switchPeakAmps']));
});
