import type { Page } from '@playwright/test';
import { newDesign } from '../../src/core/design/new-design';
import { driverOfKind } from '../../src/core/drive/driver-kinds';
import type { Design } from '../../src/core/design/design-schema';
import { driveOf } from '../../src/core/operating/ladder-of-design';
import { predict } from '../../src/core/predict/predict';
import { benchOf, calculateCore, calculateSecondary } from '../../src/core/winding/bench';
import { demoDesign, expect, exported, openLink, pick, say, shelve, test } from './fixtures';

const plain = newDesign('On the bench');
const started: Design = { ...plain, ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) };
/** Ten turns make the sums easy. */
const pushPull: Design = {
  ...started,
  transformer: { ...started.transformer!, primaryTurns: 10, secondaryTurns: 140 },
};

const calculated = async (page: Page, name: string) =>
  (await page.locator(`[data-calculated=${name}]`).innerText()).replace(/\s+/g, ' ').trim();
const turnTo = async (page: Page, name: string) => {
  await page.getByRole('tab', { name, exact: true }).click();
  // Pages have fields of the same name: typed too early, a value lands on the page before.
  await expect(page.getByRole('tabpanel', { name, exact: true })).toBeVisible();
};
const closeBench = async (page: Page) => {
  await page.getByRole('navigation', { name: 'Pages of the design' }).getByRole('button', { name: 'Design' }).click();
  await expect(page.getByRole('heading', { name: 'Transformer bench' })).toHaveCount(0);
};

const around = (design: Design) => benchOf(design, predict(design))!;

test('a ratio test names the bad section; a good one goes into the design and is undone', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, pushPull)}`);
  await openLink(page, 'Transformer');
  await page.getByRole('button', { name: 'Transformer bench' }).click();
  await page.getByLabel('Fed into the primary, RMS').fill('0.2');
  for (const volts of ['4', '2.1', '4.1']) {
    await page.getByRole('button', { name: 'Add a section' }).click();
    await page
      .getByLabel(/^Section \d reads/)
      .last()
      .fill(volts);
  }
  await page.getByLabel('All in series, RMS').fill('8.1');
  await expect(page.locator('[data-finding=section-low]')).toContainText('Section 2');
  await expect(page.locator('[data-finding=section-falls-out]')).toContainText('shorted');
  await page.getByLabel('Section 2 reads, RMS').fill('4.05');
  await page.getByLabel('All in series, RMS').fill('12.1');
  await expect(page.locator('[data-finding=section-low]')).toHaveCount(0);
  expect(await calculated(page, 'ratio')).toBe('60.50');
  await page.getByRole('button', { name: 'Use it' }).first().click();
  await closeBench(page);
  await expect(page.getByLabel('Secondary turns')).toHaveValue('605');
  const taken = await exported(page);
  expect(taken.winding?.ratio).toMatchObject({ fedVolts: 0.2, readings: [4, 4.05, 4.1], seriesVolts: 12.1 });
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Secondary turns')).toHaveValue('140');
  expect((await exported(page)).winding?.ratio.seriesVolts).toBe(12.1);
});

test('core, secondary and resonance show what the core calculates, and results are taken', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request, { ...pushPull, name: 'Wound' })}`);
  await page.keyboard.press('b');
  await turnTo(page, 'Core and primary');
  await page.getByLabel('Path of the flux').fill('110');
  await page.getByLabel('Gap in all').fill('0.4');
  await turnTo(page, 'Secondary');
  await page.getByLabel('Wire, bare').fill('0.1');
  await page.getByLabel('Pots in series').fill('4');
  await page.getByLabel('Width of each pot').fill('2');
  await closeBench(page);
  const design = await exported(page);
  expect(design.winding).toMatchObject({ core: { gapMetres: 0.4e-3 }, secondary: { pots: 4 } });
  expect(design.transformer!.corePathMetres).toBe(0.11);
  await page.keyboard.press('b');
  await turnTo(page, 'Core and primary');
  const core = calculateCore(design.winding!, around(design));
  expect(await calculated(page, 'least-turns')).toBe(String(core.leastTurns));
  expect(await calculated(page, 'core-henries')).toBe(say(core.primaryHenries!, 'H'));
  await turnTo(page, 'Secondary');
  const { layers, rings } = calculateSecondary(design.winding!, around(design));
  expect(await calculated(page, 'pot-volts')).toBe(say(layers!.voltsPerPot, 'V'));
  expect(await calculated(page, 'secondary-ohms')).toBe(say(layers!.ohms, 'Ω'));
  await page.getByRole('button', { name: 'Use it' }).first().click();
  await turnTo(page, 'Resonance');
  expect(await calculated(page, 'rings-with-ladder')).toBe(say(rings!.withLadderHertz, 'Hz'));
  await page.getByLabel('Capacitor across it').fill('470n');
  await page.getByLabel('Rings at').fill('40k');
  // 1 / ((2 pi 40 kHz)^2 470 nF), by hand.
  expect(await calculated(page, 'resonant-henries')).toBe('33.7 µH');
  await closeBench(page);
  expect((await exported(page)).transformer!.secondaryOhms).toBeCloseTo(Number(layers!.ohms.toPrecision(3)), 9);
});

