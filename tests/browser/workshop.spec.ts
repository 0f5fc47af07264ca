import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Client } from 'pg';
import sharp from 'sharp';
import type { APIRequestContext, Page } from '@playwright/test';
import { meterSchema } from '../../src/core/drive/meter-sense';
import { partSchema } from '../../src/core/parts/part-schema';
import { demoDesign, expect, shelve, test } from './fixtures';

const METER = { name: 'Old hand', meter: meterSchema.parse({ inputOhms: 1e6 }) };
const withMeters = (page: Page, meters: (typeof METER)[]) =>
  page.evaluate(
    (settings) =>
      window.localStorage.setItem('eager-ladder-own-meters', JSON.stringify({ state: { settings }, version: 0 })),
    { meters },
  );
const metersOf = (page: Page) =>
  page.evaluate(() => JSON.parse(window.localStorage.getItem('eager-ladder-own-meters')!).state.settings.meters);

async function takenOut(page: Page): Promise<{ name: string; path: string; bytes: Buffer }> {
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Whole workshop, ZIP' }).click();
  const download = await coming;
  const path = await download.path();
  return { name: download.suggestedFilename(), path, bytes: await readFile(path) };
}

/** Puts so many of one part into the drawer. */
function partIn(request: APIRequestContext) {
  const part = partSchema.parse({ kind: 'capacitor', id: randomUUID(), name: 'Disc', farads: 1e-9 });
  return async (count: number) => {
    const { revision: baseRevision } = await (await request.get('/api/drawer')).json();
    await request.post('/api/drawer', {
      data: { baseRevision, changeId: randomUUID(), put: [{ ...part, count }], remove: [] },
    });
  };
}

/** Chooses a file for the archive to bring in. */
const bring = (page: Page, buffer: Buffer, name = 'workshop.zip') =>
  page.getByLabel('Workshop archive').setInputFiles({ name, mimeType: 'application/zip', buffer });

test('the whole workshop leaves, comes back into an empty database and another browser, and leaves again the same', async ({
  page,
  request,
  databaseUrl,
}) => {
  const design = demoDesign('teaching-tripler');
  const id = await shelve(request, design);
  await request.put(`/api/designs/${id}`, { data: { baseRevision: 1, design: { ...design, notes: 'Second' } } });
  await partIn(request)(12);
  await request.put(`/api/designs/${id}/ticks`, {
    data: [{ revision: 2, step: 'assembly proof', doneAt: '2026-03-01T10:00:00.000Z' }],
  });
  // Over ten megabytes, as a telephone's camera writes them.
  const noise = await sharp({
    create: {
      width: 2200,
      height: 2200,
      channels: 3,
      background: '#808080',
      noise: { type: 'gaussian', mean: 128, sigma: 60 },
    },
  })
    .png()
    .toBuffer();
  expect(noise.length).toBeGreaterThan(10.5e6);
  const kept = await request.put(`/api/designs/${id}/bench/pictures/${randomUUID()}`, {
    data: noise,
    headers: { 'content-type': 'application/octet-stream' },
  });
  expect(kept.status()).toBe(200);

  await page.goto('/');
  await withMeters(page, [METER]);
  await page.getByRole('link', { name: 'Whole workshop' }).click();
  const holds = page.getByRole('table', { name: 'What it holds' });
  await expect(holds.getByRole('row', { name: 'Designs' })).toContainText('1, with 2 saved states');
  await expect(holds.getByRole('row', { name: 'Own meters' })).toContainText('1');
  const first = await takenOut(page);
  expect(first.name).toMatch(/^eager-ladder-workshop-\d{4}-\d\d-\d\d\.zip$/);

  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query('TRUNCATE designs, parts CASCADE');
  await client.end();
  await withMeters(page, []);
  await page.reload();
  await expect(holds.getByRole('row', { name: 'Designs' })).toContainText('0, with 0 saved states');
  await bring(page, first.bytes);
  const found = page.getByRole('list', { name: 'In the archive' });
  await expect(found).toContainText(`1 design new here, with 2 saved states: ${design.name}`);
  await expect(found).toContainText('1 part new in the drawer');
  await expect(found).toContainText('1 step of build sheets, 1 picture');
  await expect(found).toContainText('1 own meter new in this browser');
  // Nothing is taken by the look.
  expect((await (await request.get('/api/drawer')).json()).parts).toEqual([]);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.locator('[data-archive=taken]')).toContainText(
    '1 design, 1 part, 1 step of build sheets, 1 picture.',
  );
  await expect(holds.getByRole('row', { name: 'Designs' })).toContainText('1, with 2 saved states');
  expect(await metersOf(page)).toEqual([METER]);
  expect((await takenOut(page)).bytes.equals(first.bytes)).toBe(true);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await expect(page.getByRole('link', { name: design.name })).toBeVisible();
  expect((await (await request.get(`/api/designs/${id}`)).json()).design.notes).toBe('Second');
});

