import { sineDrive } from '../../../tests/reference/drives';
import { unloadedLadder } from '../ladder/unloaded';
import { halfWaveNetwork } from '../topology/half-wave';
import { storedCharge } from './discharge';

const charged = (stages: number, farads = 1e-9) => {
  const network = halfWaveNetwork(stages, farads);
  return { network, unloaded: unloadedLadder(network, sineDrive(1000, 1e3), 0, 0) };
};

it('stores C V^2 / 2 in each and gives at most one stage of charge to a short', () => {
  const { network, unloaded } = charged(3);
  const stored = storedCharge(network, unloaded.capacitorVolts, unloaded.outputVolts);
  expect(stored.joules).toBeCloseTo((1e-9 * (1000 ** 2 + 5 * 2000 ** 2)) / 2, 12);
  expect(stored.terminalCoulombs).toBeCloseTo(4e-6, 12);
});

it('calls it hazardous over 45 microcoulomb up to 15 kV, over 350 mJ above (IEC 61010-1, from memory)', () => {
  const hazard = (stages: number, farads: number) => {
    const { network, unloaded } = charged(stages, farads);
    return storedCharge(network, unloaded.capacitorVolts, unloaded.outputVolts).hazardous;
  };
  expect(hazard(3, 11e-9)).toBe(false);
  expect(hazard(3, 12e-9)).toBe(true);
  expect(hazard(10, 18e-9)).toBe(true);
  expect(hazard(10, 5e-9)).toBe(false);
});
