import { readFile } from 'node:fs/promises';
import type { Locator, Page } from '@playwright/test';
import sharp from 'sharp';
import { insulationOf } from '../../src/core/build/insulation';
import { airSchema } from '../../src/core/load/air/air';
import { demoDesign, expect, shelve, test } from './fixtures';

type Picture = { name: string; bytes: Buffer; text: string };

async function taken(page: Page, menu: Locator, kind: 'SVG' | 'PNG'): Promise<Picture> {
  await menu.click();
  const coming = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: kind }).click();
  const download = await coming;
  const bytes = await readFile(await download.path());
  return { name: download.suggestedFilename(), bytes, text: bytes.toString('utf8') };
}

/** What an SVG document says, read by a browser that knows nothing of this application. */
const readSvg = (page: Page, text: string) =>
  page.evaluate((source) => {
    const svg = new DOMParser().parseFromString(source, 'image/svg+xml');
    return {
      isSound: svg.querySelector('parsererror') === null && svg.documentElement.tagName === 'svg',
      title: svg.querySelector('title')?.textContent ?? '',
      words: [...svg.querySelectorAll('text')].map((one) => one.textContent ?? ''),
      strokes: svg.querySelectorAll('path, line, polyline').length,
      colours: [...svg.querySelectorAll('[fill], [stroke]')].flatMap((one) =>
        ['fill', 'stroke'].flatMap((paint) => one.getAttribute(paint) ?? []),
      ),
    };
  }, text);

/** A colour that every program which reads SVG knows. */
const FIXED = /^(none|#[0-9a-f]{3,6}|rgb\(\d+, ?\d+, ?\d+\)|url\(#.*\))$/i;

async function expectSvg(page: Page, { text }: Picture, title: string): Promise<string[]> {
  const { isSound, title: told, words, strokes, colours } = await readSvg(page, text);
  expect(isSound).toBe(true);
  expect(told).toBe(title);
  expect(strokes).toBeGreaterThan(3);
  for (const colour of colours) expect(colour).toMatch(FIXED);
  expect(text).not.toMatch(/var\(|class=/);
  return words;
}

test('every chart of a design leaves as SVG that stands by itself, and as PNG, as it is on screen', async ({
  page,
  request,
}) => {
  const design = demoDesign('flocking-applicator');
  await page.goto(`/designs/${await shelve(request, design)}`);
  const menu = page.getByRole('button', { name: 'Save the picture: the chart' });
  const axes = {
    'Load line': ['load current', 'output, negative', 'target'],
    Stages: ['stages', 'without load', 'droop', 'most at'],
    Waveforms: ['time in the period'],
    'Charge-up': ['time from switch-on'],
    Discharge: ['time after switch-off', '60'],
    Tolerance: ['output, mean', 'share of samples'],
  };
  for (const [tab, said] of Object.entries(axes)) {
    await page.getByRole('tab', { name: tab }).click();
    await expect(page.locator('[role=tabpanel] canvas').first()).toBeVisible();
    const value = tab.toLowerCase().replace(' ', '-');
    const picture = await taken(page, menu, 'SVG');
    expect(picture.name).toBe(`flocking-applicator.${value}.svg`);
    const words = (await expectSvg(page, picture, `${design.name}, ${value}`)).join(' | ');
    for (const word of said) expect(words).toContain(word);
    expect(picture.text).toContain('Spline Sans Mono');
  }
  const shown = (await page.locator('[role=tabpanel] canvas').first().boundingBox())!;
  const png = await taken(page, menu, 'PNG');
  const { width, height, data } = await sharp(png.bytes)
    .raw()
    .toBuffer({ resolveWithObject: true })
    .then(({ data, info }) => ({ ...info, data }));
  expect(Math.abs(width - 2 * shown.width)).toBeLessThanOrEqual(3);
  expect(Math.abs(height - 2 * shown.height)).toBeLessThanOrEqual(3);
  // Not blank, and on paper: the corner has the page's own colour.
  const page0 = await page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  expect(`rgb(${data[0]}, ${data[1]}, ${data[2]})`).toBe(page0);
  expect(
    new Set(Array.from({ length: 4000 }, (_, at) => data[Math.floor((at * data.length) / 4000)])).size,
  ).toBeGreaterThan(4);
});

test('waveforms are named in their picture, and what is magnified is taken as it is', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, demoDesign('teaching-tripler'))}`);
  await page.locator('[data-climb-from=time-domain]').waitFor();
  await page.getByRole('tab', { name: 'Waveforms' }).click();
  const chart = page.locator('[role=tabpanel] canvas').first();
  const menu = page.getByRole('button', { name: 'Save the picture: the chart' });
  const whole = await expectSvg(page, await taken(page, menu, 'SVG'), 'Low-voltage teaching tripler, waveforms');
  const box = (await chart.boundingBox())!;
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 0.4 * box.width, box.y + 0.5 * box.height);
  await page.mouse.down();
  await page.mouse.move(box.x + 0.6 * box.width, box.y + 0.6 * box.height, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(page.getByRole('button', { name: 'Whole period' })).toBeVisible();
  const part = await expectSvg(page, await taken(page, menu, 'SVG'), 'Low-voltage teaching tripler, waveforms');
  const numbers = (words: string[]) => words.map(Number).filter((value) => Number.isFinite(value));
  expect(numbers(part)).not.toEqual(numbers(whole));
});

test('layout and wiring leave from a menu at each, at their true size', async ({ page, request }) => {
  const design = demoDesign('photomultiplier-bias');
  await page.goto(`/designs/${await shelve(request, design)}/build-sheet`);
  const { network } = insulationOf(design, airSchema.parse({}))!.potentials;
  for (const what of ['Layout', 'Wiring']) {
    const menu = page.getByRole('button', { name: `Save the picture: ${what}` });
    const svg = await taken(page, menu, 'SVG');
    expect(svg.name).toBe(`photomultiplier-bias.${what.toLowerCase()}.svg`);
    const words = await expectSvg(page, svg, `${design.name}, ${what.toLowerCase()}`);
    for (const part of [...network.capacitors, ...network.diodes]) expect(words).toContain(part.id);
    const [, wide] = /width="([\d.]+)mm"/.exec(svg.text)!;
    const { width } = await sharp((await taken(page, menu, 'PNG')).bytes).metadata();
    expect(Math.abs(width - (2 * Number(wide) * 96) / 25.4)).toBeLessThan(2);
  }
});

test('the choices of a search leave as a picture', async ({ page, request }) => {
  await page.goto(`/choose?design=${await shelve(request, demoDesign('teaching-tripler'))}`);
  await page.getByRole('radio', { name: 'Any value' }).click();
  await expect(page.getByRole('img', { name: /choices, / })).toBeVisible();
  const picture = await taken(page, page.getByRole('button', { name: 'Save the picture: choices' }), 'SVG');
  expect(picture.name).toMatch(/^choices\..+\.svg$/);
  const words = await expectSvg(page, picture, 'Stored energy over parts');
  expect(words).toContain('parts');
});
