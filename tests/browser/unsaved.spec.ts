import type { APIRequestContext, Page } from '@playwright/test';
import { newDesign } from '../../src/core/design/new-design';
import { expect, saved, shelve, stagesField, test, written } from './fixtures';
import type { Line } from './line';

const lively = (page: Page) => expect(page.locator('[data-climb-from=time-domain]')).toBeVisible();
const offer = (page: Page) => page.getByRole('status').filter({ hasText: 'not saved' });

/** Opens a new design in a page of its own, cuts it off once it listens, and lets it type there until it says what is kept. */
async function typeCutOff(
  page: Page,
  request: APIRequestContext,
  line: Line,
  fields: Record<string, string>,
): Promise<string> {
  const id = await shelve(request);
  const first = await page.context().newPage();
  await first.goto(`${line.address}/designs/${id}`);
  await lively(first);
  line.cut();
  for (const [name, value] of Object.entries(fields))
    await first.getByRole('textbox', { name, exact: true }).fill(value);
  await expect(first.getByRole('alert').filter({ hasText: 'kept in this browser' })).toBeVisible();
  await closeCutOff(first, line);
  return id;
}

/** Closes a page with the line cut. What it sends as it closes goes out a moment later, and must not find the line restored. */
async function closeCutOff(page: Page, line: Line): Promise<void> {
  const before = line.refused();
  await page.close();
  await expect.poll(line.refused).toBeGreaterThan(before);
  line.restore();
}

test('what was typed without a server is offered after the page was closed, looked at and taken', async ({
  page,
  request,
  line,
}) => {
  const id = await typeCutOff(page, request, line, { Stages: '7', 'Each capacitor': '3n3' });

  await page.goto(line.address);
  await expect(page.getByText('2 changes')).toBeVisible();
  await page.goto(`${line.address}/designs/${id}`);
  await expect(offer(page)).toContainText(/^2 changes from \d\d:\d\d were not saved/);
  await page.getByRole('button', { name: 'Look' }).click();
  const dialog = page.getByRole('dialog', { name: 'Not saved' });
  await expect(dialog).toContainText('Stages');
  await expect(dialog).toContainText('3.30 nF');
  await dialog.getByRole('button', { name: 'Take them' }).click();
  await saved(page, 2);
  await expect(stagesField(page)).toHaveValue('7');
  await expect(offer(page)).toHaveCount(0);
  await page.reload();
  await lively(page);
  await expect(offer(page)).toHaveCount(0);
});

test('what was changed elsewhere since stays when other fields are taken, and is shown before it is overwritten', async ({
  page,
  request,
  line,
}) => {
  const id = await typeCutOff(page, request, line, { Stages: '7' });

  const { design } = await (await request.get(`/api/designs/${id}`)).json();
  const elsewhere = { ...design, notes: 'elsewhere', ladder: { ...design.ladder, stages: 4 } };
  await request.put(`/api/designs/${id}`, { data: { baseRevision: 1, design: elsewhere } });
  await page.goto(`${line.address}/designs/${id}`);
  await offer(page).getByRole('button', { name: 'Take' }).click();
  const dialog = page.getByRole('dialog', { name: 'Not saved' });
  await expect(dialog).toContainText('taking them overwrites that');
  await dialog.getByRole('button', { name: 'Take them' }).click();
  await saved(page, 3);
  await expect(stagesField(page)).toHaveValue('7');
  await expect(page.getByLabel('Notes')).toHaveValue('elsewhere');
});

test('closing while a save is under way and more has been typed loses nothing', async ({ page, request, line }) => {
  const id = await shelve(request);
  const first = await page.context().newPage();
  await first.goto(`${line.address}/designs/${id}`);
  await lively(first);
  line.slowTo(1500);
  await stagesField(first).fill('7');
  await expect(first.getByText('Saving…')).toBeVisible();
  await first.waitForTimeout(700);
  await stagesField(first).fill('9');
  await first.close();
  line.slowTo(0);
  await page.goto(`${line.address}/designs/${id}`);
  await lively(page);
  const standing = await stagesField(page).inputValue();
  if (standing !== '9') {
    // What had arrived is a change as well: where it is of the same field, it is asked.
    await offer(page).getByRole('button', { name: 'Take' }).click();
    const dialog = page.getByRole('dialog', { name: 'Not saved' });
    await expect(async () => {
      if (await dialog.isVisible()) await dialog.getByRole('button', { name: 'Take them' }).click();
      await expect(stagesField(page)).toHaveValue('9', { timeout: 500 });
    }).toPass();
  }
  await expect(stagesField(page)).toHaveValue('9');
});

test('the longest notes are kept, and dropped when that is wanted', async ({ page, request, line }) => {
  const id = await shelve(request, { ...newDesign('Long'), notes: 'n'.repeat(19_000) });
  const first = await page.context().newPage();
  await first.goto(`${line.address}/designs/${id}`);
  await lively(first);
  line.cut();
  await first.getByLabel('Notes').fill('m'.repeat(20_000));
  await expect(first.getByText('Not saved: the server cannot be reached')).toBeVisible();
  await expect.poll(async () => JSON.stringify(await written(first, 'eager-ladder-unsaved'))).toContain('mmm');
  await closeCutOff(first, line);
  await page.goto(`${line.address}/designs/${id}`);
  await offer(page).getByRole('button', { name: 'Drop' }).click();
  await expect(offer(page)).toHaveCount(0);
  await page.reload();
  await lively(page);
  await expect(offer(page)).toHaveCount(0);
});

test('leaving for the shelf with the server away says what is kept, and where', async ({ page, request }) => {
  const id = await shelve(request);
  await page.goto(`/designs/${id}`);
  await lively(page);
  await page.route('**/api/designs/**', (route) => route.abort());
  await stagesField(page).fill('7');
  await page.getByRole('link', { name: 'Shelf' }).click();
  await expect(page.getByText('Shelved is not saved. What was typed is kept in this browser')).toBeVisible();
  await page.unroute('**/api/designs/**');
  await page.getByRole('link', { name: 'Shelved, open it to take them' }).click();
  await offer(page).getByRole('button', { name: 'Take' }).click();
  await saved(page, 2);
  expect((await (await request.get(`/api/designs/${id}`)).json()).design.ladder.stages).toBe(7);
});

test('a page that loses its connection while it opens stays, with what is typed, and goes on when it is back', async ({
  page,
  request,
}) => {
  const id = await shelve(request);
  const html = await (await request.get(`/designs/${id}`)).text();
  // What the page is served with comes; what it fetches afterwards does not.
  const later = (url: URL) => url.pathname.endsWith('.js') && !html.includes(`src="${url.pathname}`);
  let missed = 0;
  await page.route(later, (route) => {
    missed += 1;
    return route.abort();
  });
  await page.goto(`/designs/${id}`);
  await expect.poll(() => missed).toBeGreaterThan(1);
  await stagesField(page).fill('7');
  await saved(page, 2);
  await page.unroute(later);
  await expect(page.getByRole('tab', { name: 'Load line' })).toBeVisible();
  await expect(stagesField(page)).toHaveValue('7');
});
