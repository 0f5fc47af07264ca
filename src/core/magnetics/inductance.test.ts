import {
  couplingOf,
  gapFor,
  henriesOfResonance,
  inductanceFactor,
  leastTurns,
  ratioOfInductances,
  resonanceHertz,
} from './inductance';

it('a measured resonance gives the inductance back', () => {
  // Reactances are equal at resonance (handbook): 159.15 kHz for 1 uH and 1 uF.
  expect(resonanceHertz(1e-6, 1e-6)).toBeCloseTo(159_154.94, 1);
  expect(henriesOfResonance(resonanceHertz(37e-6, 470e-9), 470e-9)).toBeCloseTo(37e-6, 12);
});

it('coupling and ratio hang together with the mutual inductance', () => {
  // Two windings of 30 uH and 0.3 H with M = 2.85 mH: shorting the first leaves L2 - M^2 / L1 of the second.
  const [primary, secondary, mutual] = [30e-6, 0.3, 2.85e-3];
  const shorted = secondary - mutual ** 2 / primary;
  expect(couplingOf(secondary, shorted)).toBeCloseTo(mutual / Math.sqrt(primary * secondary), 9);
  expect(ratioOfInductances(primary, secondary)).toBeCloseTo(100, 9);
  expect(couplingOf(1e-3, 1.1e-3)).toBeNull();
});

it('AL of a closed and a gapped core, and the gap for a wanted one', () => {
  // A ring of 76 mm2 and 48.6 mm at mur 2000 (effective): 3.93 uH by hand, mu0 mur A / l.
  const core = { squareMetres: 76e-6, pathMetres: 48.6e-3, relativePermeability: 2000 };
  expect(inductanceFactor({ ...core, gapMetres: 0 })).toBeCloseTo(3.93e-6, 8);
  const gapMetres = gapFor(250e-9, core)!;
  expect(gapMetres).toBeCloseTo(0.358e-3, 5);
  expect(inductanceFactor({ ...core, gapMetres })).toBeCloseTo(250e-9, 15);
  expect(gapFor(5e-6, core)).toBeNull();
});

it('turns for a sine by the transformer equation V = 4.44 f N B A (handbook)', () => {
  const [rmsVolts, hertz, tesla, squareMetres] = [230, 50, 1.2, 9e-4];
  const byHandbook = rmsVolts / (4.44 * hertz * tesla * squareMetres);
  const turns = leastTurns((rmsVolts * Math.SQRT2) / (2 * Math.PI * hertz), squareMetres, tesla);
  // The handbook rounds pi root 2 to 4.44.
  expect(Math.abs(turns / byHandbook - 1)).toBeLessThan(0.002);
});