test('what clashes is shown before it is taken, and taken as it is said', async ({ page, request }) => {
  const design = demoDesign('teaching-tripler');
  const id = await shelve(request, design);
  const save = (baseRevision: number, notes: string) =>
    request.put(`/api/designs/${id}`, { data: { baseRevision, design: { ...design, notes } } });
  await save(1, 'Shared');
  const put = partIn(request);
  await put(5);
  await page.goto('/workshop');
  await withMeters(page, [METER]);
  await page.reload();
  const early = await takenOut(page);
  await save(2, 'Here');
  await put(3);
  await withMeters(page, [{ ...METER, meter: { ...METER.meter, inputOhms: 10e6 } }]);
  await page.reload();
  await bring(page, early.bytes);
  const before = page.getByRole('group', { name: 'Before anything is taken' });
  // The design has only gone on here: no clash. Part and meter differ.
  await expect(before).toContainText('1 design here already, as in the archive or further');
  await expect(before.getByRole('table', { name: 'One part differs in the drawer' })).toContainText(
    '5 of them3 of them',
  );
  await expect(before.getByRole('group', { name: 'One own meter differs' })).toBeVisible();
  await before.getByLabel('Take them as they are in the archive').check();
  await before.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.locator('[data-archive=taken]')).toBeVisible();
  expect((await (await request.get('/api/drawer')).json()).parts[0].count).toBe(5);
  expect((await metersOf(page))[0].meter.inputOhms).toBe(10e6);
  expect((await (await request.get(`/api/designs/${id}`)).json()).design.notes).toBe('Here');
});

test('a damaged archive is refused at its place, one that has changed beneath is told anew, and one is left', async ({
  page,
  request,
}) => {
  const put = partIn(request);
  await put(5);
  await page.goto('/workshop');
  const { bytes } = await takenOut(page);
  const refused = page.getByRole('alert').filter({ hasText: 'Nothing was taken' });
  const broken = Buffer.from(bytes);
  // Within the first member's content, behind its header and name.
  broken[30 + 'meters.json'.length + 4] ^= 0xff;
  await bring(page, broken);
  await expect(refused).toContainText('meters.json');
  await page.getByRole('button', { name: 'Another file' }).click();
  await bring(page, Buffer.from('Not a ZIP file'), 'notes.zip');
  await expect(refused).toContainText('must be a workshop archive');
  await page.getByRole('button', { name: 'Another file' }).click();

  await bring(page, bytes);
  await expect(page.getByRole('list', { name: 'In the archive' })).toContainText(
    '1 part in the drawer as in the archive',
  );
  // The drawer is changed on another device while this stands on screen.
  await put(3);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'has changed since' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'One part differs in the drawer' })).toBeVisible();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.locator('[data-archive=taken]')).toContainText('nothing of it was new here');
  expect((await (await request.get('/api/drawer')).json()).parts[0].count).toBe(3);

  await page.getByRole('button', { name: 'Another archive' }).click();
  await bring(page, bytes);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Or drop the file anywhere here.')).toBeVisible();
});
