import type { Page } from '@playwright/test';
import { newDesign } from '../../src/core/design/new-design';
import { predict } from '../../src/core/predict/predict';
import { demoDesign, expect, exported, figure, say, shelve, test } from './fixtures';

const STOCK = [
  'kind,name,count,farads,ratedVolts,peakInverseVolts,forwardVolts,averageAmps,price',
  'capacitor,blue disc,24,1n,10 kV,,,,0.70',
  'capacitor,small disc,9,470p,4 kV,,,,0.25',
  'capacitor,broken,4,lots,20k,,,,',
  'diode,long stick,24,,,12k,16,5m,0.40',
  'gizmo,what,1,,,,,,',
  'diode,half,1.5,,,1k,,,',
];

const csv = (lines: string[]) => ({ name: 'parts.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) });

/** Takes the stock in; what is looked at by its address must wait until that has arrived. */
async function fillDrawer(page: Page): Promise<void> {
  await page.goto('/drawer');
  const arrived = page.waitForResponse('**/api/drawer');
  await page.getByLabel('CSV file').setInputFiles(csv(STOCK));
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('list', { name: 'Wrong lines' }).getByRole('listitem')).toHaveCount(3);
  await dialog.getByRole('button', { name: 'Take in the 3 good lines' }).click();
  await expect(page.getByLabel('How many of blue disc')).toHaveValue('24');
  await arrived;
}

/** Waits for the search of what is asked now. */
const searched = (page: Page) =>
  expect(page.getByRole('button', { name: 'Search again' })).toBeVisible({ timeout: 20_000 });

async function askFor(page: Page, fields: Record<string, string>): Promise<void> {
  for (const [label, text] of Object.entries(fields)) await page.getByLabel(label, { exact: true }).fill(text);
}

test('from a drawer file with bad lines to a rated design on the shelf, its stock taken', async ({ page }) => {
  await fillDrawer(page);
  await page.getByRole('link', { name: 'Choose' }).click();
  await expect(page).toHaveURL('/choose');
  await askFor(page, { 'Output, mean': '16k', Current: '50u', 'Ripple, p-p, at most': '2' });
  await expect(page.getByRole('status').first()).toContainText(
    'candidates meet the target of 16.0 kV at 50.0 µA, ripple up to 2.0 %',
  );
  await searched(page);
  const first = page.locator('[data-choice]').first();
  await expect(first).toHaveAttribute('aria-pressed', 'true');
  await expect(first).toContainText('Limiting factor');
  const card = page.getByRole('region', { name: 'This choice' });
  // The engine looks at the best by itself.
  await expect(card.getByText('it still reaches the target')).toBeVisible({ timeout: 15_000 });
  const form = await card.getByRole('heading').innerText();
  await card.getByRole('button', { name: 'Make it a design' }).click();
  await expect(page).toHaveURL(/\/designs\//);
  const design = await exported(page);
  const whole = predict(design);
  expect(design.ladder.capacitor).toMatchObject({ farads: 1e-9, ratedVolts: 10e3 });
  expect(whole.target!.met).toBe(true);
  expect(whole.findings.filter(({ severity }) => severity === 'stop')).toEqual([]);
  expect(await figure(page, 'outputMeanVolts')).toContain(say(whole.output.meanVolts!, 'V', 4));
  expect(design.notes).toContain(form);
  expect(design.notes).toContain('Limiting factor');
  await page.getByRole('link', { name: 'Shelf' }).click();
  await expect(page.getByRole('link', { name: design.name })).toBeVisible();
  await page.getByRole('link', { name: 'Drawer' }).click();
  const taken = whole.capacitors.length * design.ladder.capacitor.series * design.ladder.capacitor.parallel;
  await expect(page.locator('[data-row]').filter({ hasText: 'blue disc' })).toContainText(`${24 - taken} free`);
});

test('another row is looked at by name; a choice goes into the design it started from, and history has the one before', async ({
  page,
  request,
}) => {
  await fillDrawer(page);
  const id = await shelve(request, {
    ...newDesign('Fence tester'),
    notes: 'Built on a plank.',
    target: { volts: 5000, amps: 20e-6, ripplePeakToPeakFraction: null, of: 'mean' },
    ladder: { ...newDesign('Fence tester').ladder, polarity: 'negative' },
  });
  await page.goto(`/designs/${id}`);
  await page.getByRole('link', { name: 'Choose what to build' }).click();
  await expect(page).toHaveURL(/\/choose\?design=/);
  await expect(page.getByRole('textbox', { name: 'Output, mean' })).toHaveValue('-5k');
  await expect(page.getByText('1.00 kV peak')).toBeVisible();
  await page.getByRole('radio', { name: 'All listed' }).click();
  await page.getByLabel('Bipolar').check();
  await searched(page);
  const second = page.locator('[data-choice]').nth(1);
  await second.click();
  await expect(second).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Put it into Fence tester' }).click();
  await expect(page).toHaveURL(`/designs/${id}`);
  const design = await exported(page);
  expect(design.name).toBe('Fence tester');
  expect(design.notes).toMatch(/^Built on a plank\.\n\nChosen for −5\.00/);
  expect(predict(design).target!.met).toBe(true);
  await page.keyboard.press('h');
  await expect(page.getByRole('dialog')).toContainText(/Each capacitor .* to /);
});

test('what the drawer cannot reach is said, with the nearest and the one purchase that would', async ({ page }) => {
  await fillDrawer(page);
  await page.goto('/choose');
  await askFor(page, { 'Output, mean': '70k', Current: '20u' });
  await searched(page);
  await expect(page.getByRole('status').first()).toContainText('Nothing here meets the target of 70.0 kV');
  await expect(page.locator('[data-choice]').first()).toContainText('short of the target');
  await askFor(page, { 'Output, mean': '16k', Current: '3m' });
  await page.getByLabel('Peak', { exact: true }).fill('3k');
  await searched(page);
  const purchase = page.getByRole('region', { name: 'One purchase' });
  await expect(purchase).toContainText(/\d+ more of blue disc/);
  await purchase.getByRole('button', { name: 'Select it' }).first().click();
  await expect(page.getByRole('region', { name: 'This choice' })).toContainText('to buy');
});

test('a field that does not read keeps its text and its reason; the search goes on with the last good value', async ({
  page,
}) => {
  await page.goto('/choose');
  await expect(page.getByText('The drawer is empty')).toBeVisible();
  await page.getByRole('radio', { name: 'Any value' }).click();
  await searched(page);
  await askFor(page, { 'Output, mean': 'high' });
  await expect(page.getByRole('alert').filter({ hasText: 'is not a number' })).toBeVisible();
  await askFor(page, { 'Stages, from': '20' });
  await expect(page.getByRole('alert').filter({ hasText: 'At least as many' })).toBeVisible();
  // The last topology cannot be taken away.
  await page.getByLabel('Half-wave', { exact: true }).click();
  await expect(page.getByLabel('Half-wave', { exact: true })).toBeChecked();
  await expect(page.getByRole('alert').filter({ hasText: 'at least one topology' })).toBeVisible();
  await expect(page.locator('[data-choice]').first()).toBeVisible();
  // What was asked outlives a reload.
  await askFor(page, { 'Output, mean': '12k5' });
  await page.reload();
  await expect(page.getByLabel('Output, mean')).toHaveValue('12.5k');
});

test('a long search is stopped and begun again', async ({ page }) => {
  await page.goto('/choose');
  await page.getByRole('radio', { name: 'Any value' }).click();
  await page.getByLabel('May be turned down').check();
  await page.getByLabel('Frequency may be').check();
  await page.getByLabel('Full-wave').check();
  await page.getByLabel('In parallel, at most').fill('12');
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('status').first()).toContainText('Stopped');
  await page.getByLabel('In parallel, at most').fill('1');
  await page.getByLabel('May be turned down').uncheck();
  await page.getByLabel('Frequency may be').uncheck();
  await searched(page);
  await expect(page.getByRole('status').first()).toContainText('candidates evaluated');
});

test('what is chosen for the demo flocking applicator is what the core chooses', async ({ page, request }) => {
  const id = await shelve(request, demoDesign('flocking-applicator'));
  await page.goto(`/choose?design=${id}`);
  await page.getByRole('radio', { name: 'Any value' }).click();
  await page.getByLabel('Stages, from').fill('7');
  await page.getByLabel('to', { exact: true }).fill('8');
  await searched(page);
  const first = page.locator('[data-choice]').first();
  await page.getByRole('columnheader', { name: 'Parts' }).getByRole('button').click();
  await expect(page.getByRole('columnheader', { name: 'Parts' })).toHaveAttribute('aria-sort', 'ascending');
  await first.click();
  await page.getByRole('button', { name: 'Make it a design' }).click();
  await expect(page).toHaveURL(/\/designs\/(?!.*choose)/);
  const design = await exported(page);
  expect(design.driver.kind).toBe('resonant-push-pull');
  const { target, findings } = predict(design);
  expect(target!.met).toBe(true);
  expect(findings.filter(({ severity }) => severity === 'stop')).toEqual([]);
});
