import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { writeRecord } from '../../../tests/reference/recorded';
import { readDesignText } from '../design/read-design';
import { predict } from '../predict/predict';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

/**
 * Every figure of every demo design as it was written down by
 * `npm run references`: what changes one of them is meant to, or is a mistake.
 */
const folder = path.resolve('tests/reference/predictions');
const demos = readdirSync(path.resolve('demo')).filter((file) => file.endsWith('.ladder.json'));

/** Closed form and time domain as JSON has them; the words of findings are left out, figures are what must stand. */
function figuresOf(file: string): unknown {
  const reading = readDesignText(readFileSync(path.resolve('demo', file), 'utf8'));
  if (!reading.ok) throw new Error(`${file}: ${reading.faults[0].message}`);
  const { findings, beforePower, ...prediction } = predict(reading.design);
  const { transient } = finish(transientOf(reading.design));
  return JSON.parse(
    JSON.stringify({
      prediction,
      transient,
      findings: findings.map(({ code, severity, where }) => ({ code, severity, where })),
      checks: beforePower.length,
    }),
  );
}

/** Paths at which two values differ, numbers by more than 1e-9 of the greater. */
function differing(one: unknown, other: unknown, at = '$'): string[] {
  if (typeof one === 'number' && typeof other === 'number')
    return Math.abs(one - other) <= 1e-9 * Math.max(Math.abs(one), Math.abs(other)) ? [] : [`${at}: ${one} ${other}`];
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null)
    return one === other ? [] : [`${at}: ${String(one)} ${String(other)}`];
  const fields = new Set([...Object.keys(one), ...Object.keys(other)]);
  const of = (value: object, field: string) => (value as Record<string, unknown>)[field];
  return [...fields].flatMap((field) => differing(of(one, field), of(other, field), `${at}.${field}`));
}

it.each(demos)('%s', (file) => {
  const record = path.join(folder, file.replace('.ladder', ''));
  const now = figuresOf(file);
  writeRecord(record, now);
  expect(differing(JSON.parse(readFileSync(record, 'utf8')), now)).toEqual([]);
});

it('a figure that moves by more than a billionth is found, wherever it stands', () => {
  const one = { a: [1, { b: 2 }], c: null, d: 'x' };
  expect(differing(one, { ...one, a: [1, { b: 2 * (1 + 1e-10) }] })).toEqual([]);
  expect(differing(one, { ...one, a: [1, { b: 2 * (1 + 1e-8) }] })).toHaveLength(1);
  expect(differing(one, { ...one, c: 0 })).toEqual(['$.c: null 0']);
  expect(differing(one, { a: one.a, c: null })).toHaveLength(1);
});
