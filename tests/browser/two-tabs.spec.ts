import type { Page } from '@playwright/test';
import { expect, markCautionsRead, saved, shelve, stagesField, test } from './fixtures';

const farads = (page: Page) => page.getByLabel('Each capacitor');

/** Two tabs on one design; the first saves 5 stages, the second then types 2.2 nF over the old revision. */
async function clash(page: Page, id: string): Promise<Page> {
  const other = await page.context().newPage();
  await markCautionsRead(other);
  await page.goto(`/designs/${id}`);
  await other.goto(`/designs/${id}`);
  await saved(other, 1);
  await stagesField(page).fill('5');
  await saved(page, 2);
  await farads(other).fill('2n2');
  await expect(other.getByRole('dialog', { name: 'Changed in another tab' })).toBeVisible();
  await expect(other.getByRole('dialog')).toContainText('ladder.stages');
  await expect(other.getByRole('dialog')).toContainText('ladder.capacitor.farads');
  return other;
}

test('the later save is told and can keep its own', async ({ page, request }) => {
  const id = await shelve(request);
  const other = await clash(page, id);
  await other.getByRole('button', { name: 'Keep mine' }).click();
  await saved(other, 3);
  await other.reload();
  await expect(farads(other)).toHaveValue('2.2n');
  await expect(stagesField(other)).toHaveValue('2');
  const revisions = await (await request.get(`/api/designs/${id}/revisions`)).json();
  expect(
    revisions.map((revision: { design: { ladder: { stages: number } } }) => revision.design.ladder.stages),
  ).toEqual([2, 5, 2]);
});

test('or keep theirs', async ({ page, request }) => {
  const other = await clash(page, await shelve(request));
  await other.getByRole('button', { name: 'Keep theirs' }).click();
  await saved(other, 2);
  await expect(stagesField(other)).toHaveValue('5');
  await expect(farads(other)).toHaveValue('1n');
});

test('or keep both, its own as a copy', async ({ page, request }) => {
  const id = await shelve(request);
  const other = await clash(page, id);
  await other.getByRole('button', { name: 'Keep both, mine as a copy' }).click();
  await expect(other.getByLabel('Name of the design')).toHaveValue('Shelved, from this tab');
  await expect(farads(other)).toHaveValue('2.2n');
  expect(other.url()).not.toContain(id);
  expect((await (await request.get(`/api/designs/${id}`)).json()).design.ladder.stages).toBe(5);
});

test('a tab without edits of its own is brought up to date when it is looked at again', async ({ page, request }) => {
  const id = await shelve(request);
  const other = await page.context().newPage();
  await markCautionsRead(other);
  await other.goto(`/designs/${id}`);
  await page.goto(`/designs/${id}`);
  await stagesField(page).fill('5');
  await saved(page, 2);
  await other.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
  await expect(stagesField(other)).toHaveValue('5');
  await farads(other).fill('2n2');
  await saved(other, 3);
});
