import fc from 'fast-check';
import { driverOfKind } from '../drive/driver-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { changeDesign } from './change-design';
import { mergeDesigns } from './merge';
import { newDesign } from './new-design';
import type { Design } from './design-schema';

const base: Design = newDesign('shared');
const changed = (...changes: [string, unknown][]): Design =>
  changes.reduce((design, [path, value]) => changeDesign(design, { path, value }), base);
const merged = (mine: Design, theirs: Design) => {
  const found = mergeDesigns(base, mine, theirs);
  if (found.kind !== 'merged') throw new Error(`overlap: ${found.paths.join(', ')}`);
  return found.design;
};

it('keeps what each changed', () => {
  const mine = changed(['$.ladder.capacitor.farads', 2e-9], ['$.notes', 'mine']);
  const theirs = changed(['$.load', { kind: 'current', amps: 1e-5 }], ['$.name', 'theirs']);
  expect(merged(mine, theirs)).toEqual({ ...theirs, notes: 'mine', ladder: mine.ladder });
});

it('is the same from either side, and what one alone changed where the other changed nothing', () => {
  const fields: [string, unknown][] = [
    ['$.ladder.capacitor.farads', 3e-9],
    ['$.ladder.diode.series', 3],
    ['$.ladder.stages', 4],
    ['$.output.bleederOhms', 1e9],
    ['$.notes', 'words'],
    ['$.driver.seriesOhms', 7],
    ['$.load', { kind: 'meter', ohms: 1e7 }],
    ['$.target', { volts: 5000, amps: 0, ripplePeakToPeakFraction: null, of: 'mean' }],
  ];
  fc.assert(
    fc.property(fc.subarray(fields), (mineFields) => {
      const mine = changed(...mineFields);
      const theirs = changed(...fields.filter((field) => !mineFields.includes(field)));
      expect(merged(mine, theirs)).toEqual(changed(...fields));
      expect(merged(theirs, mine)).toEqual(changed(...fields));
      expect(merged(mine, base)).toEqual(mine);
      expect(merged(base, mine)).toEqual(mine);
    }),
  );
});

it('names the field that both changed, unless to the same', () => {
  const mine = changed(['$.notes', 'mine'], ['$.ladder.capacitor.farads', 2e-9]);
  expect(mergeDesigns(base, mine, changed(['$.notes', 'theirs']))).toEqual({ kind: 'overlap', paths: ['$.notes'] });
  expect(merged(mine, changed(['$.notes', 'mine'])).ladder.capacitor.farads).toBe(2e-9);
  expect(mergeDesigns(base, mine, changed(['$.notes', 'theirs'], ['$.name', 'other']), 'mine')).toEqual({
    kind: 'merged',
    design: { ...mine, name: 'other' },
  });
});

it('takes a link of another kind as a whole: who changed a field of the old kind is asked', () => {
  const flyback = { ...base, ...driverOfKind('flyback', base, driveOf(base)) };
  const other = changed(['$.driver.seriesOhms', 5]);
  expect(mergeDesigns(base, flyback, other)).toEqual({ kind: 'overlap', paths: ['$.driver'] });
  expect(merged(flyback, changed(['$.notes', 'words']))).toEqual({ ...flyback, notes: 'words' });
});

it('takes topology, stages and a list of capacitors together', () => {
  const stages = changed(['$.ladder.stages', 5]);
  const listed = changed(['$.ladder.capacitorFarads', [1e-9, 2e-9, 1e-9, 1e-9]]);
  expect(mergeDesigns(base, stages, listed).kind).toBe('overlap');
  expect(merged(stages, changed(['$.ladder.strayFarads', 2e-12])).ladder.stages).toBe(5);
});
