import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { driverOfKind } from '../drive/driver-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { predict } from './predict';

const sound: Design = {
  ...newDesign('sound'),
  output: { seriesOhms: 0, bleederOhms: 5e8, divider: null, smoothing: [], electrodeFarads: 0 },
  load: { kind: 'current', amps: 20e-6 },
};
const FLYBACK = driverOfKind('flyback', sound, driveOf(sound));
const codes = (...changes: [string, unknown][]) =>
  predict(changes.reduce((design, [path, value]) => changeDesign(design, { path, value }), sound)).findings.map(
    (finding) => `${finding.severity} ${finding.code}`,
  );

it('has nothing to say of a sound design', () => expect(codes()).toEqual([]));

it.each<[string, [string, unknown][], string]>([
  ['diode under its stress', [['$.ladder.diode.peakInverseVolts', 1500]], 'stop diode-over-peak-inverse'],
  ['capacitor under its stress', [['$.ladder.capacitor.ratedVolts', 1500]], 'stop capacitor-over-rating'],
  ['diode margin under 25 %', [['$.ladder.diode.peakInverseVolts', 2300]], 'warn diode-margin-thin'],
  ['capacitor margin under 25 %', [['$.ladder.capacitor.ratedVolts', 2300]], 'warn capacitor-margin-thin'],
  ['unknown rating', [['$.ladder.diode.peakInverseVolts', null]], 'note rating-unknown'],
  [
    'stages past the optimum',
    [
      ['$.ladder.stages', 12],
      ['$.load.amps', 3e-4],
    ],
    'warn stages-past-optimum',
  ],
  ['large droop', [['$.load.amps', 5e-3]], 'warn droop-large'],
  ['current it can never give', [['$.load.amps', 0.05]], 'stop current-out-of-reach'],
  ['closed form fails', [['$.load.amps', 0.012]], 'stop closed-form-fails'],
  ['slow diode', [['$.ladder.diode.recoverySeconds', 2e-6]], 'warn slow-diode'],
  ['diode current', [['$.ladder.diode.averageAmps', 1e-6]], 'stop diode-over-current'],
  ['drive power', [['$.driver.maxWatts', 1e-3]], 'warn drive-over-power'],
  ['drive current', [['$.driver.maxAmps', 5e-4]], 'warn drive-over-current'],
  ['a current that a load cannot live on', [['$.driver.maxAmps', 1e-6]], 'stop drive-cannot-carry'],
  ['diodes drop it all', [['$.ladder.diode.forwardVolts', 2000]], 'stop no-output'],
  ['no bleeder', [['$.output.bleederOhms', null]], 'note no-bleeder'],
  [
    'a gap that strikes',
    [['$.load', { kind: 'gap', strikeVolts: 2000, arcOhms: 1000, quenchAmps: 1e-3 }]],
    'warn gap-strikes',
  ],
  ['strays beside small capacitors', [['$.ladder.strayFarads', 60e-12]], 'warn strays-large'],
  [
    'a driver that rings between its pulses',
    [
      ['$.driver', FLYBACK.driver],
      ['$.supply', FLYBACK.supply],
      ['$.transformer', FLYBACK.transformer],
    ],
    'note drive-rough',
  ],
  [
    'leakage inductance behind a square',
    [
      ['$.driver.seriesHenries', 1e-3],
      ['$.driver.waveform', 'square'],
    ],
    'warn leakage-inductance-left-out',
  ],
  [
    'reactance that the closed form cannot follow',
    [
      ['$.driver.seriesHenries', 1],
      ['$.load.amps', 2e-3],
    ],
    'warn reactance-rules',
  ],
  [
    'strays many times the capacitors',
    [
      ['$.ladder.stages', 15],
      ['$.ladder.strayFarads', 150e-12],
      ['$.ladder.capacitor.farads', 10e-12],
    ],
    'warn capacitors-too-unlike',
  ],
  [
    'target not tried',
    [['$.target', { volts: 1000, amps: 1e-3, ripplePeakToPeakFraction: null, of: 'mean' }]],
    'note load-under-target',
  ],
  [
    'smoothing that resonates with the ripple',
    [['$.output.smoothing', [{ ohms: 10, henries: 1, farads: 2.5e-11, ratedVolts: null }]]],
    'warn smoothing-resonates',
  ],
  [
    'a choke that may overshoot',
    [['$.output.smoothing', [{ ohms: 10, henries: 10, farads: 1e-8, ratedVolts: null }]]],
    'note choke-overshoots',
  ],
  [
    'smoothing of a winding that nothing rectifies',
    [
      ['$.ladder.topology', 'none'],
      ['$.output.smoothing', [{ ohms: 1e5, henries: 0, farads: 1e-8, ratedVolts: null }]],
    ],
    'warn smoothing-alternating',
  ],
  [
    'smoothing that takes the swing of a clamp',
    [
      ['$.ladder.topology', 'clamp'],
      ['$.output.smoothing', [{ ohms: 100, henries: 0, farads: 1e-8, ratedVolts: null }]],
    ],
    'warn smoothing-takes-swing',
  ],
  [
    'a smoothing capacitor under its voltage',
    [['$.output.smoothing', [{ ohms: 1e6, henries: 0, farads: 1e-9, ratedVolts: 1000 }]]],
    'stop smoothing-over-rating',
  ],
  [
    'a last smoothing capacitor in front',
    [['$.output.smoothing', [{ ohms: 1e6, henries: 0, farads: 1e-6, ratedVolts: null }]]],
    'warn electrode-hazardous',
  ],
  ['much that hangs on the output', [['$.output.electrodeFarads', 1e-6]], 'warn electrode-hazardous'],
])('%s', (_case, changes, expected) => expect(codes(...changes)).toContain(expected));

