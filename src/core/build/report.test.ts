import { demoDesign } from '../../../tests/reference/demo-designs';
import { newDesign } from '../design/new-design';
import { FIGURES, type FigureId } from '../predict/figures';
import { predict } from '../predict/predict';
import { formatQuantity } from '../quantity/format-quantity';
import { reportOf } from './report';
import { sheetMarkdown } from './sheet-files';

const markdown = (design: Parameters<typeof reportOf>[0]) =>
  sheetMarkdown(design.name, 'Revision 1', reportOf(design, predict(design), 'two-of-each'));
const plain = (text: string) => text.replaceAll('\u00a0', ' ');

it.each(['flocking-applicator', 'electrospinning-bench-pair', 'dust-plate-precipitator'])(
  '%s: every figure, part, margin and finding of the prediction stands in it, with its sign',
  (name) => {
    const design = demoDesign(name);
    const prediction = predict(design);
    const text = markdown(design);
    const known = (Object.keys(FIGURES) as FigureId[]).filter((id) => FIGURES[id].read(prediction) !== null);
    for (const { label } of Object.values(FIGURES))
      expect(text.split(`\n| ${label} | `)).toHaveLength(1 + known.filter((id) => FIGURES[id].label === label).length);
    const { output } = prediction;
    const sign = output.polarity === 'negative' ? -1 : 1;
    expect(text).toContain(plain(`| Output, mean | ${formatQuantity(sign * output.meanVolts!, 'V', 4)} |`));
    for (const { id } of [...prediction.capacitors, ...prediction.diodes]) expect(text).toContain(`| ${id} |`);
    for (const { message } of prediction.findings) expect(text).toContain(plain(message).slice(0, 30));
    const [, margins] = text.split('## Margins');
    expect(margins.split('\n## ')[0].match(/^\| /gm)).toHaveLength(prediction.margins.length + 2);
  },
);

it('diodes stand as they are soldered: of a negative ladder the other way round than of a positive one', () => {
  const negative = demoDesign('flocking-applicator');
  const positive = { ...negative, ladder: { ...negative.ladder, polarity: 'positive' as const } };
  // The first of a half-wave ladder holds its node down to ground: it conducts towards ground where that is to be negative.
  expect(markdown(negative)).toContain('| D1 | A1 to ground |');
  expect(markdown(positive)).toContain('| D1 | ground to A1 |');
  expect(markdown(negative)).toContain('| D16 | B8 to A8 |');
});

it('a design that has nothing yet has a report as well, and a load out of reach has no figures of the output', () => {
  expect(markdown(newDesign('Blank'))).toContain('No target is set.');
  const design = newDesign('Beyond');
  const beyond = { ...design, load: { kind: 'current', amps: 0.2 } as const };
  expect(predict(beyond).output.validity).toBe('beyond');
  const text = markdown(beyond);
  expect(text).toContain('does not hold at this load');
  expect(text).not.toContain('| Output, mean |');
});

it('what notes say cannot become headings or tables', () => {
  const text = markdown({ ...newDesign('Notes'), notes: '# Not a heading\n| not | a table |' });
  expect(text).toContain('\\# Not a heading');
  expect(text).toContain('\\| not');
});
