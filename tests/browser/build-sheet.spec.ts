import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { insulationOf } from '../../src/core/build/insulation';
import { layoutOf } from '../../src/core/build/layout';
import { distancesFrom } from '../../src/core/build/near-node';
import { buildSchema } from '../../src/core/design/build-schema';
import type { Design } from '../../src/core/design/design-schema';
import { newDesign } from '../../src/core/design/new-design';
import { airSchema } from '../../src/core/load/air/air';
import type { Tick } from '../../src/core/build/ticks';
import { netlistOf } from '../../src/core/exchange/netlist';
import { demoDesign, expect, exportedFile, pick, say, shelve, test } from './fixtures';

const AIR = airSchema.parse({});
const pageOf = (id: string) => `/designs/${id}/build-sheet`;
const POINTS_PER_MILLIMETRE = 72 / 25.4;

type Word = { text: string; x: number; y: number; width: number; page: number };

/** What stands on the pages of a PDF, in points. */
async function wordsOf(pdf: Buffer): Promise<{ words: Word[]; widths: number[] }> {
  const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const words: Word[] = [];
  const widths: number[] = [];
  for (let number = 1; number <= document.numPages; number += 1) {
    const page = await document.getPage(number);
    widths.push(page.getViewport({ scale: 1 }).width);
    const { items } = await page.getTextContent();
    for (const item of items)
      if ('str' in item && item.str.trim() !== '')
        words.push({ text: item.str, x: item.transform[4], y: item.transform[5], width: item.width, page: number });
  }
  return { words, widths };
}

const printed = async (page: Page, format: 'A4' | 'Letter') =>
  wordsOf(
    await page.pdf({
      format,
      margin: { top: '12mm', bottom: '12mm', left: '12mm', right: '12mm' },
      displayHeaderFooter: false,
    }),
  );

/** Pages are as wide as the paper; nothing stands past it. */
function expectUnclipped({ words, widths }: Awaited<ReturnType<typeof wordsOf>>) {
  for (const { text, x, width, page } of words) {
    expect(x, text).toBeGreaterThanOrEqual(0);
    expect(x + width, text).toBeLessThanOrEqual(widths[page - 1]);
  }
}

test('the sheet of every demo design prints with each of its sections, unclipped, the layout at its true size', async ({
  page,
  request,
}) => {
  let measured = 0;
  for (const name of [
    'dust-plate-precipitator',
    'electrospinning-bench-pair',
    'flocking-applicator',
    'photomultiplier-bias',
    'teaching-tripler',
  ] as const) {
    const design = demoDesign(name);
    await page.goto(pageOf(await shelve(request, design)));
    await expect(page.getByRole('list', { name: 'Make it dead' })).toBeVisible();
    const paper = await printed(page, name === 'teaching-tripler' ? 'Letter' : 'A4');
    expectUnclipped(paper);
    const text = paper.words.map((word) => word.text).join(' ');
    for (const title of [
      'Cautions',
      'Parts',
      'Insulation',
      'Layout',
      'Wiring',
      'Assembly',
      'Checks before power',
      'Power up in steps',
      'Power down and make it dead',
    ])
      expect(text).toContain(title);
    // From one joint of the smoothing column to the next as many millimetres as the layout has.
    const { spacing } = layoutOf(design, insulationOf(design, AIR)!)!;
    const joint = (label: string) => {
      // The last one before the wiring diagram, which names nodes as well.
      const before = paper.words.slice(
        0,
        paper.words.findIndex((word) => word.text === 'Wiring'),
      );
      const found = before.filter((word) => word.text === label).at(-1)!;
      return found.x + found.width / 2;
    };
    const pitch = Math.abs(joint('B2') - joint('B1')) / POINTS_PER_MILLIMETRE;
    if (spacing.pitch > 0.06) continue;
    measured += 1;
    expect(Math.abs(pitch / (spacing.pitch * 1e3) - 1)).toBeLessThan(0.01);
  }
  expect(measured).toBeGreaterThanOrEqual(2);
});

