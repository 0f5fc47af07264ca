import { benchDesign } from '../../../tests/reference/bench-design';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';
import { compareWithTimeDomain, asSettled, findingsBeside } from './comparison';
import { predict } from '../predict/predict';

const compared = (changes: Parameters<typeof benchDesign>[0]) => {
  const design = benchDesign(changes);
  const prediction = predict(design);
  const { transient } = finish(transientOf(design, 200));
  return { prediction, transient, comparison: compareWithTimeDomain(design, prediction, transient) };
};
const load = { kind: 'current', amps: 0.01 };

it('agrees with itself where nothing is left out', () => {
  const { comparison } = compared({ ladder: { stages: 2 }, load });
  expect(Math.abs(comparison.differenceFraction!)).toBeLessThan(0.005);
  expect(comparison.why).toMatch(/^They agree/);
});

it.each<[string, Parameters<typeof benchDesign>[0], RegExp]>([
  [
    'recovery',
    { ladder: { stages: 3 }, diode: { recoverySeconds: 0.03 }, driver: { seriesOhms: 0.05 }, load },
    /recover/,
  ],
  ['leakage', { ladder: { stages: 2 }, diode: { leakageAmps: 0.02, peakInverseVolts: 2 }, load }, /leakage/],
  ['on-resistance, which both have', { ladder: { stages: 4 }, diode: { onOhms: 0.6 }, load }, /^They agree/],
  ['inductance', { ladder: { stages: 3 }, driver: { seriesHenries: 0.3 }, load }, /reactance/],
  [
    'a ripple that a resistance softens',
    { ladder: { stages: 2 }, driver: { waveform: 'square', seriesOhms: 0.3 }, load: { kind: 'current', amps: 0.002 } },
    /ripple differs/,
  ],
  ['a load past the closed form', { ladder: { stages: 4 }, load: { kind: 'current', amps: 0.3 } }, /past what/],
  ['a gap that strikes', { ladder: { stages: 2 }, load: { kind: 'gap', strikeVolts: 1 } }, /before the gap strikes/],
])('names %s', (_name, changes, why) => expect(compared(changes).comparison.why).toMatch(why));

it('says so when its power does not add up, and only then', () => {
  const { comparison, transient } = compared({ ladder: { stages: 2 }, load });
  expect(comparison.doubt).toBeNull();
  const design = benchDesign({ ladder: { stages: 2 }, load });
  const lossy = { ...transient, error: { ...transient.error, powerResidue: 0.2 } };
  expect(compareWithTimeDomain(design, predict(design), lossy).doubt).toMatch(/adds up within 20\s%/);
});

it('says so when ringing too fast to follow takes a part of the power, and how large a part', () => {
  // 0.1 mH against 0.2 µF rings some 35,000 times in a period of 1 s.
  const { comparison, transient } = compared({
    ladder: { stages: 1, strayFarads: 1e-7 },
    driver: { waveform: 'square', seriesHenries: 1e-4 },
    load: { kind: 'current', amps: 1e-5 },
  });
  expect(transient.ringing).toBe('damped');
  expect(transient.watts.edges).toBeGreaterThan(0.01 * transient.watts.in);
  expect(comparison.doubt).toMatch(/rings faster/);
});

it('puts the time domain’s nodes and output in the picture, and leaves the parts as predicted', () => {
  const { prediction, transient } = compared({ ladder: { stages: 4 }, load: { kind: 'current', amps: 0.3 } });
  const seen = asSettled(prediction, transient);
  expect(seen.output.meanVolts).toBe(transient.meanVolts);
  expect(seen.nodes.find((node) => node.id === 'B4')!.meanVolts).toBe(
    transient.nodes.find((node) => node.id === 'B4')!.meanVolts,
  );
  expect(seen.capacitors).toBe(prediction.capacitors);
});

describe('stops of the closed form beside a settled time domain', () => {
  const stopsOf = (changes: Parameters<typeof benchDesign>[0], converged = true) => {
    const design = benchDesign(changes);
    const prediction = predict(design);
    const { transient } = finish(transientOf(design, 200));
    const stops = (findings: typeof prediction.findings) =>
      findings.filter(({ severity }) => severity === 'stop').map(({ code }) => code);
    return [stops(prediction.findings), stops(findingsBeside(design, prediction, { ...transient, converged }))];
  };

  it('one that it refutes is a warning; without a settled one it stands', () => {
    const changes = { ladder: { stages: 4 }, load: { kind: 'resistance', ohms: 15 } };
    expect(stopsOf(changes)).toEqual([['closed-form-fails'], []]);
    expect(stopsOf(changes, false)).toEqual([['closed-form-fails'], ['closed-form-fails']]);
  });

  it('one that is of the build stands, and so does a current that the time domain does not carry either', () => {
    const [before, after] = stopsOf({ ladder: { stages: 2 }, diode: { peakInverseVolts: 1 }, load });
    expect(before).toContain('diode-over-peak-inverse');
    expect(after).toEqual(before);
    const starved = stopsOf({ ladder: { stages: 2 }, load: { kind: 'current', amps: 100 } });
    expect(starved[0].length).toBeGreaterThan(0);
    expect(starved[1]).toEqual(starved[0]);
  });
});
