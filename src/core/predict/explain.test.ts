import { lightLoadOf } from '../../../tests/reference/drives';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { formatQuantity } from '../quantity/format-quantity';
import { GRADINGS } from '../topology/grading';
import { TOPOLOGIES } from '../topology/network';
import { droopFormula } from './droop-formula';
import { explain, EXPLAINED_FIGURES } from './explain';
import { FIGURES } from './figures';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { predict } from './predict';

const design = {
  ...newDesign('explained'),
  load: { kind: 'current' as const, amps: 1e-4 },
  output: { seriesOhms: 1e5, bleederOhms: 1e9, divider: null, smoothing: [], electrodeFarads: 0 },
};
const prediction = predict(design);

/** A bench where every explained figure has a value: bleeder, limited drive, strays. */
const everything = predict({ ...design, driver: { ...design.driver, maxWatts: 0.1 } });

it.each(EXPLAINED_FIGURES)('%s has its own value among the numbers it is worked out with', (figure) => {
  const { read, unit } = FIGURES[figure];
  const value = read(everything)!;
  const { withNumbers, equation, source, validRange, uncertain } = explain(figure, design, everything);
  // Power is worked out as what goes in, of which the output is a term.
  const shown = figure === 'outputWatts' ? everything.input.watts! : value;
  const printed = [3, 4].map((digits) => formatQuantity(shown, unit, digits));
  expect(printed.some((one) => withNumbers.includes(one))).toBe(true);
  expect(equation).toMatch(/[=≤]|that gives the highest/);
  const texts = [source, validRange, uncertain];
  for (const text of texts) expect(text).toMatch(/^[A-Z−0-9].*\.$/);
  expect(new Set(texts).size).toBe(3);
});

it('puts in the numbers that the prediction holds', () => {
  expect(explain('noLoadVolts', design, prediction).withNumbers).toContain(
    formatQuantity(prediction.output.noLoadVolts, 'V', 4),
  );
  expect(explain('outputMeanVolts', design, prediction).withNumbers).toContain(
    formatQuantity(prediction.output.meanVolts!, 'V', 4),
  );
  expect(explain('droopByCapacitorsVolts', design, prediction).besides[0].value).toBe(
    formatQuantity(prediction.output.textbookDroopVolts!, 'V', 4),
  );
});

it('speaks of every topology, waveform and grading without gaps, and quotes the sum that it uses', () => {
  for (const topology of TOPOLOGIES)
    for (const waveform of ['sine', 'square'] as const)
      for (const grading of GRADINGS) {
        const one: Design = {
          ...design,
          driver: { ...design.driver, waveform },
          ladder: { ...design.ladder, topology, grading },
          load: { kind: 'resistance', ohms: 5e8 },
        };
        const found = predict(one);
        const words = EXPLAINED_FIGURES.map((figure) => explain(figure, one, found));
        expect(JSON.stringify(words)).not.toMatch(/NaN|undefined|Infinity/);
      }
});

it('the diodes’ on-resistance stands with the source’s: of a half-wave ladder R / n, which shares a pulse', () => {
  const one: Design = {
    ...design,
    driver: { ...design.driver, seriesOhms: 1000 } as Design['driver'],
    ladder: {
      ...design.ladder,
      stages: 2,
      strayFarads: 0,
      diode: { ...design.ladder.diode, junctionFarads: 0, onOhms: 300 },
    },
    load: { kind: 'current', amps: 1e-6 },
  };
  const { withNumbers } = explain('droopBySourceVolts', one, predict(one));
  expect(withNumbers).toContain(formatQuantity(1150, 'Ω', 4));
  expect(withNumbers).toContain(formatQuantity(150, 'Ω', 4));
});

it('the short formula is what bookkeeping gives', () => {
  // The printed sums evaluated at n = 2, in units of I / f C.
  const at = (ladder: Partial<Design['ladder']>) => {
    const { network } = ladderOfDesign({ ...design, ladder: { ...design.ladder, ...ladder } });
    return lightLoadOf({
      ...network,
      capacitors: network.capacitors.map((part) => ({ ...part, farads: part.farads / 1e-9 })),
    }).droop;
  };
  const cases: [Partial<Design['ladder']>, string, number][] = [
    [{}, '2n³/3 + n²/2 + n/3', 8],
    [{ topology: 'full-wave' }, 'n³/6 + n²/4 + n/3', 3],
    [{ topology: 'two-ended' }, '4n³/3 + 8n² + 2n/3', 44],
    [{ topology: 'bipolar' }, '2 (2n³/3 + n²/2 + n/3)', 16],
    [{ grading: 'first-doubled' }, '2n³/3 + n/3', 6],
    [{ grading: 'tapered' }, 'n² + (1 + 1/2 + … + 1/n)/2', 4.75],
    [{ topology: 'bridge-doubler' }, '1', 1],
    [{ topology: 'clamp' }, '1/2', 0.5],
  ];
  for (const [ladder, formula, value] of cases) {
    expect(droopFormula({ ...design, ladder: { ...design.ladder, ...ladder } }, design.driver)!.droop).toBe(formula);
    expect(at(ladder)).toBeCloseTo(value, 9);
  }
});

it('shows the continuum law beside the exact sum, a little above it', () => {
  // tanh(a)/a with a = 2 n sqrt(Cs/C) for two stages of 1 nF with 1 pF across each diode: 0.99468.
  const { besides } = explain('noLoadVolts', design, prediction);
  const law = besides.find(({ name }) => name.startsWith('Continuum law'))!;
  expect(law.value).toBe(formatQuantity(4000 * 0.99468, 'V', 4));
  const clamp: Design = { ...design, ladder: { ...design.ladder, topology: 'clamp' } };
  expect(explain('noLoadVolts', clamp, predict(clamp)).besides).toHaveLength(1);
});

it('says so where there is no figure', () => {
  const beyond = { ...design, load: { kind: 'current' as const, amps: 1 } };
  expect(explain('outputMeanVolts', beyond, predict(beyond)).withNumbers).toContain('no figure');
});
