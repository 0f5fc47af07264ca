import type { Page } from '@playwright/test';
import { expect, saved, shelve, stagesField, test } from './fixtures';

const farads = (page: Page) => page.getByLabel('Each capacitor');

/** Cut off from the server, a tab neither saves nor hears of what others save. */
const cutOff = (page: Page) => page.route('**/api/designs/**', (route) => route.abort());
const backAgain = async (page: Page) => {
  await page.unroute('**/api/designs/**');
  await page.getByRole('button', { name: 'Try now' }).click();
};

/** The first tab saves its stages as this revision; the other, cut off meanwhile, types others. */
async function clash(page: Page, other: Page, revision: number, stages: string, typed: string): Promise<void> {
  // What the time domain has drawn is a page that listens; what is typed into one just served is lost.
  await expect(other.locator('[data-climb-from=time-domain]')).toBeVisible();
  await cutOff(other);
  await stagesField(page).fill(stages);
  await saved(page, revision);
  await stagesField(other).fill(typed);
  await expect(other.getByText('Not saved: the server cannot be reached')).toBeVisible();
  await backAgain(other);
  await expect(other.getByRole('dialog', { name: 'Changed in another tab' })).toBeVisible();
  await expect(other.getByRole('dialog')).toContainText('Stages');
}

test('two tabs on one design: the later save is told and keeps its own, theirs, or both', async ({ page, request }) => {
  const id = await shelve(request);
  const other = await page.context().newPage();
  await page.goto(`/designs/${id}`);
  await other.goto(`/designs/${id}`);
  await saved(other, 1);

  await test.step('its own', async () => {
    await clash(page, other, 2, '5', '3');
    await other.getByRole('button', { name: 'Keep mine' }).click();
    await saved(other, 3);
    await other.reload();
    await expect(stagesField(other)).toHaveValue('3');
    const revisions = await (await request.get(`/api/designs/${id}/revisions`)).json();
    expect(
      revisions.map((revision: { design: { ladder: { stages: number } } }) => revision.design.ladder.stages),
    ).toEqual([3, 5, 2]);
  });

  await test.step('a tab without edits of its own follows', () => expect(stagesField(page)).toHaveValue('3'));

  await test.step('theirs', async () => {
    await clash(page, other, 4, '7', '4');
    await other.getByRole('button', { name: 'Keep theirs' }).click();
    await saved(other, 4);
    await expect(stagesField(other)).toHaveValue('7');
  });

  await test.step('both, its own as a copy', async () => {
    await clash(page, other, 5, '6', '2.5');
    await other.getByRole('button', { name: 'Keep both, mine as a copy' }).click();
    await expect(other.getByLabel('Name of the design')).toHaveValue('Shelved, from this tab');
    await expect(stagesField(other)).toHaveValue('2.5');
    expect(other.url()).not.toContain(id);
    expect((await (await request.get(`/api/designs/${id}`)).json()).design.ladder.stages).toBe(6);
  });
});

test('two tabs that changed other fields: both changes are kept without a question', async ({ page, request }) => {
  const id = await shelve(request);
  const other = await page.context().newPage();
  await page.goto(`/designs/${id}`);
  await other.goto(`/designs/${id}`);
  await expect(other.locator('[data-climb-from=time-domain]')).toBeVisible();
  await cutOff(other);
  await farads(other).fill('2n2');
  await expect(other.getByText('Not saved: the server cannot be reached')).toBeVisible();
  await stagesField(page).fill('5');
  await saved(page, 2);
  await backAgain(other);
  await saved(other, 3);
  await expect(other.getByRole('dialog')).toHaveCount(0);
  for (const tab of [page, other]) {
    await expect(stagesField(tab)).toHaveValue('5');
    await expect(farads(tab)).toHaveValue('2.2n');
  }
});

test('a page in sight follows what another browser saves', async ({ page, request }) => {
  const id = await shelve(request);
  await page.goto(`/designs/${id}`);
  await expect(page.locator('[data-climb-from=time-domain]')).toBeVisible();
  const { design } = await (await request.get(`/api/designs/${id}`)).json();
  await request.put(`/api/designs/${id}`, {
    data: { baseRevision: 1, design: { ...design, ladder: { ...design.ladder, stages: 6 } } },
  });
  await expect(stagesField(page)).toHaveValue('6');
});
