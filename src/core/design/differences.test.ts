import { changeDesign } from './change-design';
import { differences } from './differences';
import { newDesign } from './new-design';

const design = newDesign('one');

it('finds none between a design and its copy', () => expect(differences(design, structuredClone(design))).toEqual([]));

it('names each field that differs, and a part that one side lacks once', () => {
  const other = changeDesign(changeDesign(design, { path: '$.ladder.capacitor.farads', value: 2e-9 }), {
    path: '$.target',
    value: { volts: 5, amps: 0, ripplePeakToPeakFraction: null, of: 'mean' },
  });
  expect(differences(design, other).map(({ path, one }) => [path, one])).toEqual([
    ['$.target', null],
    ['$.ladder.capacitor.farads', 1e-9],
  ]);
});

it('sees a load of another kind field by field', () =>
  expect(differences(design, { ...design, load: { kind: 'current', amps: 1 } }).map(({ path }) => path)).toEqual([
    '$.load.kind',
    '$.load.amps',
  ]));

it('takes a recorded waveform for one thing, and one that is alike for none', () => {
  const recorded = (height: number) => ({
    ...design,
    driver: { ...design.driver, waveform: 'sampled' as const, samples: [0, height, 0, -1] },
  });
  expect(differences(recorded(1), recorded(2)).map(({ path }) => path)).toEqual(['$.driver.samples']);
  expect(differences(recorded(1), recorded(1))).toEqual([]);
});