test('how it is put together: another medium and arrangement, a spacing that is too tight, and it is saved', async ({
  page,
  request,
}) => {
  const design = { ...demoDesign('flocking-applicator'), build: buildSchema.parse({}) };
  const id = await shelve(request, design);
  await page.goto(`/designs/${id}`);
  await page
    .getByRole('navigation', { name: 'Pages of the design' })
    .getByRole('button', { name: 'Build sheet' })
    .click();
  await expect(page).toHaveURL(/\/build-sheet$/);
  const figures = page.getByRole('table', { name: 'Layout' });
  const expectLayout = async (build: Partial<Design['build']>) => {
    const built = { ...design, build: { ...design.build, ...build } };
    const insulation = insulationOf(built, AIR)!;
    const layout = layoutOf(built, insulation)!;
    await expect(figures.getByRole('row', { name: /From stage to stage/ })).toContainText(
      say(layout.spacing.pitch, 'm'),
    );
    await expect(figures.getByRole('row', { name: /From column to column/ })).toContainText(
      say(layout.spacing.row, 'm'),
    );
    await expect(
      page.getByRole('table', { name: 'Insulation of nodes' }).getByRole('row', { name: /^B8/ }),
    ).toContainText(say(insulation.nodes.find((node) => node.id === 'B8')!.clearanceMetres!, 'm'));
    return layout;
  };
  await expectLayout({});
  await expect(page.getByText('From some 30 kV on')).toBeVisible();
  await pick(page.getByRole('combobox', { name: 'Medium' }), 'Transformer oil');
  await expectLayout({ medium: 'oil' });
  await expect(page.getByText('From some 30 kV on')).toHaveCount(0);
  await pick(page.getByRole('combobox', { name: 'Arrangement' }), 'Boards, one over the other');
  await page.getByLabel('Stages on a board').fill('4');
  await expectLayout({ medium: 'oil', arrangement: 'boards', boardStages: 4 });
  await expect(page.locator('[data-layout-board]')).toHaveCount(2);
  await page.getByLabel('Stage to stage').fill('9');
  const tight = await expectLayout({ medium: 'oil', arrangement: 'boards', boardStages: 4, pitchMetres: 0.009 });
  await expect(page.getByRole('table', { name: 'Too near' }).getByRole('row')).toHaveCount(
    Math.min(20, tight.breaches.length) + 1,
  );
  await page.getByLabel('Stage to stage').fill('-3');
  await expect(page.getByRole('alert').first()).toContainText('above zero');
  await page.getByLabel('Stage to stage').fill('');
  await pick(page.getByRole('combobox', { name: 'Medium' }), 'Another');
  await expect(page.getByText('No layout: some distance')).toBeVisible();
  await expect(page.getByText('There are no figures for this medium here')).toBeVisible();
  await expect(page.getByText(/^Revision \d+, saved/).first()).toBeVisible();
  await page.reload();
  await expect(page.getByRole('combobox', { name: 'Medium' })).toContainText('Another');
});

test('a joint’s distances, ticks that stay with the revision, and what can be taken away', async ({
  page,
  request,
}) => {
  const design = demoDesign('photomultiplier-bias');
  const id = await shelve(request, design);
  await page.goto(pageOf(id));
  await page.locator('[data-layout=screen] [data-joint=B2]').first().click();
  const insulation = insulationOf(design, AIR)!;
  const distances = page.getByRole('table', { name: 'Distances of B2' });
  const near = distancesFrom(layoutOf(design, insulation)!, insulation, design.build.held, 'B2');
  await expect(distances.getByRole('row')).toHaveCount(near.length + 1);
  for (const [at, { node, metres, neededMetres }] of near.entries())
    await expect(distances.getByRole('row').nth(at + 1)).toContainText(
      `${node}${say(metres, 'm')}${say(neededMetres!, 'm')}`,
    );
  const first = page.locator('[data-sheet-step="assembly proof"]').getByRole('checkbox');
  await first.check();
  const kept = async () => (await (await request.get(`/api/designs/${id}/ticks`)).json()) as Tick[];
  await expect.poll(kept).toMatchObject([{ revision: 1, step: 'assembly proof' }]);
  // The line is cut: what is done waits in the browser over a reload, and goes when it is back.
  await page.route('**/ticks', (route) => route.abort());
  const ground = page.locator('[data-sheet-step^="assembly"]').first().getByRole('checkbox');
  await ground.check();
  await first.uncheck();
  await expect(page.locator('[data-build=ticks]')).toContainText('not sent yet');
  await page.reload();
  await expect(ground).toBeChecked();
  await page.unroute('**/ticks');
  await expect(page.locator('[data-build=ticks]')).toHaveCount(0);
  expect(await kept()).toHaveLength(1);
  expect((await kept())[0].step).not.toBe('assembly proof');
  // A later revision begins with none, and can take over what was done.
  await request.put(`/api/designs/${id}`, { data: { baseRevision: 1, design: { ...design, notes: 'Later' } } });
  await page.reload();
  await expect(ground).not.toBeChecked();
  await page.getByRole('button', { name: 'Done in revision 2 as well' }).click();
  await expect(ground).toBeChecked();
  await expect.poll(async () => (await kept()).map(({ revision }) => revision)).toEqual([1, 2]);

  const file = async (name: string) => {
    const coming = page.waitForEvent('download');
    await page.getByRole('button', { name }).click();
    const download = await coming;
    return { name: download.suggestedFilename(), text: await readFile(await download.path(), 'utf8') };
  };
  const parts = await file('Parts, CSV');
  expect(parts.name).toBe('photomultiplier-bias.parts.csv');
  expect(parts.text.split('\n')[0]).toBe('part,each,number,standing,free,missing,cost');
  const markdown = await file('Sheet, Markdown');
  expect(markdown.text).toContain('## Assembly');
  expect(markdown.text).toContain('Revision 2');
});

