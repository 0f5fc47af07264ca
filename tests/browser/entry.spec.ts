import type { Page } from '@playwright/test';
import { expect, openLink, shelve, stagesField, test } from './fixtures';

/** Makes another pass phrase at the machine itself. */
async function anotherPassPhrase(page: Page): Promise<string> {
  await page.goto('/telephone');
  const shown = page.getByRole('status', { name: 'Pass phrase' });
  await expect(page.getByRole('heading', { name: 'Pass phrase' })).toBeVisible();
  // One made before this start, or by another test, is not shown.
  const before = (await shown.count()) === 0 ? null : await shown.innerText();
  await page.getByRole('button', { name: 'Make another pass phrase…' }).click();
  await page.getByRole('button', { name: 'Make another', exact: true }).click();
  await expect(shown).toHaveText(/^(\w+ ){4}\w+$/);
  if (before !== null) await expect(shown).not.toHaveText(before);
  return shown.innerText();
}

const field = (page: Page) => page.getByLabel('Pass phrase');

async function enter(page: Page, passPhrase: string): Promise<void> {
  await field(page).fill(passPhrase);
  await page.getByRole('button', { name: 'Enter' }).click();
}

test('a telephone enters by the pass phrase, goes where it wanted, and works there as anybody', async ({
  page,
  telephone,
  stage,
}) => {
  const passPhrase = await anotherPassPhrase(page);
  await expect(page.getByRole('img', { name: `Code to scan: ${stage.networkAddress}` })).toBeVisible();

  await telephone.goto('/drawer');
  await expect(telephone.getByRole('heading', { name: 'Enter the pass phrase' })).toBeVisible();
  await enter(telephone, 'not these five words here');
  await expect(telephone.getByRole('alert').filter({ hasText: 'not the pass phrase' })).toBeVisible();
  await expect(field(telephone)).toHaveValue('not these five words here');
  // As a telephone writes it by itself.
  await enter(telephone, `${passPhrase[0].toUpperCase()}${passPhrase.slice(1)} `);
  await expect(telephone).toHaveURL(`${stage.networkAddress}/drawer`);
  expect(await telephone.evaluate(() => window.isSecureContext)).toBe(true);

  await telephone.goto('/');
  await telephone.getByRole('button', { name: 'New design' }).first().click();
  await telephone.getByRole('textbox', { name: 'Name' }).fill('From the bench');
  await telephone.getByRole('button', { name: 'Create' }).click();
  await expect(telephone).toHaveURL(/\/designs\//);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'From the bench' })).toBeVisible();

  await telephone.goto('/telephone');
  await expect(telephone.getByRole('status', { name: 'Pass phrase' })).toHaveCount(0);
  await expect(telephone.getByText('Another is made on this page at the machine itself.')).toBeVisible();
  await telephone.getByRole('button', { name: 'Ask this browser again' }).click();
  await expect(field(telephone)).toBeVisible();
  await telephone.goto('/');
  await expect(field(telephone)).toBeVisible();
});

test('whose session ends amid the work is told so, loses nothing, and goes on once it has entered again', async ({
  page,
  request,
  telephone,
}) => {
  const id = await shelve(request);
  await telephone.goto(`/designs/${id}`);
  await enter(telephone, await anotherPassPhrase(page));
  await expect(telephone.locator('[data-climb-from=time-domain]')).toBeVisible();

  const passPhrase = await anotherPassPhrase(page);
  await openLink(telephone, 'Ladder');
  await stagesField(telephone).fill('5');
  await expect(telephone.getByRole('alert').filter({ hasText: 'needs the pass phrase' })).toContainText(
    'kept in this browser',
  );
  const other = await telephone.context().newPage();
  await other.goto('/');
  await enter(other, passPhrase);
  await expect(field(other)).toHaveCount(0);
  await expect.poll(async () => (await (await request.get(`/api/designs/${id}`)).json()).design.ladder.stages).toBe(5);
  await expect(telephone.getByRole('alert').filter({ hasText: 'Not saved' })).toHaveCount(0);
});
