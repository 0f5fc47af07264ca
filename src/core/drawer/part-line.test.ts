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
  ['cap 103 1kV x20', { kind: 'capacitor', farads: 10e-9, ratedVolts: 1000, count: 20 }],
  ['10 disc caps 100pF 6kV', { kind: 'capacitor', farads: 100e-12, ratedVolts: 6000, count: 10, name: 'disc' }],
  ['472M 2kV disc cap', { kind: 'capacitor', farads: 4.7e-9, tolerance: 0.2, ratedVolts: 2000 }],
  ['4n7K 1.6kV film', { kind: 'capacitor', farads: 4.7e-9, tolerance: 0.1, dielectric: 'film' }],
  ['1uF 2100 VAC oven cap', { kind: 'capacitor', farads: 1e-6, ratedVolts: null, ratedAcVolts: 2100 }],
  ['cap 1u 2100V AC', { kind: 'capacitor', farads: 1e-6, ratedAcVolts: 2100 }],
  ['film 10n 2kV DC', { kind: 'capacitor', farads: 10e-9, ratedVolts: 2000, ratedAcVolts: null }],
  ['4K7J 2W', { kind: 'resistor', ohms: 4700, tolerance: 0.05, watts: 2 }],
  ['20 resistors 10M 1W', { kind: 'resistor', ohms: 10e6, watts: 1, count: 20 }],
  [
    '1N4007 x50',
    { kind: 'diode', peakInverseVolts: 1000, averageAmps: 1, recoverySeconds: 2e-6, count: 50, name: '1N4007' },
  ],
  ['UF4007', { kind: 'diode', peakInverseVolts: 1000, recoverySeconds: 75e-9 }],
  ['1n5408 x4', { kind: 'diode', peakInverseVolts: 1000, averageAmps: 3, count: 4 }],
  ['30 diodes 1kV 1A', { kind: 'diode', peakInverseVolts: 1000, count: 30 }],
  ['wire AWG 30', { kind: 'wire', wireMetres: 0.255e-3 }],
  ['38AWG 100m', { kind: 'wire', wireMetres: 0.101e-3, lengthMetres: 100 }],
])('reads “%s”', (line, part) => {
  expect(read(line)).toMatchObject({ id: ID, ...part });
});

it.each([
  ['', /Nothing entered/],
  ['blue thing', /What kind of part/],
  ['15kV cer', /capacitor here: its farads is missing; must be a number above zero, in farads/],
  ['100p cer x0.5', /What kind|name|count|whole/],
  ['cap 100p @dear', /price/],
  ['choke 10mH 1A', /does not keep a “choke”/],
  ['zener 12V x5', /does not keep a “zener”/],
  ['zener diode 12V x5', /does not keep a “zener”/],
  ['fuse 2A', /does not keep a “fuse”/],
  ['cap 100 1kV', /10.0.pF.*10p.*100p/],
  ['cap 10 6kV', /“10” is not understood/],
  ['cap 10F 6kV', /A capacitor of 10.0.F/],
  ['diode 20kV 7', /“7” is not understood/],
  ['100p 15kV cer 5mH', /“5mH” is not understood/],
])('“%s” says what would be right', (line, reason) => {
  const result = readPartLine(line, ID);
  if (line.includes('x0.5')) {
    // No count: the word is part of the name.
    expect(result.ok && result.part.name).toBe('x0.5');
    return;
  }
  expect(result).toEqual({ ok: false, reason: expect.stringMatching(reason) });
});
