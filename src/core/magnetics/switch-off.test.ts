import { Solver } from '../../../tests/reference/odex';
import { clampedSecondaryVolts, switchOffPeakVolts } from './switch-off';
import { LEAKAGE_QUALITY } from './transformer';

const FLYBACK = {
  supplyVolts: 24,
  peakAmps: 3.84,
  primaryHenries: 100e-6,
  ratio: 30,
  coupling: 0.97,
  switchFarads: 200e-12,
  secondaryFarads: 20e-12,
};

type Held = { clampVolts: number; leakSiemens: number };

/**
 * The same by odex from the two windings' own equations, L1 i1' + M i2' = v1 and so on, until well past the first swing:
 * highest on switch and secondary. A clamp draws steeply over its voltage; leakage may have a conductance beside it.
 */
function integrated(parts: typeof FLYBACK, { clampVolts, leakSiemens }: Held = { clampVolts: 1e9, leakSiemens: 0 }) {
  const { supplyVolts, peakAmps, primaryHenries, ratio, coupling, switchFarads, secondaryFarads } = parts;
  const secondaryHenries = primaryHenries * ratio ** 2;
  const mutual = coupling * primaryHenries * ratio;
  const determinant = primaryHenries * secondaryHenries - mutual ** 2;
  const solver = new Solver(4);
  solver.absoluteTolerance = solver.relativeTolerance = 1e-9;
  solver.maxSteps = 1e7;
  const slopes = (_time: number, [first, second, onSwitch, onSecondary]: readonly number[]) => {
    const across = supplyVolts - onSwitch;
    // What the primary has over what the secondary induces in it stands across the leakage on the primary's side.
    const beside = leakSiemens * (across - (coupling / ratio) * onSecondary);
    const drawn = onSwitch > clampVolts ? (onSwitch - clampVolts) * 20 : 0;
    return [
      (secondaryHenries * across - mutual * onSecondary) / determinant,
      (primaryHenries * onSecondary - mutual * across) / determinant,
      (first + beside - drawn) / switchFarads,
      -(second - (beside * coupling) / ratio) / secondaryFarads,
    ];
  };
  let state = [peakAmps, 0, 0, coupling * ratio * supplyVolts];
  let [onSwitch, onSecondary] = [0, 0];
  const seconds = Math.sqrt(primaryHenries * (switchFarads + ratio ** 2 * secondaryFarads)) / 2000;
  for (let step = 0; step < 2000 * Math.PI; step += 1) {
    state = solver.solve(slopes, 0, state, seconds).y;
    onSwitch = Math.max(onSwitch, state[2]);
    onSecondary = Math.max(onSecondary, -state[3]);
  }
  return { onSwitch, onSecondary };
}

it.each([
  ['as it is', {}],
  ['loosely coupled', { coupling: 0.8 }],
  ['tightly', { coupling: 0.995 }],
  ['a large switch', { switchFarads: 2e-9 }],
  ['much capacitance on the secondary', { secondaryFarads: 200e-12 }],
  ['hardly any current', { peakAmps: 0.05 }],
])('a switch let go, %s: its peak as two coupled windings integrated by odex', (_case, changes) => {
  const parts = { ...FLYBACK, ...changes };
  expect(switchOffPeakVolts(parts) / integrated(parts).onSwitch).toBeCloseTo(1, 2);
});

it('without leakage it is one ring of the core with all of the capacitance (energy, handbook)', () => {
  const farads = 200e-12 + 900 * 20e-12;
  const peak = switchOffPeakVolts({ ...FLYBACK, coupling: 1 });
  // The secondary shares what the forward stroke left it with the switch, then all energy is in both.
  const start = (900 * 20e-12 * 24) / farads;
  expect(peak - 24).toBeCloseTo(Math.sqrt((100e-6 * 3.84 ** 2) / farads + start ** 2), 6);
});

it('the leakage spike is far over what the reflected voltage alone makes, I √(L / C) on top of it (handbook)', () => {
  const tight = switchOffPeakVolts({ ...FLYBACK, secondaryFarads: 1e-9 });
  const spike = 3.84 * Math.sqrt(((1 - 0.97 ** 2) * 100e-6) / 200e-12);
  // With a secondary that hardly moves meanwhile.
  expect(tight / (24 + 0.97 ** 2 * -24 + spike)).toBeGreaterThan(0.97);
});

it('nothing limits it where leakage meets no capacitance at the switch', () => {
  expect(switchOffPeakVolts({ ...FLYBACK, switchFarads: 0 })).toBe(Infinity);
});

describe('a secondary behind leakage while a clamp holds the switch', () => {
  it.each([
    ['as it is', {}, 150],
    ['loosely coupled', { coupling: 0.9 }, 150],
    ['tightly', { coupling: 0.995 }, 150],
    ['a low clamp', {}, 60],
    ['a large switch', { switchFarads: 2e-9 }, 150],
  ])('%s: its highest as two coupled windings integrated by odex', (_case, changes, clampVolts) => {
    const parts = { ...FLYBACK, ...changes };
    const { coupling, primaryHenries, ratio, switchFarads, secondaryFarads } = parts;
    // A ring of the leakage between both ends held and one free, of the quality said.
    const leak = (1 - coupling ** 2) * primaryHenries;
    const far = (ratio ** 2 * secondaryFarads) / coupling ** 2;
    const [held, free] = [far, (far * switchFarads) / (far + switchFarads)].map(
      (farads) => 1 / Math.sqrt(leak * farads),
    );
    const leakSiemens = 1 / (LEAKAGE_QUALITY * Math.sqrt(held * free) * leak);
    const { onSecondary } = integrated(parts, { clampVolts, leakSiemens });
    expect(Math.abs(clampedSecondaryVolts(parts, clampVolts)! / onSecondary - 1)).toBeLessThan(0.02);
  });
  it('is not followed where there is no leakage, or nothing on the secondary', () => {
    expect(clampedSecondaryVolts({ ...FLYBACK, coupling: 1 }, 150)).toBeNull();
    expect(clampedSecondaryVolts({ ...FLYBACK, secondaryFarads: 0 }, 150)).toBeNull();
    expect(clampedSecondaryVolts({ ...FLYBACK, coupling: 1 - 1e-12 }, 150)).toBeNull();
  });
});