it('puts what stops before what warns before what notes', () => {
  const order = codes(
    ['$.ladder.diode.peakInverseVolts', 1500],
    ['$.output.bleederOhms', null],
    ['$.ladder.diode.recoverySeconds', 2e-6],
  );
  expect(order.map((line) => line.split(' ')[0])).toEqual(['stop', 'warn', 'note']);
});

describe('a rectifier inside the transformer', () => {
  const withRectifier = (topology: string, stages: number) =>
    [
      ['$.ladder.topology', topology],
      ['$.ladder.stages', stages],
      ['$.transformer.rectifierInside', true],
    ].reduce<Design>((design, [path, value]) => changeDesign(design, { path: path as string, value }), {
      ...sound,
      ...FLYBACK,
      load: { kind: 'open' },
      output: { ...sound.output, bleederOhms: null },
    });
  it.each<[string, number]>([
    ['half-wave', 3],
    ['full-wave', 2],
    ['bipolar', 2],
    ['clamp', 1],
  ])('starves a %s of %d: nothing climbs, and it is not laid to the diodes', (topology, stages) => {
    const { output, findings } = predict(withRectifier(topology, stages));
    expect(output.idealNoLoadVolts).toBeLessThan(1e-3);
    expect(findings.filter(({ severity }) => severity === 'stop').map(({ code }) => code)).toEqual([
      'rectifier-inside',
    ]);
  });
  it('leaves a ladder that starts with a rectifier its one peak, and no figure under load', () => {
    const design = withRectifier('half-wave', 1.5);
    const { output, drive } = predict(design);
    expect(output.idealNoLoadVolts / drive.positivePeakVolts).toBeCloseTo(1, 6);
    expect(predict({ ...design, load: { kind: 'current', amps: 1e-5 } }).output.meanVolts).toBeNull();
  });
  it('is the rectifier of a design that has no ladder, and the finding leads there', () => {
    const starved = withRectifier('half-wave', 3);
    const { change } = predict(starved).findings.find(({ code }) => code === 'rectifier-inside')!;
    const { output, drive, findings } = predict(changeDesign(starved, change!));
    expect(findings.map(({ code }) => code)).not.toContain('rectifier-inside');
    expect(output.idealNoLoadVolts).toBeCloseTo(drive.positivePeakVolts, 9);
  });
});

it('margins turn exactly at the rating and at a quarter in hand', () => {
  const stress = predict(sound).diodes[0].reverseVolts;
  const at = (factor: number) => codes(['$.ladder.diode.peakInverseVolts', stress * factor]).join();
  expect(at(0.999)).toContain('diode-over-peak-inverse');
  expect(at(1.001)).toContain('diode-margin-thin');
  expect(at(1.249)).toContain('diode-margin-thin');
  expect(at(1.251)).not.toContain('diode');
});

it.each([
  [4.7e-12, 4.7e-9, 3000],
  [470, 470e-12, 3000],
  [4.7e-6, 4.7e-9, 20_000],
])('a slip of units: %d F is likely %d F, and the offered change puts it right', (farads, likely, ratedVolts) => {
  const design = changeDesign(changeDesign(sound, { path: '$.ladder.capacitor.farads', value: farads }), {
    path: '$.ladder.capacitor.ratedVolts',
    value: ratedVolts,
  });
  const finding = predict(design).findings.find((candidate) => candidate.code === 'unit-slip')!;
  expect((finding.change!.value as number) / likely).toBeCloseTo(1, 9);
  expect(predict(changeDesign(design, finding.change!)).findings.map((f) => f.code)).not.toContain('unit-slip');
});

it('a big capacitor at low voltage is no slip', () =>
  expect(codes(['$.ladder.capacitor.farads', 100e-6], ['$.driver.positivePeakVolts', 17]).join()).not.toContain(
    'unit-slip',
  ));
