import { changeDesign } from '../design/change-design';
import { newDesign } from '../design/new-design';
import { partStory } from './part-story';
import { predict } from './predict';
import { unitSlip } from './unit-slip';

const ladder = (stages: number) =>
  predict(changeDesign(newDesign('parts'), { path: '$.ladder.stages', value: stages }));

it('knows the coupling capacitor, which is not C1 when a half stage stands at the foot', () => {
  expect(partStory(ladder(2), 'C1')!.does).toMatch(/^Couples the drive/);
  expect(partStory(ladder(1.5), 'C1')!.does).not.toMatch(/^Couples/);
  expect(partStory(ladder(1.5), 'C2')!.does).toMatch(/^Couples the drive/);
});

it('tells smoothing from oscillating, for capacitors and diodes', () => {
  const prediction = ladder(3);
  expect(partStory(prediction, 'C3')!.does).toMatch(/swing/);
  expect(partStory(prediction, 'C4')!.does).toMatch(/steady/);
  expect(partStory(prediction, 'D3')!.does).toMatch(/^Refills the oscillating/);
  expect(partStory(prediction, 'D4')!.does).toMatch(/^Passes charge into the smoothing/);
});

it('has a story for every part and none for what is not there', () => {
  const prediction = ladder(2.5);
  for (const { id } of [...prediction.capacitors, ...prediction.diodes])
    expect(partStory(prediction, id)!.part.id).toBe(id);
  expect(partStory(prediction, 'C6')).toBeNull();
});

// Common practice, no source: what a hobby ladder's capacitor is never.
it.each([
  [9.9e-12, 3000, 9.9e-9],
  [0.1e-6, 10_000, 0.1e-9],
  [470, 50, 470e-12],
])('%d F at %d V is likely %d F', (farads, volts, likely) =>
  expect(unitSlip(farads, volts)!.likelyFarads / likely).toBeCloseTo(1, 9),
);

it.each([
  [10e-12, 3000],
  [0.099e-6, 40_000],
  [0.1e-6, 9_999],
  [4700e-6, 63],
])('%d F at %d V is let pass', (farads, volts) => expect(unitSlip(farads, volts)).toBeNull());
