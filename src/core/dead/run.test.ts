import { benchDesign } from '../../../tests/reference/bench-design';
import { finish } from '../numeric/finish';
import { deadPlanOf, USUAL_PLAN } from './plan';
import {
  beginRun,
  doneSteps,
  faultOfReading,
  highestRead,
  nextStep,
  runSchema,
  secondsLeft,
  withBegun,
  withDone,
  withoutLast,
  type DeadRun,
} from './run';

const BEGAN = '2026-03-01T10:00:00.000Z';
const at = (seconds: number) => new Date(Date.parse(BEGAN) + 1000 * seconds).toISOString();

const plan = finish(
  deadPlanOf(
    benchDesign({
      driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
      ladder: { topology: 'half-wave', stages: 1, capacitor: { farads: 1e-9, ratedVolts: 15e3 } },
      output: { bleederOhms: 100e6 },
    }),
    USUAL_PLAN,
  ),
);
const begun = beginRun(plan, '11111111-1111-4111-8111-111111111111', 3, BEGAN);
const stepOf = (id: string) => begun.steps.findIndex((step) => step.id === id);
/** Every step done as it should be, to one of them. */
const upTo = (id: string): DeadRun =>
  begun.steps
    .slice(0, stepOf(id))
    .reduce((run, step, index) => withDone(run, index, at(index), step.reading && 5), begun);

it('begins with the steps of the plan, nothing done, and is what the server takes', () => {
  expect(begun.steps.map(({ id }) => id)).toEqual(plan.steps.map(({ id }) => id));
  expect([nextStep(begun), doneSteps(begun), highestRead(begun), begun.revision]).toEqual([0, 0, null, 3]);
  expect(runSchema.parse(JSON.parse(JSON.stringify(begun)))).toEqual(begun);
  expect(runSchema.safeParse({ ...begun, steps: [] }).success).toBe(false);
  expect(runSchema.safeParse({ ...begun, startedAt: 'yesterday' }).success).toBe(false);
});

it('a step’s time runs by the clock', () => {
  const bleeder = stepOf('bleeder');
  const { seconds } = begun.steps[bleeder];
  expect(secondsLeft(begun.steps[bleeder], Date.parse(at(900)))).toBe(seconds);
  const running = withBegun(begun, bleeder, at(0)).steps[bleeder];
  expect(secondsLeft(running, Date.parse(at(1)))).toBeCloseTo(seconds! - 1, 9);
  expect(secondsLeft(running, Date.parse(at(seconds! + 5)))).toBe(0);
  expect(secondsLeft(begun.steps[stepOf('off')], 0)).toBe(0);
});

it('goes on with nothing that is not under the limit, whichever way it reads', () => {
  const run = upTo('node B1');
  const terminal = stepOf('node B1');
  for (const volts of [null, 60, 61, -60, 8000]) {
    expect(faultOfReading(run.steps[terminal], volts)).not.toBeNull();
    expect(() => withDone(run, terminal, at(9), volts)).toThrow(RangeError);
  }
  const done = withDone(run, terminal, at(9), -59.9);
  expect(done.steps[terminal]).toMatchObject({ readVolts: 59.9, doneAt: at(9) });
  expect(nextStep(done)).toBe(terminal + 1);
});

it('is finished with its last step, and open again a step back', () => {
  const last = begun.steps.length - 1;
  const all = withDone(upTo('again'), last, at(400), 12);
  expect(all).toMatchObject({ finishedAt: at(400) });
  expect([doneSteps(all), highestRead(all)]).toEqual([begun.steps.length, 12]);
  const back = withoutLast(all);
  expect(back.finishedAt).toBeNull();
  expect([nextStep(back), highestRead(back)]).toEqual([last, 5]);
  expect(withoutLast(begun)).toEqual(begun);
});

it('the bleeder alone need not be waited for', () => {
  expect(begun.steps.filter(({ maySkip }) => maySkip).map(({ id }) => id)).toEqual(['bleeder']);
  const skipped = withDone(begun, stepOf('bleeder'), at(1), null, true);
  expect(skipped.steps[stepOf('bleeder')]).toMatchObject({ skipped: true, doneAt: at(1) });
});
