import { readPartLine } from './part-line';
import type { Part } from '../parts/part-schema';

const ID = '11111111-1111-4111-8111-111111111111';
const read = (line: string): Part => {
  const result = readPartLine(line, ID);
  if (!result.ok) throw new Error(result.reason);
  return result.part;
};

it.each<[string, object]>([
  [
    '100p 15kV cer x30',
    {
      kind: 'capacitor',
      farads: 100e-12,
      ratedVolts: 15e3,
      dielectric: 'class-2-ceramic',
      count: 30,
      name: 'Ceramic, class 2 100 pF 15.0 kV',
    },
  ],
  [
    '1n 10 kV 20% blue disc cap',
    { kind: 'capacitor', farads: 1e-9, ratedVolts: 10e3, tolerance: 0.2, name: 'blue disc', count: 1 },
  ],
  ['680n 250V film pulse', { kind: 'capacitor', dielectric: 'film', name: 'pulse' }],
  ['4n7 500V mica 3x @0,85', { kind: 'capacitor', farads: 4.7e-9, dielectric: 'mica', count: 3, price: 0.85 }],
  [
    'diode 20kV 5mA 100ns 1pF x16 @0.40',
    {
      kind: 'diode',
      peakInverseVolts: 20e3,
      averageAmps: 5e-3,
      recoverySeconds: 100e-9,
      junctionFarads: 1e-12,
      junctionVolts: null,
      forwardVolts: 30,
      forwardAmps: 5e-3,
      count: 16,
      price: 0.4,
    },
  ],
  ['12kV 75ns stick', { kind: 'diode', peakInverseVolts: 12e3, recoverySeconds: 75e-9, name: 'stick' }],
  ['diode 1kV 1A', { kind: 'diode', forwardVolts: 1, forwardAmps: 1, junctionFarads: 15e-12, junctionVolts: 4 }],
  ['1M 2W 3.5kV res x10', { kind: 'resistor', ohms: 1e6, watts: 2, ratedVolts: 3500, count: 10 }],
  ['470 Ω 2W', { kind: 'resistor', ohms: 470, watts: 2 }],
  ['fet 200V 30A 30mΩ', { kind: 'transistor', ratedVolts: 200, averageAmps: 30, onOhms: 0.03 }],
  ['wire 0.1mm 50m', { kind: 'wire', wireMetres: 1e-4, lengthMetres: 50 }],
  ['core 110mm2 ferrite U', { kind: 'core', squareMetres: 110e-6, name: 'ferrite U' }],
  ['transformer 1:60 420Ω', { kind: 'transformer', ratio: 60, secondaryOhms: 420 }],
  ['module 4kV 30kHz 15W', { kind: 'module', openVolts: 4000, frequencyHertz: 30e3, maxWatts: 15 }],
])('reads “%s”', (line, part) => {
  expect(read(line)).toMatchObject({ id: ID, ...part });
});

it.each([
  ['', /Nothing entered/],
  ['blue thing', /What kind of part/],
  ['15kV cer', /capacitor here: its farads is missing; must be a number above zero, in farads/],
  ['100p cer x0.5', /What kind|name|count|whole/],
  ['cap 100p @dear', /price/],
])('“%s” says what would be right', (line, reason) => {
  const result = readPartLine(line, ID);
  if (line.includes('x0.5')) {
    // No count: the word is part of the name.
    expect(result.ok && result.part.name).toBe('x0.5');
    return;
  }
  expect(result).toEqual({ ok: false, reason: expect.stringMatching(reason) });
});
