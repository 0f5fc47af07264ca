import { demoDesign } from '../../../tests/reference/demo-designs';
import { stepsUpOf, USUAL_FRACTIONS } from '../bench/steps-up';
import { deadPlanOf, USUAL_PLAN } from '../dead/plan';
import type { Design } from '../design/design-schema';
import { meterSchema } from '../drive/meter-sense';
import { airSchema } from '../load/air/air';
import { finish } from '../numeric/finish';
import { partSchema } from '../parts/part-schema';
import { predict } from '../predict/predict';
import { formatQuantity } from '../quantity/format-quantity';
import { insulationOf } from './insulation';
import { layoutOf } from './layout';
import { partsListOf, type DrawerStock } from './parts-list';
import { sheetMarkdown, partsTable } from './sheet-files';
import type { Block } from './sections/blocks';
import { sheetOf } from './sheet';
import { wiringOf } from './wiring';

const AIR = airSchema.parse({});
const METER = meterSchema.parse({});

function sheetFor(design: Design, stock: DrawerStock | null = null) {
  const insulation = insulationOf(design, AIR);
  return sheetOf({
    design,
    prediction: predict(design),
    insulation,
    layout: insulation && layoutOf(design, insulation),
    hasWiring: wiringOf(design) !== null,
    parts: partsListOf(design, stock),
    steps: stepsUpOf(design, USUAL_FRACTIONS, METER),
    dead: finish(deadPlanOf(design, USUAL_PLAN)),
  });
}
const blocksOf = (sections: ReturnType<typeof sheetOf>, id: string): readonly Block[] =>
  sections.find((section) => section.id === id)!.blocks;
const stepsIn = (blocks: readonly Block[]) => blocks.flatMap((block) => (block.kind === 'steps' ? block.steps : []));

const DEMOS = [
  'dust-plate-precipitator',
  'electrospinning-bench-pair',
  'flocking-applicator',
  'photomultiplier-bias',
  'teaching-tripler',
] as const;

describe.each(DEMOS)('the sheet of %s', (name) => {
  const design = demoDesign(name);
  const sections = sheetFor(design);

  it('has every section, and no gap in its words', () => {
    const ids = sections.map(({ id }) => id).filter((id) => id !== 'winding');
    expect(ids).toEqual([
      'cautions',
      'design',
      'parts',
      'insulation',
      'layout',
      'wiring',
      'assembly',
      'checks',
      'power-up',
      'dead',
    ]);
    expect(JSON.stringify(sections)).not.toMatch(/NaN|undefined|Infinity|null/);
  });

  it('puts every diode in with its band at the cathode, once, the foot first', () => {
    const { network } = insulationOf(design, AIR)!.potentials;
    const isNegative = design.ladder.polarity === 'negative' && network.return === 'ground';
    const text = stepsIn(blocksOf(sections, 'assembly'))
      .map((step) => step.text.replaceAll('drive', 'source'))
      .join('\n');
    for (const { id } of network.diodes) expect(text.split(`${id} from `).length - 1).toBe(1);
    for (const { id, anode, cathode } of network.diodes) {
      // Of a negative ladder every diode stands the other way round.
      const band = isNegative ? anode : cathode;
      expect(text).toMatch(new RegExp(`${id} from [\\w, ]+ to ${band}[\\w, ]*, its band at ${band}`));
    }
    for (const { id } of network.capacitors) expect(text).toContain(`${id} from `);
  });

  it('tests at low voltage before any insulation, and has the design’s own checks and steps', () => {
    const ids = stepsIn(blocksOf(sections, 'assembly')).map(({ id }) => id);
    expect(ids.indexOf('proof')).toBeLessThan(ids.indexOf('insulation'));
    expect(ids.at(-1)).toBe('insulation');
    expect(stepsIn(blocksOf(sections, 'checks')).map(({ text }) => text)).toEqual(
      predict(design).beforePower.map(({ text }) => text),
    );
    expect(stepsIn(blocksOf(sections, 'dead'))[0].id).toBe('off');
  });

  it('is Markdown whose tables have as many cells in each row as in their head', () => {
    const lines = sheetMarkdown(design.name, 'Revision 1', sections).split('\n');
    expect(lines[0]).toBe(`# ${design.name}`);
    let cells = 0;
    for (const [at, line] of lines.entries()) {
      if (!line.startsWith('|')) continue;
      const own = line.split(/(?<!\\)\|/).length;
      if (!lines[at - 1].startsWith('|')) cells = own;
      expect(own).toBe(cells);
    }
    for (const { title } of sections) expect(lines).toContain(`## ${title}`);
  });
});

