import type { Page } from '@playwright/test';
import { expect, saved, shelve, stagesField, test } from './fixtures';

const farads = (page: Page) => page.getByLabel('Each capacitor');

/** A tab looked at again, as the browser tells its page. */
const lookAt = (page: Page) => page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));

/** The first tab saves its stages as this revision; the other then types a capacitor over the one before. */
async function clash(page: Page, other: Page, revision: number, stages: string, typed: string): Promise<void> {
  await stagesField(page).fill(stages);
  await saved(page, revision);
  // What the time domain has drawn is a page that listens; what is typed into one just served is lost.
  await expect(other.locator('[data-climb-from=time-domain]')).toBeVisible();
  await farads(other).fill(typed);
  await expect(other.getByRole('dialog', { name: 'Changed in another tab' })).toBeVisible();
  await expect(other.getByRole('dialog')).toContainText('Stages');
  await expect(other.getByRole('dialog')).toContainText('Each capacitor');
}

test('two tabs on one design: the later save is told and keeps its own, theirs, or both', async ({ page, request }) => {
  const id = await shelve(request);
  const other = await page.context().newPage();
  await page.goto(`/designs/${id}`);
  await other.goto(`/designs/${id}`);
  await saved(other, 1);

  await test.step('its own', async () => {
    await clash(page, other, 2, '5', '2n2');
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

  await test.step('a tab without edits of its own is brought up to date when it is looked at again', async () => {
    await lookAt(page);
    await expect(stagesField(page)).toHaveValue('2');
    await expect(farads(page)).toHaveValue('2.2n');
  });

  await test.step('theirs', async () => {
    await clash(page, other, 4, '7', '3n3');
    await other.getByRole('button', { name: 'Keep theirs' }).click();
    await saved(other, 4);
    await expect(stagesField(other)).toHaveValue('7');
    await expect(farads(other)).toHaveValue('2.2n');
  });

  await test.step('both, its own as a copy', async () => {
    await clash(page, other, 5, '6', '4n7');
    await other.getByRole('button', { name: 'Keep both, mine as a copy' }).click();
    await expect(other.getByLabel('Name of the design')).toHaveValue('Shelved, from this tab');
    await expect(farads(other)).toHaveValue('4.7n');
    expect(other.url()).not.toContain(id);
    expect((await (await request.get(`/api/designs/${id}`)).json()).design.ladder).toMatchObject({
      stages: 6,
      capacitor: { farads: 2.2e-9 },
    });
  });
});
