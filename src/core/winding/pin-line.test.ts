import { readPinLines } from './pin-line';

it.each([
  ['1-2 0.6', { from: '1', to: '2', ohms: 0.6 }],
  ['1 2 0.6', { from: '1', to: '2', ohms: 0.6 }],
  ['HV to 8: 310', { from: 'HV', to: '8', ohms: 310 }],
  ['hv – 8  1.2k', { from: 'hv', to: '8', ohms: 1200 }],
  ['HV-1 OL', { from: 'HV', to: '1', ohms: null }],
  ['a-b 2R2', { from: 'a', to: 'b', ohms: 2.2 }],
  ['1-2 0,6', { from: '1', to: '2', ohms: 0.6 }],
])('reads %s', (line, reading) => {
  expect(readPinLines(line)).toEqual({ ok: true, readings: [reading] });
});

it('reads many at once, by line, semicolon or comma', () => {
  const read = readPinLines('1-2 0.6\n2-3 0.3; 1-3 0.9, hv-8 open\n');
  expect(read.ok && read.readings.map(({ from, to }) => from + to)).toEqual(['12', '23', '13', 'hv8']);
});

it.each([
  ['1-2', /two pins and ohms/],
  ['1-2 much', /In "1-2 much"/],
  ['3-3 1', /twice/],
  ['1-2 -4', /below zero|In "/],
  ['averylongpinname-2 4', /12 characters/],
])('%s says what would be right', (line, reason) => {
  const read = readPinLines(line);
  expect(read).toEqual({ ok: false, reason: expect.stringMatching(reason) });
});