test('a layout that is larger than paper is printed piece by piece, each no larger than it', async ({
  page,
  request,
}) => {
  const demo = demoDesign('photomultiplier-bias');
  const design = { ...demo, build: { ...demo.build, pitchMetres: 0.12, rowMetres: 0.3 } };
  await page.goto(pageOf(await shelve(request, design)));
  const pieces = page.locator('[data-layout=paper]');
  await expect(pieces).not.toHaveCount(0);
  const boxes = await pieces.evaluateAll((all) =>
    all.map((one) => ({
      wide: parseFloat(one.getAttribute('width')!),
      tall: parseFloat(one.getAttribute('height')!),
      box: one.getAttribute('viewBox')!.split(' ').map(Number),
    })),
  );
  const right = Math.max(...boxes.map(({ box }) => box[0] + box[2]));
  const bottom = Math.max(...boxes.map(({ box }) => box[1] + box[3]));
  expect(bottom).toBeGreaterThan(300);
  expect(right).toBeGreaterThan(240);
  for (const { wide, tall, box } of boxes) {
    expect(wide).toBeLessThanOrEqual(180);
    expect(tall).toBeLessThanOrEqual(225);
    expect(wide).toBeCloseTo(box[2], 6);
    expect(tall).toBeCloseTo(box[3], 6);
  }
  // All of it, and no part twice.
  const area = boxes.reduce((sum, { wide, tall }) => sum + wide * tall, 0);
  expect(area / (right * bottom)).toBeCloseTo(1, 6);
  expectUnclipped(await printed(page, 'A4'));
});

test('a stage is dragged: its distances follow, it is kept as the spacing, and undone', async ({ page, request }) => {
  const design = demoDesign('photomultiplier-bias');
  await page.goto(pageOf(await shelve(request, design)));
  const insulation = insulationOf(design, AIR)!;
  const found = layoutOf(design, insulation)!;
  const joint = page.locator('[data-layout=screen] [data-joint=B2]').first();
  const field = page.getByLabel('Stage to stage');
  await expect(field).toHaveValue('');
  const drag = async (pixels: number) => {
    await joint.scrollIntoViewIfNeeded();
    const box = (await joint.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + pixels, y, { steps: 6 });
  };
  await drag(60);
  await expect(page.locator('[data-build=dragged]')).toContainText('every distance is kept');
  await expect(page.getByRole('table', { name: 'Distances of B2' })).toBeVisible();
  await page.mouse.up();
  await expect(field).not.toHaveValue('');
  const wider = Number(await field.inputValue()) / 1e3;
  expect(wider).toBeGreaterThan(found.spacing.pitch + 1e-3);
  const kept = layoutOf({ ...design, build: { ...design.build, pitchMetres: wider } }, insulation)!;
  const distances = page.getByRole('table', { name: 'Distances of B2' });
  for (const { node, metres } of distancesFrom(kept, insulation, design.build.held, 'B2'))
    await expect(distances.getByRole('row', { name: `${node} ` }).first()).toContainText(say(metres, 'm'));
  await page.keyboard.press('Control+z');
  await expect(field).toHaveValue('');
  // Too near: said as it is dragged, and in table and picture once it is let go.
  await drag(-600);
  await expect(page.locator('[data-build=dragged]')).toContainText('too small');
  await page.mouse.up();
  await expect(page.getByRole('table', { name: 'Too near' })).toBeVisible();
});

test('the netlist leaves from the export menu; a drive that has none says why', async ({ page, request }) => {
  const design = demoDesign('teaching-tripler');
  await page.goto(`/designs/${await shelve(request, design)}`);
  const netlist = netlistOf(design);
  if (!netlist.ok) throw new Error(netlist.reason);
  expect((await exportedFile(page, 'Netlist')).toString('utf8')).toBe(netlist.text);
  const report = (await exportedFile(page, 'Report')).toString('utf8');
  expect(report).toContain(`# ${design.name}`);
  expect(report).toContain('## Margins');

  const bursts = newDesign('In bursts');
  const { driver } = bursts;
  if (driver.kind !== 'measured') throw new Error(driver.kind);
  await page.goto(`/designs/${await shelve(request, { ...bursts, driver: { ...driver, burstHertz: 50 } })}`);
  await page.getByRole('button', { name: 'Export' }).click();
  await page.getByRole('menuitem', { name: 'Netlist' }).click();
  await expect(page.getByText('There is no netlist of this design: a drive that runs in bursts')).toBeVisible();
});
