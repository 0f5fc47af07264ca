import { newDesign } from '../design/new-design';
import { sayQuantity } from '../quantity/print-quantity';
import { explain, FIGURES } from './explain';
import { predict } from './predict';

const design = {
  ...newDesign('explained'),
  load: { kind: 'current' as const, amps: 1e-4 },
  output: { seriesOhms: 1e5, bleederOhms: 1e9 },
};
const prediction = predict(design);

it.each(FIGURES)('%s names equation, numbers, source, range and doubt', (figure) => {
  const explanation = explain(figure, design, prediction);
  for (const part of ['equation', 'withNumbers', 'source', 'validRange', 'uncertain'] as const)
    expect(explanation[part].length).toBeGreaterThan(5);
  expect(JSON.stringify(explanation)).not.toMatch(/NaN|undefined/);
});

it('puts in the numbers that the prediction holds', () => {
  expect(explain('noLoad', design, prediction).withNumbers).toContain(
    sayQuantity(prediction.output.noLoadVolts, 'V', 4),
  );
  expect(explain('mean', design, prediction).withNumbers).toContain(sayQuantity(prediction.output.meanVolts!, 'V', 4));
  expect(explain('droopByCapacitors', design, prediction).besides[0].value).toBe(
    sayQuantity(prediction.output.textbookDroopVolts!, 'V', 4),
  );
});

it('says so where there is no figure', () => {
  const beyond = { ...design, load: { kind: 'current' as const, amps: 1 } };
  expect(explain('mean', beyond, predict(beyond)).withNumbers).toContain('no figure');
});
