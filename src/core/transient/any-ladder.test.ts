import fc from 'fast-check';
import { hobbyDesign } from '../../../tests/reference/hobby-design';
import { predict } from '../predict/predict';
import { compareWithTimeDomain } from './comparison';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

it('power adds up within 0.1 % for loaded hobby ladders of every kind, recovery and ringing inductance and all', () => {
  const designs = fc
    .sample(hobbyDesign, { numRuns: 120, seed: 3 })
    .filter(({ load, ladder }) => load.kind !== 'open' && load.kind !== 'gap' && ladder.stages <= 5);
  let open = 0;
  const balanced = { none: 0, followed: 0, damped: 0 };
  for (const design of designs) {
    const { transient } = finish(transientOf(design));
    if (!transient.converged || transient.error.powerResidue === null) continue;
    // Ringing that is followed may ask for shorter steps than there are: then the difference is told.
    if (transient.ringing === 'followed' && Math.abs(transient.error.powerResidue) >= 0.001) {
      open += 1;
      expect(compareWithTimeDomain(design, predict(design), transient).doubt).not.toBeNull();
      continue;
    }
    expect(Math.abs(transient.error.powerResidue)).toBeLessThan(0.001);
    balanced[transient.ringing] += 1;
  }
  expect(open).toBeLessThan(0.1 * balanced.followed);
  expect(balanced.none).toBeGreaterThan(5);
  // Where it is damped the loss is counted by its own law, so that it is the followed ones that tell.
  expect(balanced.followed).toBeGreaterThan(5);
});

it('any hobby ladder settles or says why, always with an estimate of its error', () => {
  let unsettled = 0;
  const designs = fc.sample(hobbyDesign, { numRuns: 80, seed: 20 }).filter((design) => design.ladder.stages <= 12);
  for (const design of designs) {
    const { transient } = finish(transientOf(design, 64));
    const { settlingVolts, steppingVolts, chargeResidue } = transient.error;
    for (const figure of [transient.meanVolts, settlingVolts, steppingVolts, chargeResidue])
      expect(Number.isFinite(figure)).toBe(true);
    expect(transient.converged).toBe(transient.reason === null);
    if (!transient.converged) unsettled += 1;
  }
  expect(unsettled).toBeLessThan(designs.length * 0.08);
});
