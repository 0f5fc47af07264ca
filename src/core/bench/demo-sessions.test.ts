import { readFileSync } from 'node:fs';
import { demoDesign } from '../../../tests/reference/demo-designs';
import { finish } from '../numeric/finish';
import { tallyOf } from './agreement';
import { fitOf } from './fit';
import { fitReadingsOf } from './fit-readings';
import { provingOf } from './proving';
import { readingsByPlace, sessionReadingsSchema } from './session';
import { stepsUpOf, USUAL_FRACTIONS } from './steps-up';

const measured: { design: string; sessions: unknown[] }[] = JSON.parse(readFileSync('demo/bench.json', 'utf8'));

function demo(file: string) {
  const design = demoDesign(file);
  const sessions = measured.find((one) => one.design === design.name)!.sessions;
  const { session, readings } = sessionReadingsSchema.parse(sessions[0]);
  const test = finish(provingOf(design, session.source, session.meter));
  const steps = stepsUpOf(design, USUAL_FRACTIONS, session.meter);
  const tally = tallyOf(test, steps, readingsByPlace(readings));
  return { design, session, readings, tally };
}

it('the tripler fits, but for the drop of its diodes, which its readings tell', () => {
  const { design, session, readings, tally } = demo('teaching-tripler');
  expect(tally).toEqual({ agrees: 7, doubtful: 0, off: 0 });
  const taps = fitReadingsOf(design, [{ session, readings }]).filter(({ kind }) => kind === 'tap');
  const fit = finish(fitOf(design, taps, ['forward']));
  if ('why' in fit) throw new Error(fit.why);
  const [{ value, low, high }] = fit.fitted;
  // Made with 0.62 V, said to be 0.5 V.
  expect(low).toBeLessThan(0.62);
  expect(high).toBeGreaterThan(0.62);
  expect(value).toBeGreaterThan(0.5);
});

it('the precipitator was driven weakly: everything is low alike', () =>
  expect(demo('dust-plate-precipitator').tally).toEqual({ agrees: 0, doubtful: 0, off: 3 }));

it('the photomultiplier’s supply has a diode the wrong way round: its source agrees, and no tap does', () =>
  expect(demo('photomultiplier-bias').tally).toEqual({ agrees: 1, doubtful: 0, off: 3 }));
