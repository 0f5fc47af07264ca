import { demoDesign } from '../../../../tests/reference/demo-designs';
import { meterSchema } from '../../drive/meter-sense';
import { finish } from '../../numeric/finish';
import { lowSourceSchema } from '../low-source';
import { provingOf } from '../proving';
import { placeKey } from './next-reading';
import { Training, type TrainingLadder } from './training';

const METER = meterSchema.parse({});
function ladderOf(name: 'teaching-tripler' | 'photomultiplier-bias'): TrainingLadder {
  const design = demoDesign(name);
  const source = lowSourceSchema.parse({ kind: 'winding', rmsVolts: 12, hertz: 50, ohms: 1 });
  return { design, source, meter: METER, test: finish(provingOf(design, source, METER)) };
}
const SEEDS = Array.from({ length: 8 }, (_, at) => 101 + at);

describe.each(['teaching-tripler', 'photomultiplier-bias'] as const)('a fault hidden in %s', (name) => {
  const ladder = ladderOf(name);
  const rounds = SEEDS.map((seed) => Training.of(ladder, seed)!);

  it('is the same for the same number, and its readings too, whatever was read before', () => {
    for (const [at, seed] of SEEDS.slice(0, 4).entries()) {
      const again = Training.of(ladder, seed)!;
      const places = again.places();
      const forth = places.map((place) => finish(rounds[at].reading(place)));
      const back = places.toReversed().map((place) => finish(again.reading(place)));
      expect(back.toReversed()).toEqual(forth);
    }
    const hidden = rounds.map((round) => JSON.stringify(finish(round.verdict(null)).hidden));
    expect(new Set(hidden).size).toBeGreaterThan(3);
  });

  it('explains all that can be read of it, and is right where it is named; another is not', () => {
    for (const round of rounds) {
      const all = round.places().map((place) => finish(round.reading(place))!);
      const { hidden } = finish(round.verdict(null));
      const left = finish(round.left(all));
      if (hidden) {
        expect(left.faults).toBeGreaterThan(0);
        expect(finish(round.verdict(hidden))).toMatchObject({ isRight: true, hidden });
        expect(finish(round.verdict(null)).isRight).toBe(false);
        for (const one of finish(round.verdict(hidden)).alike) expect(finish(round.verdict(one)).isRight).toBe(true);
      } else {
        expect(left.isSoundLeft).toBe(true);
        expect(finish(round.verdict(null)).isRight).toBe(true);
        expect(finish(round.verdict({ kind: 'diode-open', place: 'D2' })).isRight).toBe(false);
      }
    }
  });

  it('the best order reads no place twice, each reading leaves fewer, and never more than all places', () => {
    for (const round of rounds) {
      const best = finish(round.best());
      const keys = best.map(({ place }) => placeKey(place));
      expect(new Set(keys).size).toBe(keys.length);
      expect(best.length).toBeGreaterThan(0);
      best.slice(1).forEach(({ left }, at) => {
        if (at < best.length - 2) return;
        const before = best[at].left;
        expect(left.faults < before.faults || (before.isSoundLeft && !left.isSoundLeft)).toBe(true);
      });
      // What is left is what the same readings leave for anybody.
      const readings = best.map(({ place }) => finish(round.reading(place))!);
      expect(finish(round.left(readings))).toEqual(best.at(-1)!.left);
    }
  });
});

it('where nothing rectifies, or the drive cannot be turned down, there is no round', () => {
  const ladder = ladderOf('teaching-tripler');
  const none = { ...ladder.design, ladder: { ...ladder.design.ladder, topology: 'none' as const } };
  expect(Training.of({ ...ladder, design: none }, 1)).toBeNull();
});

it('a place over the meter is no place to read', () => {
  const ladder = ladderOf('photomultiplier-bias');
  const meter = meterSchema.parse({ limitVolts: 40 });
  const test = finish(provingOf(ladder.design, ladder.source, meter));
  const round = Training.of({ ...ladder, meter, test }, 1)!;
  expect(round.places().map(placeKey)).toEqual(['source', 'B1']);
  expect(finish(round.reading({ kind: 'tap', node: 'B3', heldSeconds: null }))).toBeNull();
});
