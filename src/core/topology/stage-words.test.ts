import { addedStages, countOf, COUNTINGS, stagesOf } from '../quantity/counting';
import { countFault, stageHint, stagesInWords } from './stage-words';
import { inParts, partsOf, TOPOLOGY_KINDS } from './topologies';
import { TOPOLOGIES } from './network';

it('one of each counts the diodes of a half-wave ladder, two of each half of them', () => {
  for (const stages of [0.5, 1, 1.5, 2, 10]) {
    const { capacitors, diodes } = partsOf('half-wave', stages);
    expect(countOf(stages, 'one-of-each')).toBe(diodes);
    expect(countOf(stages, 'two-of-each')).toBe(diodes / 2);
    expect(capacitors).toBe(diodes);
  }
});

it.each(COUNTINGS)('%s: there and back is the same', (counting) => {
  for (const stages of [0.5, 3, 50]) expect(stagesOf(countOf(stages, counting), counting)).toBe(stages);
});

it('is said with a side where there are two', () => {
  expect(stagesInWords('half-wave', 0.5, 'one-of-each')).toBe('1 stage');
  expect(stagesInWords('half-wave', 0.5, 'two-of-each')).toBe('0.5 stages');
  expect(stagesInWords('bipolar', 4, 'one-of-each')).toBe('8 stages a side');
  expect([addedStages(1, 'one-of-each'), addedStages(0.5, 'one-of-each'), addedStages(0.5, 'two-of-each')]).toEqual([
    'Two stages',
    'One stage',
    'Half a stage',
  ]);
});

it('a count that no ladder has is refused in its own terms, and only where the design’s rules do not say it', () => {
  for (const wrong of [0, -2, 2.5, 101, NaN])
    expect(countFault(wrong, 'half-wave', 'one-of-each', 50)).toContain('1 to 100');
  expect(countFault(3, 'full-wave', 'one-of-each', 50)).toContain('even');
  expect(countFault(4, 'full-wave', 'one-of-each', 50)).toBeNull();
  expect(countFault(3, 'half-wave', 'one-of-each', 50)).toBeNull();
  expect(countFault(2.3, 'half-wave', 'two-of-each', 50)).toBeNull();
});

it('every ladder with stages says what one is of, and what it is made of adds up', () => {
  for (const topology of TOPOLOGIES) {
    if (TOPOLOGY_KINDS[topology].stages === 'fixed') continue;
    for (const counting of COUNTINGS) expect(stageHint(topology, counting)).toMatch(/capacitor.*diode/);
  }
  expect(inParts(partsOf('full-wave', 3))).toBe('9 capacitors and 12 diodes');
  // Strings and banks are counted body by body.
  expect(inParts(partsOf('half-wave', 2, { capacitors: 6, diodes: 3 }))).toBe('24 capacitors and 12 diodes');
  // A coupling capacitor stands at each end of its winding.
  expect(inParts(partsOf('two-ended', 2))).toBe('9 capacitors and 8 diodes');
});
