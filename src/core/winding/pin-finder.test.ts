import { findPins, type LeadTest, type PinReading } from './pin-finder';

/** "1-2 0.5" or "1-2 open". */
const read = (...lines: string[]): PinReading[] =>
  lines.map((line) => {
    const [pins, ohms] = line.trim().split(/\s+/);
    const [from, to] = pins.split('-');
    return { from, to, ohms: ohms === 'open' ? null : Number(ohms) };
  });
const find = (lines: string[], leadTest: LeadTest = 'not-done') => findPins(read(...lines), 'HV', leadTest);
const codes = (lines: string[], leadTest?: LeadTest) => find(lines, leadTest).findings.map(({ code }) => code);

// A flyback of ten pins: a primary of 1 to 3 tapped at 2, a heater winding 5-6, the high-voltage return at 8.
const WITHOUT_DIODE = [
  '1-2 0.4',
  '2-3 0.3',
  '1-3 0.7',
  '5-6 0.05',
  '1-5 open',
  '1-8 open',
  'hv-8 310',
  'hv-1 open',
  'hv-5 open',
];

it('finds primary, return and the windings of an unmarked transformer (common practice, no source)', () => {
  const verdict = find(WITHOUT_DIODE);
  expect(verdict.windings).toEqual([
    ['1', '2', '3'],
    ['5', '6'],
  ]);
  expect(verdict.primary).toEqual({ from: '1', to: '3', ohms: 0.7 });
  expect(verdict.highVoltageReturn).toEqual({ pin: '8', ohms: 310 });
  expect(verdict.rectifier).toBe('none');
  expect(verdict.findings.map(({ code }) => code)).toEqual(['lost-in-leads']);
});

it('a lead open to every pin leaves the meter blind; a test with more voltage decides', () => {
  const blind = ['1-2 0.6', 'HV-1 open', 'HV-8 open'];
  expect(find(blind).rectifier).toBe('likely');
  expect(codes(blind)).toEqual(['meter-blind']);
  expect(find(blind, 'one-way').rectifier).toBe('certain');
  expect(codes(blind, 'one-way')).toEqual(['rectifier-inside']);
  expect(codes(blind, 'neither')).toEqual(['lead-open']);
  expect(find(blind, 'both-ways').rectifier).toBe('none');
});

it('nothing read from the lead says nothing of a rectifier', () => {
  expect(find(['1-2 0.6']).rectifier).toBe('not known');
  expect(codes(['1-2 0.6'])).toEqual(['lead-not-read']);
  expect(find([])).toEqual({
    windings: [],
    primary: null,
    highVoltageReturn: null,
    rectifier: 'not known',
    findings: [],
  });
});

it('pins of one winding lie on a line: three readings that do not are asked for again', () => {
  const verdict = find(['1-2 0.4', '2-3 0.3', '1-3 1.2', 'HV-8 200']);
  expect(verdict.findings.map(({ code }) => code)).toEqual(['readings-do-not-add-up']);
  expect(verdict.findings[0].message).toMatch(/^1 to 3 /);
  expect(codes(['1-2 40', '2-3 60', '1-3 104', 'HV-8 200'])).toEqual(['no-primary-found']);
});

it('two windings that read like primaries are both told of, the likelier is named', () => {
  const verdict = find(['1-2 0.5', '4-5 1.1', 'HV-8 200']);
  expect(verdict.primary).toMatchObject({ from: '1', to: '2' });
  expect(verdict.findings.map(({ code }) => code)).toEqual(['several-primaries']);
});

it('pins are the same however they are written, and a reading of a pin with itself is none', () => {
  expect(find(['a-b 0.5', ' A-B  open', '3-3 9', 'hv-B 90']).windings).toEqual([['A', 'B']]);
});
