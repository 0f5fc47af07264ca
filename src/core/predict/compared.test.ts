import { demoDesign } from '../../../tests/reference/demo-designs';
import { changeDesign } from '../design/change-design';
import { comparedFigures, comparedWith, partsOf } from './compared';

const one = demoDesign('dust-plate-precipitator');
const [first, again] = [comparedWith(one), comparedWith(one)];

it('a design beside itself differs in nothing', () => {
  const rows = comparedFigures(first, again);
  expect(rows.length).toBeGreaterThan(8);
  for (const { one: a, other: b, change } of rows) {
    expect(a).toBe(b);
    expect(change === null || change === 0).toBe(true);
  }
});

it('changes are of the first, also where voltages are below ground', () => {
  const weaker = comparedWith(
    changeDesign(one, { path: '$.ladder.capacitor.farads', value: one.ladder.capacitor.farads / 2 }),
  );
  const rows = comparedFigures(first, weaker);
  const mean = rows.find(({ id }) => id === 'outputMeanVolts')!;
  expect(Math.sign(mean.one!)).toBe(first.output.polarity === 'negative' ? -1 : 1);
  expect(mean.change).toBeCloseTo((mean.other! - mean.one!) / Math.abs(mean.one!), 12);
  const droop = rows.find(({ id }) => id === 'droopVolts')!;
  expect(droop.change).toBeGreaterThan(0);
});

it('parts are counted as they are bought: strings and banks, two at both ends of a winding', () => {
  const banked = [
    { path: '$.ladder.capacitor.series', value: 2 },
    { path: '$.ladder.capacitor.parallel', value: 3 },
    { path: '$.ladder.diode.series', value: 4 },
  ].reduce((design, change) => changeDesign(design, change), one);
  const [[plainCapacitors, plainDiodes], [capacitors, diodes]] = [one, banked].map((design) =>
    partsOf(design, comparedWith(design)),
  );
  const { series, parallel } = one.ladder.capacitor;
  expect(capacitors.count / plainCapacitors.count).toBe(6 / (series * parallel));
  expect(diodes.count / plainDiodes.count).toBe(4 / one.ladder.diode.series);
});
