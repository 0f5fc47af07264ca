import { integrateReactiveDoubler } from '../../../tests/reference/reactive-doubler';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { predict } from '../predict/predict';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

const plain = newDesign('Ballast');
const MAINS = { secondaryVolts: 2500, shortAmps: 0.6, secondaryOhms: 300 };

function design(driver: object, ladder: object, load: object) {
  const read = readDesign({
    ...plain,
    supply: { kind: 'mains' },
    driver: { kind: 'mains', ...MAINS, ...driver },
    ladder: {
      ...plain.ladder,
      capacitor: { ...plain.ladder.capacitor, farads: 1e-6 },
      diode: { ...plain.ladder.diode, forwardVolts: 0, junctionFarads: 0 },
      strayFarads: 0,
      ...ladder,
    },
    load,
  });
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.design;
}
const settled = (one: ReturnType<typeof design>) => finish(transientOf(one)).transient;
const codes = (one: ReturnType<typeof design>) => predict(one).findings.map(({ code }) => code);

describe('a bridge doubler through a capacitor in series', () => {
  const impedance = MAINS.secondaryVolts / MAINS.shortAmps;
  const henries = Math.sqrt(impedance ** 2 - MAINS.secondaryOhms ** 2) / (2 * Math.PI * 50);
  it.each([
    ['as ballast', 0.3e-6, 100e3],
    ['larger', 2e-6, 50e3],
    ['in tune with the leakage', 1 / ((2 * Math.PI * 50) ** 2 * henries), 200e3],
  ])('%s: as an integration of its own has it, within 1 %%', (_name, seriesFarads, ohms) => {
    const one = design({ seriesFarads }, { topology: 'bridge-doubler', stages: 1 }, { kind: 'resistance', ohms });
    const { converged, meanVolts, source } = settled(one);
    const run = integrateReactiveDoubler({
      peakVolts: MAINS.secondaryVolts * Math.SQRT2,
      frequencyHertz: 50,
      ohms: MAINS.secondaryOhms,
      henries,
      farads: 1e-6,
      loadOhms: ohms,
      periods: 120,
      seriesFarads,
    });
    expect(converged).toBe(true);
    expect(Math.abs(meanVolts / run.meanVolts - 1)).toBeLessThan(0.01);
    expect(Math.abs(source.rmsAmps / run.rmsAmps - 1)).toBeLessThan(0.02);
    expect(predict(one).output.meanVolts).toBeNull();
    expect(codes(one)).toContain('series-capacitor');
  });
});

it('before a half-wave ladder it is one with the coupling capacitor: both in series are as good as one (handbook)', () => {
  const load = { kind: 'resistance', ohms: 2e6 };
  const apart = settled(design({ seriesFarads: 1e-6 }, { stages: 2 }, load));
  const one = settled(design({}, { stages: 2, capacitorFarads: [0.5e-6, 1e-6, 1e-6, 1e-6] }, load));
  expect(apart.converged).toBe(true);
  expect(Math.abs(apart.meanVolts / one.meanVolts - 1)).toBeLessThan(1e-3);
});

it.each([
  ['rectifier', 1],
  ['half-wave', 1.5],
])('blocks what a %s of %d draws: nothing arrives, and it is said', (topology, stages) => {
  const one = design({ seriesFarads: 1e-6 }, { topology, stages }, { kind: 'resistance', ohms: 1e6 });
  expect(codes(one)).toContain('series-capacitor-blocks');
  expect(Math.abs(settled(one).meanVolts)).toBeLessThan(50);
});

it('from a winding of no resistance and no leakage is one with the coupling capacitor all the same', () => {
  const stiff = { secondaryOhms: 0, shortAmps: null };
  const load = { kind: 'resistance', ohms: 2e6 };
  const apart = settled(design({ ...stiff, seriesFarads: 1e-6 }, { stages: 1 }, load));
  const one = settled(design(stiff, { stages: 1, capacitorFarads: [0.5e-6, 1e-6] }, load));
  expect(apart.converged).toBe(true);
  expect(Math.abs(apart.meanVolts / one.meanVolts - 1)).toBeLessThan(1e-3);
});

it('in tune with the leakage it is warned of, well off it not', () => {
  const at = (seriesFarads: number) =>
    codes(design({ seriesFarads }, { topology: 'bridge-doubler', stages: 1 }, { kind: 'open' }));
  expect(at(0.77e-6)).toContain('series-resonance');
  expect(at(0.2e-6)).not.toContain('series-resonance');
});

it('without a ladder a sine has V / |Z| of what is in series, whichever way it turns (handbook)', () => {
  const ohms = 20e3;
  const one = design({ seriesFarads: 0.2e-6 }, { topology: 'none', stages: 1 }, { kind: 'resistance', ohms });
  const leakage = Math.sqrt((2500 / 0.6) ** 2 - 300 ** 2);
  const amps = 2500 / Math.hypot(ohms + 300, leakage - 1 / (2 * Math.PI * 50 * 0.2e-6));
  expect(predict(one).output.alternating!.rmsAmps! / amps).toBeCloseTo(1, 4);
  expect(settled(one).rmsAmps / amps).toBeCloseTo(1, 2);
});
