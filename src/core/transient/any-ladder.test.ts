import fc from 'fast-check';
import { hobbyDesign } from '../../../tests/reference/hobby-design';
import { finish, transientOf } from './transient';

it('power adds up within 0.1 % for loaded hobby ladders of every kind, recovery and ringing inductance and all', () => {
  const designs = fc
    .sample(hobbyDesign, { numRuns: 120, seed: 3 })
    .filter(({ load, ladder }) => load.kind !== 'open' && load.kind !== 'gap' && ladder.stages <= 5);
  const balanced = { none: 0, followed: 0, damped: 0 };
  for (const design of designs) {
    const { transient } = finish(transientOf(design));
    if (!transient.converged || transient.error.powerResidue === null) continue;
    balanced[transient.ringing] += 1;
    expect(Math.abs(transient.error.powerResidue)).toBeLessThan(0.001);
  }
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
