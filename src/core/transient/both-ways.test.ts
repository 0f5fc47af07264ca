import { benchDesign } from '../../../tests/reference/bench-design';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { predict } from '../predict/predict';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

/** A design whose light-load droop is this part of its output without load, with diode drops. */
function loaded(ladder: object, driver: object, x: number, strayFarads = 0) {
  const parts = { ladder: { strayFarads, ...ladder }, driver, diode: { forwardVolts: 0.005 } };
  const { lightLoad, unloaded } = ladderOfDesign(benchDesign(parts));
  const amps = (x * unloaded.outputVolts) / lightLoad.droop;
  return { design: benchDesign({ ...parts, load: { kind: 'current', amps } }), rOut: lightLoad.droop };
}

const ladders: [string, object][] = [
  ['half-wave', { stages: 3 }],
  ['half-wave with a half stage', { stages: 2.5 }],
  ['half-wave, tapered', { stages: 3, grading: 'tapered' }],
  ['half-wave, unlike capacitors', { stages: 2, capacitorFarads: [2, 0.7, 1.3, 1] }],
  ['full-wave', { topology: 'full-wave', stages: 2 }],
  ['bipolar', { topology: 'bipolar', stages: 2 }],
  ['two-ended', { topology: 'two-ended', stages: 2 }],
  ['bridge doubler', { topology: 'bridge-doubler' }],
  ['rectifier', { topology: 'rectifier' }],
];

describe('closed form and time domain, x = 10 %', () => {
  describe.each(ladders)('%s', (_name, ladder) => {
    it.each([
      ['sine', { waveform: 'sine' }],
      ['square', { waveform: 'square' }],
      ['lopsided pulse', { waveform: 'pulse', duty: 0.25, positivePeakVolts: 1.4, negativePeakVolts: 0.6 }],
    ])('%s of no resistance: mean within 0.5 %%, ripple within 3 or 4 %%', (_wave, driver) => {
      const { design } = loaded(ladder, driver, 0.1);
      const { output } = predict(design);
      const { transient } = finish(transientOf(design));
      expect(transient.converged).toBe(true);
      expect(Math.abs(output.meanVolts! / transient.meanVolts - 1)).toBeLessThan(0.005);
      // A two-ended ladder's diodes start one after another on a sine, the load's draw meanwhile left out: 3.4 %.
      // At an edge charge arrives at the output before it has spread: a spike by the diodes' own resistance, 2.4 % of a full-wave ripple, 3.1 % of a two-ended.
      expect(Math.abs(output.ripplePeakToPeakVolts! / transient.ripplePeakToPeakVolts - 1)).toBeLessThan(
        design.ladder.topology === 'two-ended' ? 0.04 : 0.03,
      );
    });
    it.each([
      ['sine', 'sine'],
      ['square', 'square'],
    ])(
      '%s behind 2 %% of its own output resistance: mean within the heuristic, power within its bound',
      (_w, waveform) => {
        const { rOut } = loaded(ladder, { waveform }, 0.05, 0.001);
        const { design } = loaded(ladder, { waveform, seriesOhms: 0.02 * rOut }, 0.05, 0.001);
        const { output, input } = predict(design);
        const { transient } = finish(transientOf(design));
        const noLoad = output.noLoadVolts;
        // The join of source and capacitors is good to -5 to +7 % of the droop; strays under load add up to 3 % of it.
        const slack = 0.095 * (noLoad - transient.meanVolts);
        expect(Math.abs(output.meanVolts! - transient.meanVolts)).toBeLessThan(slack);
        expect(input.watts! / transient.watts.in).toBeGreaterThan(0.97);
        expect(input.watts! / transient.watts.in).toBeLessThan(1.08);
      },
    );
  });
});

describe('ripple and mean behind resistance on a sine', () => {
  /** Of a ladder's own output resistance, in the source or in each diode. */
  const compared = (ladder: object, x: number, source: number, diode: number, reactance = 0) => {
    const { rOut } = loaded(ladder, {}, x);
    const driver = { seriesOhms: source * rOut, seriesHenries: (reactance * rOut) / (2 * Math.PI) };
    const parts = loaded(ladder, driver, x).design;
    const design = {
      ...parts,
      ladder: { ...parts.ladder, diode: { ...parts.ladder.diode, onOhms: diode * rOut } },
    };
    const { output } = predict(design);
    const { transient } = finish(transientOf(design));
    return {
      mean: (output.meanVolts! - transient.meanVolts) / output.noLoadVolts,
      ripple: output.ripplePeakToPeakVolts! / transient.ripplePeakToPeakVolts - 1,
      droop: 1 - transient.meanVolts / output.noLoadVolts,
    };
  };
  const even = ladders.filter(([name]) => !name.includes('unlike') && !name.includes('tapered'));
  it.each(even)(
    '%s: where a source’s resistance takes more of it, ripple within 6 %% to 30 %% of droop',
    (name, ladder) => {
      for (const [x, source] of [
        [0.05, 0.02],
        [0.1, 0.05],
      ]) {
        const { mean, ripple, droop } = compared(ladder, x, source, 0);
        // The heuristic that joins both: −5 % to +7 % of the droop.
        expect(Math.abs(mean)).toBeLessThan(0.07 * droop);
        expect(Math.abs(ripple)).toBeLessThan(name === 'two-ended' || droop > 0.3 ? 0.13 : 0.06);
      }
    },
  );
  it.each(even)('%s: its diodes’ on-resistance', (name, ladder) => {
    const { mean, ripple } = compared(ladder, 0.05, 0, 0.02);
    expect(Math.abs(mean)).toBeLessThan(0.004);
    // That of a two-ended ladder has no account of resistance: above, not below.
    if (name === 'two-ended') expect(ripple).toBeGreaterThan(0);
    else expect(Math.abs(ripple)).toBeLessThan(0.045);
  });
  it.each(even)('%s: that behind a reactance', (_name, ladder) => {
    // What it takes itself is known within 1.6 % of no load.
    const { mean } = compared(ladder, 0.03, 0.001, 0.02, 0.01);
    expect(Math.abs(mean)).toBeLessThan(0.01);
  });
});

it('a clamp: the resistance it feeds takes the power of the whole swing, not of the mean alone', () => {
  const design = benchDesign({ ladder: { topology: 'clamp' }, load: { kind: 'resistance', ohms: 500 } });
  const { output, input } = predict(design);
  const { transient } = finish(transientOf(design));
  // Mean square of 1 + sin is 3/2 (handbook).
  expect(Math.abs(output.watts! / (1.5 / 500) - 1)).toBeLessThan(0.01);
  expect(Math.abs(output.watts! / transient.watts.load - 1)).toBeLessThan(0.01);
  expect(Math.abs(input.watts! / transient.watts.in - 1)).toBeLessThan(0.02);
});

it('strays draw their own current from the source, also without load', () => {
  const open = (waveform: string) =>
    benchDesign({ ladder: { stages: 2, strayFarads: 0.02 }, driver: { waveform, seriesOhms: 0.01 } });
  for (const [waveform, slack] of [
    ['sine', 0.01],
    ['square', 0.03],
  ] as const) {
    const { input } = predict(open(waveform));
    const { transient } = finish(transientOf(open(waveform)));
    expect(Math.abs(input.watts! / transient.watts.in - 1)).toBeLessThan(slack);
  }
});