test('pins are typed, a bad line is kept with its reason, and a blind meter stops the design', async ({
  page,
  request,
}) => {
  const id = await shelve(request, { ...pushPull, name: 'Unmarked' });
  // A link leads to the page.
  await page.goto(`/designs/${id}/transformer/pins`);
  const line = page.getByLabel('Readings between pins');
  await line.fill('1-2 0.4; 2-3 0.3; 1-3 0.7; HV-8 310; HV-1 open');
  await line.press('Enter');
  expect(await calculated(page, 'primary-pins')).toBe('700 mΩ');
  await expect(page.getByText('High-voltage return: 8')).toBeVisible();
  expect(await calculated(page, 'rectifier')).toBe('no');
  await line.fill('4-5');
  await line.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'two pins and ohms' })).toBeVisible();
  await expect(line).toHaveValue('4-5');
  await page.getByRole('button', { name: 'Remove HV to 8' }).click();
  await expect(page.locator('[data-finding=meter-blind]')).toBeVisible();
  await pick(page.getByLabel('30 V dc through 100 kΩ'), 'Conducts one way');
  expect(await calculated(page, 'rectifier')).toBe('yes');
  await page.getByRole('button', { name: 'Note it in the design' }).click();
  await closeBench(page);
  await expect(page.getByText(/^Revision \d+, saved/)).toBeVisible();
  await page.goto(`/designs/${id}`);
  await expect(page.locator('[data-finding=rectifier-inside]')).toContainText('Stop');
  const kept = await exported(page);
  expect(kept.transformer!.rectifierInside).toBe(true);
  expect(kept.winding!.pins.readings).toHaveLength(4);
});

test('Tab leads from reading to reading, and the last can be removed by keyboard', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, pushPull)}/transformer`);
  for (let section = 0; section < 2; section += 1) await page.getByRole('button', { name: 'Add a section' }).click();
  await page.getByLabel('Section 1 reads, RMS').focus();
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('Section 2 reads, RMS')).toBeFocused();
  await page.getByRole('button', { name: 'Remove the last' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Section 2 reads, RMS')).toHaveCount(0);
});

test('the back button closes the bench and leaves the design', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, pushPull)}`);
  await page.keyboard.press('b');
  const bench = page.getByRole('heading', { name: 'Transformer bench' });
  await expect(bench).toBeVisible();
  await expect(page).toHaveURL(/\/transformer\/ratio$/);
  await turnTo(page, 'Pins');
  await expect(page).toHaveURL(/\/transformer\/pins$/);
  await page.goBack();
  await expect(bench).toHaveCount(0);
  await expect(page.getByLabel('Name of the design')).toBeVisible();
});

test('a meter’s reading becomes peaks, both ways, with what is wrong with it', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, { ...plain, name: 'Metered' })}`);
  await openLink(page, 'Driver');
  await page.getByRole('button', { name: 'Read with a meter' }).click();
  const meter = page.getByRole('dialog', { name: 'Meter' });
  await pick(meter.getByLabel('Kind'), 'True RMS, ac');
  await meter.getByLabel('Probe divides by').fill('1000');
  await meter.getByRole('button', { name: 'More' }).click();
  await meter.getByLabel('Reads 0.71 at').fill('20k');
  // 1 kV peak at 20 kHz, the band's edge: 0.7071 V behind the probe, and 0.7071 of that shown.
  await expect(meter.locator('[data-meter=would-show]')).toHaveText(/^49\d\.\d mV|^500\.\d mV/);
  await expect(meter.locator('[data-finding=meter-too-slow]')).toBeVisible();
  await meter.getByLabel('Reads 0.71 at').fill('');
  await meter.getByLabel('And capacitance').fill('0');
  await meter.getByLabel('It shows').fill('1.5');
  await expect(meter.locator('[data-meter=peaks]')).toContainText('2.12');
  await meter.getByRole('button', { name: 'Use them' }).click();
  await page.keyboard.press('Escape');
  const { driver } = await exported(page);
  // RMS times root 2, a thousandfold; 10 MΩ behind 1 kΩ takes a ten-thousandth.
  expect(driver.kind === 'measured' && driver.positivePeakVolts / (1500 * Math.SQRT2)).toBeCloseTo(1.0001, 4);
  // The meter is the workshop's: it is there again on another design.
  await page.goto(`/designs/${await shelve(request, { ...plain, name: 'Another' })}`);
  await openLink(page, 'Driver');
  await page.getByRole('button', { name: 'Read with a meter' }).click();
  await expect(page.getByRole('dialog', { name: 'Meter' }).getByLabel('Probe divides by')).toHaveValue('1000');
});

test('a thinner primary takes its margin at once, on every screen that shows it', async ({ page, request }) => {
  const id = await shelve(request, demoDesign('flocking-applicator'));
  await page.goto(`/designs/${id}`);
  const weakest = page.locator('[data-margin]').first();
  const before = await weakest.innerText();
  await page.keyboard.press('b');
  await turnTo(page, 'Core and primary');
  await page.getByLabel('Strands in parallel').fill('1');
  await page.getByLabel('Wire, bare').fill('0.1');
  await closeBench(page);
  const { margins, smallestMargin } = predict(await exported(page));
  expect(margins[0].id).toBe('primaryCurrent');
  expect(smallestMargin!).toBeLessThan(-0.9);
  await expect(weakest).toHaveAttribute('data-margin', 'primaryCurrent');
  await expect(weakest).toContainText(say(smallestMargin!, '%', 2));
  expect(await weakest.innerText()).not.toBe(before);
  await page.getByRole('link', { name: 'Shelf' }).click();
  await expect(page.getByRole('row', { name: /Flocking/ })).toContainText(say(smallestMargin!, '%', 2));
});