it('a rectifier inside the transformer is not put in; the diodes of a ladder behind one are', () => {
  const base = demoDesign('flocking-applicator');
  const inside = { ...base, transformer: { ...base.transformer!, rectifierInside: true } };
  const textOf = (design: Design) =>
    stepsIn(blocksOf(sheetFor(design), 'assembly'))
      .map(({ text }) => text)
      .join(' ');
  expect(textOf(inside)).toContain('D1 from');
  expect(textOf({ ...inside, ladder: { ...inside.ladder, topology: 'rectifier' } })).not.toContain('D1 from');
});

describe('the parts list', () => {
  const part = partSchema.parse({
    id: '4c1f64a2-5d5e-4b6c-9f0b-2a5b4a1a2b3c',
    kind: 'capacitor',
    name: 'Disc 1 nF',
    farads: 1e-9,
    ratedVolts: 15e3,
    count: 7,
    price: 0.5,
  });
  const base = demoDesign('flocking-applicator');
  const design: Design = {
    ...base,
    ladder: {
      ...base.ladder,
      stages: 3,
      capacitorFarads: null,
      grading: 'equal',
      capacitor: { ...base.ladder.capacitor, farads: 1e-9, series: 2, parallel: 1, partId: part.id },
    },
  };
  const capacitors = (of: Design, stock: DrawerStock | null) =>
    partsListOf(of, stock).rows.filter(({ place }) => place === 'capacitor');

  it('counts strings, what is free beside other designs, what is missing, and what that costs', () => {
    // By hand: 3 stages of 2 capacitors, 2 in series in each place: 12. Of 7 another design takes 2.
    const other = { partId: part.id, designId: 'another', designName: 'Another', count: 2 };
    const { rows, costOfMissing } = partsListOf(design, { parts: [part], uses: [other as never] });
    expect(rows.find(({ place }) => place === 'capacitor')).toMatchObject({
      count: 12,
      free: 5,
      missing: 7,
      cost: 3.5,
    });
    expect(costOfMissing).toBe(3.5);
  });

  it('knows nothing of stock where there is no drawer', () => {
    expect(capacitors(design, null)[0]).toMatchObject({ count: 12, free: null, missing: null, cost: null });
    expect(partsTable(partsListOf(design, null))[0]).toMatchObject({ number: 12, free: '', cost: '' });
  });

  it('has a line for each value of a graded ladder, and they share one stock', () => {
    const farads = [2e-9, 2e-9, 1e-9, 1e-9, 1e-9, 1e-9];
    const graded = {
      ...design,
      ladder: { ...design.ladder, capacitorFarads: farads, capacitor: { ...design.ladder.capacitor, series: 1 } },
    };
    const rows = capacitors(graded, { parts: [part], uses: [] });
    // Twice the value is two of them in parallel: 4 and 4, of 7.
    expect(rows.map(({ count }) => count)).toEqual([4, 4]);
    expect(rows.map(({ missing }) => missing)).toEqual([0, 1]);
    expect(rows[0].standing).toContain('C1, C2');
  });
});

it('spares are one in ten, of a ladder with ten parts or fewer one', () => {
  const of = (name: (typeof DEMOS)[number]) => partsListOf(demoDesign(name), null).spares.map(({ count }) => count);
  expect(of('flocking-applicator')).toEqual([2, 2]);
  expect(of('teaching-tripler')).toEqual([1, 1]);
});

it('what is not of the drawer is said by its own values, and the secondary by its layers', () => {
  const design = demoDesign('flocking-applicator');
  const { rows } = partsListOf(design, null);
  const each = (place: string) => rows.find((row) => row.place === place)!.each.replaceAll('\u00a0', ' ');
  expect(each('tank')).toBe('680 nF, 250 V');
  expect(each('transistor')).toContain('200 V');
  expect(each('transformer')).toBe('12 to 500 turns');
  expect(each('primary')).toBe('0.300 mm, 55 strands');
  const sections = sheetFor(design);
  const blocks = blocksOf(sections, 'winding');
  expect(blocks.some(({ kind }) => kind === 'winding')).toBe(true);
  const cells = blocks.flatMap((block) => (block.kind === 'table' ? block.rows.map((row) => row.cells) : []));
  // 500 turns in five pots are a hundred in each, a fifth of the secondary's peak over each.
  const [, pot] = cells.find(([what]) => what.startsWith('Over each pot'))!;
  const { secondaryPeakVolts } = predict(design).source.figures;
  expect(pot).toContain('100 turns');
  expect(pot).toContain(formatQuantity(secondaryPeakVolts! / 5, 'V'));
  expect(sheetMarkdown('x', 'y', sections)).toContain('The winding cut through');
});
