import { benchDesign } from '../../../../tests/reference/bench-design';
import { meterSchema } from '../../drive/meter-sense';
import { finish } from '../../numeric/finish';
import { lowSourceSchema } from '../low-source';
import { provingOf } from '../proving';
import { withFaults } from './faults';
import { faultsOf, findingOf, NOT_PROVED, type FaultTask } from './find';
import { shownAt, soundBenchOf } from './read-through';
import { searchedBy, type SearchWorker, type SearchProgress } from './shared-search';
import { suspectsOf } from './suspects';

const design = benchDesign({
  driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
  ladder: { topology: 'half-wave', stages: 3, capacitor: { farads: 20e-9 } },
  diode: { forwardVolts: 0.5 },
});
const source = lowSourceSchema.parse({ kind: 'winding', rmsVolts: 12, hertz: 500, ohms: 1 });
const meter = meterSchema.parse({});
const test = finish(provingOf(design, source, meter));
const sound = soundBenchOf(design, source, meter, test)!;

/** What two faults together would show at each tap. */
function taskWith(...faults: { kind: string; place: string; degree: number }[]): FaultTask {
  const bench = withFaults(sound.bench, faults);
  const readings = test.taps.map(({ node }) => {
    const probing = { node, meter, sinceOnSeconds: null, heldSeconds: null };
    return { kind: 'tap' as const, ...probing, volts: shownAt(sound, bench, probing)! };
  });
  return { design, source, meter, test, readings };
}

function workerOf(task: FaultTask): SearchWorker {
  const finding = findingOf(task);
  if ('why' in finding) throw new Error(finding.why);
  const { search, said } = finding;
  return {
    singles: (share) => Promise.resolve(finish(search.singles(share))),
    firsts: (singles, best) => Promise.resolve(search.firsts(singles, best)),
    doubles: (firsts, share) => Promise.resolve(finish(search.doubles(firsts, share))),
    ranked: (found) => Promise.resolve(search.ranked(found)),
    refined: (ranked, share) => Promise.resolve(finish(search.refined(ranked, share))),
    withPairs: (singles, doubles) => Promise.resolve(finish(search.withPairs(singles, doubles))),
    byEngine: (best, share) => Promise.resolve(finish(search.byEngine(best, share))),
    concluded: (best, isLast) => Promise.resolve(said(finish(search.concluded(best, isLast)))),
  };
}

const ONE = taskWith({ kind: 'diode-reversed', place: 'D4', degree: 0 });
const TWO = taskWith({ kind: 'diode-open', place: 'D6', degree: 0 }, { kind: 'drive-weak', place: '', degree: 0.55 });

it.each([
  ['one fault', ONE],
  ['two faults', TWO],
])('many workers find what one finds, of %s', async (_, task) => {
  const alone = finish(faultsOf(task));
  for (const count of [1, 2, 5]) {
    const told: SearchProgress[] = [];
    const found = await searchedBy(
      Array.from({ length: count }, () => workerOf(task)),
      (progress) => told.push(progress),
      () => false,
    );
    expect(found).toEqual(alone);
    // What it has before the engine ran is told on the way.
    expect(told.some(({ soFar }) => soFar !== null)).toBe(true);
  }
});

it('two faults are named where no single one explains the readings, and not where one does', () => {
  const found = finish(faultsOf(TWO));
  if ('why' in found) throw new Error(found.why);
  expect(found.isExplained).toBe(true);
  const firstGroup = found.groups[0].suspects.map((faults) =>
    faults
      .map(({ kind, place }) => `${kind} ${place}`)
      .toSorted()
      .join(', '),
  );
  expect(firstGroup).toContain('diode-open D6, drive-weak ');
  const single = finish(faultsOf(ONE));
  if ('why' in single) throw new Error(single.why);
  expect(single.groups.flatMap(({ suspects }) => suspects).every((faults) => faults.length === 1)).toBe(true);
});

it('a search that was ended gives nothing', async () => {
  let steps = 0;
  expect(
    await searchedBy(
      [workerOf(ONE)],
      () => undefined,
      () => (steps += 1) > 2,
    ),
  ).toBeNull();
});

it('what was kept from before the expected readings were known, and from fewer readings, changes nothing', () => {
  const before = findingOf({ ...ONE, test: NOT_PROVED, readings: ONE.readings.slice(0, -1) });
  if ('why' in before) throw new Error(before.why);
  finish(before.search.singles({ at: 0, of: 1 }));
  const after = findingOf(ONE, before);
  if ('why' in after) throw new Error(after.why);
  expect(after.kept).toBe(before.kept);
  expect(after.said(finish(suspectsOf(after.search)))).toEqual(finish(faultsOf(ONE)));
  // Of another meter nothing is kept.
  const other = findingOf({ ...ONE, meter: { ...meter, inputOhms: 1e6 } }, before);
  expect('kept' in other && other.kept).not.toBe(before.kept);
});
