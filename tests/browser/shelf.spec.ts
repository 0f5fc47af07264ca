import { readFileSync } from 'node:fs';
import { Client } from 'pg';
import { changeDesign } from '../../src/core/design/change-design';
import { newDesign } from '../../src/core/design/new-design';
import { writeDesignText } from '../../src/core/design/read-design';
import { DESIGN_VERSION } from '../../src/core/design/upgrade';
import { demoDesign, expect, exported, shelve, test } from './fixtures';

const file = (name: string, text: string) => ({ name, mimeType: 'application/json', buffer: Buffer.from(text) });

test('rename, duplicate, archive, undo, restore', async ({ page, request }) => {
  await shelve(request, newDesign('First try'));
  await page.goto('/');
  const act = async (row: string, action: string) => {
    await page.getByRole('button', { name: `Actions for ${row}`, exact: true }).click();
    await page.getByRole('menuitem', { name: action }).click();
  };
  await act('First try', 'Rename');
  await page.getByLabel('Name', { exact: true }).fill('Second try');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Second try' })).toBeVisible();
  await act('Second try', 'Duplicate');
  await expect(page.getByLabel('Name of the design')).toHaveValue('Second try, copy');
  await page.getByRole('link', { name: 'Shelf' }).click();
  await act('Second try, copy', 'Archive');
  await expect(page.getByRole('link', { name: 'Second try, copy' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Second try, copy' })).toBeVisible();
  await act('Second try', 'Archive');
  await page.getByRole('button', { name: 'Archive (1)' }).click();
  await act('Second try', 'Restore');
  await page.getByRole('button', { name: 'Back to the shelf' }).click();
  await expect(page.getByRole('link', { name: 'Second try', exact: true })).toBeVisible();
});

test('search and sort', async ({ page, request }) => {
  for (const demo of ['flocking-applicator', 'teaching-tripler', 'dust-plate-precipitator'])
    await shelve(request, demoDesign(demo));
  await page.goto('/');
  const names = () => page.locator('tbody a').allInnerTexts();
  // From the highest output down, then up.
  const order = ['Flocking applicator', 'Dust-plate precipitator', 'Low-voltage teaching tripler'];
  await page.getByRole('button', { name: 'Reached' }).click();
  await expect.poll(names).toEqual(order);
  await page.getByRole('button', { name: 'Reached' }).click();
  await expect.poll(names).toEqual([...order].reverse());
  await page.getByRole('button', { name: 'Design', exact: true }).click();
  await expect.poll(names).toEqual([...order].sort());
  await expect(page).toHaveURL(/sort=name/);
  await expect(page.getByRole('row', { name: /Dust-plate/ })).toContainText('falls short');
  await page.getByRole('searchbox').fill('sanding');
  await expect.poll(names).toEqual(['Dust-plate precipitator']);
  await page.reload();
  await expect(page.getByRole('searchbox')).toHaveValue('sanding');
  expect(await names()).toEqual(['Dust-plate precipitator']);
  await page.getByRole('searchbox').fill('nothing of the sort');
  await expect(page.getByText(/Nothing here is called/)).toBeVisible();
});

test('a bad file names path and fault and changes nothing', async ({ page, request }) => {
  await shelve(request, newDesign('Alone'));
  await page.goto('/');
  const good = newDesign('Bad');
  const bad = {
    ...changeDesign(good, { path: '$.ladder.capacitor.farads', value: '4n7' }),
    version: DESIGN_VERSION + 1,
    wattage: 5,
  };
  await page.getByLabel('Design file').setInputFiles(file('bad.ladder.json', JSON.stringify(bad)));
  const dialog = page.getByRole('dialog', { name: 'This file was not imported' });
  await expect(dialog).toContainText('bad.ladder.json has 3 faults');
  await expect(dialog.getByRole('listitem')).toContainText(
    ['$.version', '$.ladder.capacitor.farads', '$.wattage'].map((path) => new RegExp(path.replace(/[$.]/g, '\\$&'))),
  );
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Design file').setInputFiles(file('half.ladder.json', writeDesignText(good).slice(0, 60)));
  await expect(page.getByRole('dialog')).toContainText('is not JSON');
  await page.getByRole('button', { name: 'Close' }).click();
  await page.reload();
  await expect(page.locator('tbody tr')).toHaveCount(1);
});

test('export and import give the same design', async ({ page, request }) => {
  const design = demoDesign('photomultiplier-bias');
  await page.goto(`/designs/${await shelve(request, design)}`);
  const text = writeDesignText(await exported(page));
  await page.getByRole('link', { name: 'Shelf' }).click();
  await page.getByLabel('Design file').setInputFiles(file('again.ladder.json', text));
  await expect(page).toHaveURL(/\/designs\//);
  expect(await exported(page)).toEqual(design);
});

test('each row has its small Climb and what it is built of; a range of targets leaves the others out', async ({
  page,
  request,
}) => {
  for (const file of ['flocking-applicator', 'teaching-tripler', 'photomultiplier-bias'])
    await shelve(request, demoDesign(file));
  await page.goto('/');
  const row = page.getByRole('row', { name: /Flocking applicator/ });
  await expect(row).toContainText('Resonant push-pull · half-wave · 8 stages');
  await expect(page.locator('tbody tr svg[viewBox="0 0 46 40"]')).toHaveCount(3);
  await page.getByLabel('Target from').fill('1k');
  await page.getByLabel('to', { exact: true }).fill('10k');
  await expect(page.locator('tbody tr')).toHaveCount(1);
  await expect(page.locator('tbody tr')).toContainText('Photomultiplier bias');
  await page.getByLabel('Target from').fill('50k');
  await page.getByRole('button', { name: 'Show any target' }).click();
  await expect(page.locator('tbody tr')).toHaveCount(3);
});

test('a file dropped on the shelf is imported', async ({ page }) => {
  await page.goto('/');
  const text = writeDesignText(newDesign('Dropped in'));
  const transfer = await page.evaluateHandle((content) => {
    const data = new DataTransfer();
    data.items.add(new File([content], 'dropped.ladder.json', { type: 'application/json' }));
    return data;
  }, text);
  await page.locator('main').dispatchEvent('drop', { dataTransfer: transfer });
  await expect(page.getByLabel('Name of the design')).toHaveValue('Dropped in');
});

test('an address of nothing says so', async ({ page }) => {
  await page.goto('/designs/00000000-0000-4000-8000-000000000000');
  await expect(page.getByRole('heading', { name: 'There is no such design' })).toBeVisible();
  await page.goto('/designs/nonsense');
  await page.getByRole('link', { name: 'Back to the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf', exact: true })).toBeVisible();
});

test('the server refuses what the form would refuse, and writes nothing', async ({ request }) => {
  const id = await shelve(request);
  const design = newDesign('Shelved');
  const put = (data: unknown) => request.put(`/api/designs/${id}`, { data });
  const bad = await put({ baseRevision: 1, design: { ...design, name: '' } });
  expect([bad.status(), (await bad.json()).faults[0].path]).toEqual([422, '$.design.name']);
  expect((await put({ design })).status()).toBe(422);
  expect(
    (
      await request.put(`/api/designs/${id}`, {
        data: Buffer.from('{'),
        headers: { 'content-type': 'application/json' },
      })
    ).status(),
  ).toBe(400);
  expect((await request.put('/api/designs/not-an-id', { data: { baseRevision: 1, design } })).status()).toBe(404);
  expect((await (await request.get(`/api/designs/${id}`)).json()).revision).toBe(1);
});

test('the server keeps to its limits and says so', async ({ request }) => {
  const nowhere = '/api/designs/00000000-0000-4000-8000-000000000000';
  expect((await request.get(nowhere)).status()).toBe(404);
  expect((await request.get(`${nowhere}/revisions`)).status()).toBe(404);
  expect((await request.patch(nowhere, { data: { archived: true } })).status()).toBe(404);
  expect((await request.patch(nowhere, { data: { archived: 'yes' } })).status()).toBe(422);
  const huge = await request.post('/api/designs', { data: { ...newDesign('Huge'), notes: 'x'.repeat(1_100_000) } });
  expect([huge.status(), (await huge.json()).faults[0].path]).toEqual([413, '$']);
  const long = await request.post('/api/designs', { data: { ...newDesign('Long'), notes: 'x'.repeat(20_001) } });
  expect([long.status(), (await long.json()).faults[0].path]).toEqual([422, '$.notes']);
  for (const path of ['/%ff', '/designs/%ff', '/api/designs/%ff']) expect((await request.get(path)).status()).toBe(400);
  for (const method of ['TRACE', 'PROPFIND']) {
    const refused = await request.fetch('/api/designs', { method });
    expect([refused.status(), (await refused.json()).faults[0].path]).toEqual([405, '$']);
  }
  const health = await request.get('/api/health');
  expect((await health.json()).ready).toBe(true);
  const page = await request.get('/');
  expect(page.headers()['content-security-policy']).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic';/);
});

test('a design that cannot be read keeps its place and takes nothing with it', async ({
  page,
  request,
  databaseUrl,
}) => {
  const id = await shelve(request, newDesign('Damaged'));
  await shelve(request, newDesign('Sound'));
  const saving = await request.put(`/api/designs/${id}`, {
    data: { baseRevision: 1, design: { ...newDesign('Damaged'), notes: 'second' } },
  });
  expect(saving.status()).toBe(200);
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  const spoilt = `document = jsonb_set(document, '{ladder,stages}', '"four"')`;
  await client.query(`UPDATE designs SET ${spoilt} WHERE id = $1`, [id]);
  await client.query(`UPDATE design_revisions SET ${spoilt} WHERE design_id = $1 AND revision = 2`, [id]);
  await client.end();

  await page.goto('/');
  const row = page.getByRole('row', { name: /Damaged/ });
  await expect(row).toContainText('cannot be read: $.ladder.stages');
  await expect(page.getByRole('link', { name: 'Sound' })).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Actions for Damaged' }).click();
  await expect(page.getByRole('menuitem', { name: 'Duplicate' })).toHaveCount(0);
  await page.getByRole('menuitem', { name: 'Export as stored' }).click();
  const stored = JSON.parse(readFileSync(await (await download).path(), 'utf8'));
  expect(stored).toMatchObject({ name: 'Damaged', notes: 'second', ladder: { stages: 'four' } });

  await page.goto('/drawer');
  await expect(page.getByText('One design on the shelf cannot be read')).toBeVisible();
  await page.goto('/choose');
  await expect(async () => {
    await page.getByLabel('Drive').click();
    await expect(page.getByRole('option', { name: 'That of Sound' })).toBeVisible({ timeout: 1000 });
  }).toPass();
  await expect(page.getByRole('option', { name: /Damaged/ })).toHaveCount(0);

  await page.goto(`/designs/${id}`);
  await expect(page.getByRole('list', { name: 'Faults' })).toContainText('$.ladder.stages');
  await page.getByRole('button', { name: 'Earlier revisions' }).click();
  const history = page.getByRole('dialog', { name: 'History' });
  await expect(history.getByRole('listitem').first()).toContainText('cannot be read');
  await history.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByLabel('Name of the design')).toHaveValue('Damaged');
  await expect(page.getByText('Revision 3, saved')).toBeVisible();
});

test('a page that cannot be shown names the cause, and comes back by itself', async ({
  browser,
  stage,
  databaseUrl,
}) => {
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  // A page of its own: what it meets is said in its console too.
  const context = await browser.newContext({ baseURL: stage.address });
  await context.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
  const page = await context.newPage();
  try {
    await client.query('ALTER TABLE designs RENAME TO designs_away');
    await page.goto('/');
    const alert = page.getByRole('alert').filter({ hasText: 'could not be shown' });
    await expect(alert).toContainText('the database cannot be reached');
    await expect(alert).toContainText('What was saved is still there');
  } finally {
    await client.query('ALTER TABLE designs_away RENAME TO designs');
    await client.end();
  }
  await expect(page.getByText('The shelf is empty')).toBeVisible();
  await context.close();
});
