import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { newDesign } from '../../src/core/design/new-design';
import { demoDesign, expect, openLink, shelve, stagesField, test } from './fixtures';

const AXE = readFileSync('node_modules/axe-core/axe.min.js', 'utf8');

type Axe = {
  run: (options: object) => Promise<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }>;
};

/** Serious and critical faults that axe finds in what is shown now, by all its rules or by some. */
async function seriousFaults(page: Page, rules?: readonly string[]): Promise<string[]> {
  await page.evaluate(AXE);
  return page.evaluate(async (runOnly) => {
    const { violations } = await (window as never as { axe: Axe }).axe.run(runOnly ? { runOnly } : {});
    return violations
      .filter((violation) => violation.impact === 'serious' || violation.impact === 'critical')
      .map((violation) => `${violation.id}: ${violation.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
  }, rules);
}

// The dark theme differs in nothing but its colours.
for (const [colorScheme, rules] of [
  ['light', undefined],
  ['dark', ['color-contrast']],
] as const) {
  test(`axe finds no serious fault, ${colorScheme}`, async ({ page, request }) => {
    await page.emulateMedia({ colorScheme });
    const id = await shelve(request, demoDesign('dust-plate-precipitator'));
    await page.goto('/');
    expect(await seriousFaults(page, rules)).toEqual([]);
    await page.getByRole('button', { name: 'New design' }).click();
    expect(await seriousFaults(page, rules)).toEqual([]);
    await page.goto(`/designs/${id}`);
    await page.locator('[data-part=C2]').click();
    await page.getByLabel('Each capacitor').fill('nonsense');
    await page.getByRole('button', { name: /No load/ }).click();
    await page.waitForTimeout(300);
    expect(await seriousFaults(page, rules)).toEqual([]);
    await page.getByRole('button', { name: 'History' }).click();
    await expect(page.getByRole('dialog')).toContainText('created');
    expect(await seriousFaults(page, rules)).toEqual([]);
    await page.goto(`/choose?design=${id}`);
    await page.getByRole('radio', { name: 'Any value' }).click();
    await page.getByLabel('In parallel, at most').fill('none');
    await expect(page.locator('[data-choice]').first()).toBeVisible();
    expect(await seriousFaults(page, rules)).toEqual([]);
  });
}

test('works at 390 px: nothing to scroll sideways, edits take effect', async ({ page, request }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const design = {
    ...demoDesign('flocking-applicator'),
    name: 'A name so long that it cannot fit into one line of a telephone held in one hand',
  };
  await shelve(request, design);
  const overflow = () =>
    page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  await page.goto('/');
  expect(await overflow()).toBe(0);
  await page.getByRole('link', { name: design.name }).click();
  await expect(page.locator('[data-part]').first()).toBeVisible();
  expect(await overflow()).toBe(0);
  await page.locator('[data-part=D3]').click();
  await expect(page.getByRole('region', { name: 'Part D3' })).toBeVisible();
  await openLink(page, 'Far end');
  await page.getByLabel('Load current').fill('20u');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  expect(await overflow()).toBe(0);
  await page.goto(`${page.url().replace('/designs/', '/choose?design=')}`);
  await page.getByRole('radio', { name: 'Any value' }).click();
  await expect(page.locator('[data-choice]').first()).toBeVisible();
  expect(await overflow()).toBe(0);
});

test('fields have one height and one ring; lists open by keyboard, and are the system’s own under a finger', async ({
  page,
  request,
  browser,
  baseURL,
}) => {
  const address = `/designs/${await shelve(request)}`;
  await page.goto(address);
  const topology = page.getByLabel('Topology');
  await topology.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { name: 'Half-wave' })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { name: 'Full-wave' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(topology).toHaveText('Full-wave');
  const heights = await page
    .locator('aside[aria-label=Chain] .field:not(textarea)')
    .evaluateAll((fields) => [...new Set(fields.map((field) => field.getBoundingClientRect().height))]);
  expect(heights).toEqual([28]);
  const ring = async (label: string) => {
    await page.getByLabel(label, { exact: true }).focus();
    return page
      .locator('.field:focus, .field:has(> :focus)')
      .evaluate((field) => `${getComputedStyle(field).outline} ${getComputedStyle(field).outlineOffset}`);
  };
  await page.keyboard.press('Tab');
  expect(await ring('Each capacitor')).toBe(await ring('Topology'));
  expect(await ring('Each capacitor')).toContain('2px');

  const telephone = await browser.newContext({ baseURL, hasTouch: true, isMobile: true });
  await telephone.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
  const held = await telephone.newPage();
  await held.goto(address);
  await held.getByLabel('Topology').and(held.locator('select')).selectOption('Bipolar');
  await expect(held.locator('[data-part]')).toHaveCount(16);
  await telephone.close();
});

test('no two labels of the Climb touch at 1 to 20 stages', async ({ page, request }) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  const base = { ...newDesign('Labels'), load: { kind: 'current' as const, amps: 2e-5 } };
  await page.goto(
    `/designs/${await shelve(request, { ...base, ladder: { ...base.ladder, polarity: 'negative' }, target: { volts: 6000, amps: 2e-5, ripplePeakToPeakFraction: null, of: 'mean' } })}`,
  );
  for (const stages of [0.5, 1, 1.5, 2, 3, 5, 8, 13, 20]) {
    await stagesField(page).fill(String(stages));
    await expect(page.locator('[data-part]')).toHaveCount(stages * 4);
    await page.locator('[data-climb-from=time-domain]').waitFor();
    const touching = () =>
      page.evaluate(() => {
        const boxes = [...document.querySelectorAll('figure svg[role=group] text')].map((text) => ({
          words: text.textContent,
          box: text.getBoundingClientRect(),
        }));
        const tolerance = 2;
        return boxes.flatMap((a, index) =>
          boxes.slice(index + 1).flatMap((b) => {
            const apart =
              a.box.right - tolerance < b.box.left ||
              b.box.right - tolerance < a.box.left ||
              a.box.bottom - 2 * tolerance < b.box.top ||
              b.box.bottom - 2 * tolerance < a.box.top;
            return apart ? [] : [`${a.words} / ${b.words}`];
          }),
        );
      });
    // Labels move to where they belong; there none may touch.
    await expect.poll(touching, { message: `${stages} stages` }).toEqual([]);
  }
});

test('theme is switched and kept', async ({ page }) => {
  await page.emulateMedia({ colorScheme: 'light' });
  await page.goto('/');
  await page.getByRole('button', { name: 'Switch between light and dark' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
});

test.describe('first visit', () => {
  test.use({ firstVisit: true });
  test('the cautions show once, hold everything else back, and can be read again', async ({ page, request }) => {
    const id = await shelve(request);
    await page.goto('/');
    const cautions = page.getByRole('alertdialog', { name: 'Before you begin' });
    await expect(cautions).toContainText('local codes and licensed practice come first');
    await page.keyboard.press('Escape');
    await page.keyboard.press('n');
    await expect(cautions).toBeVisible();
    await expect(page.getByRole('dialog', { name: 'New design' })).toHaveCount(0);
    expect(await seriousFaults(page)).toEqual([]);
    await cautions.getByRole('button', { name: 'I have read this' }).click();
    await page.goto(`/designs/${id}`);
    await expect(page.getByText(/It is not dead until you have measured it/)).toBeVisible();
    await expect(cautions).toHaveCount(0);
    await page.getByRole('button', { name: 'All cautions' }).click();
    await expect(cautions).toBeVisible();
  });
});
