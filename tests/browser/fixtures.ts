import { readFileSync } from 'node:fs';
import {
  test as base,
  expect,
  type APIRequestContext,
  type Browser,
  type ConsoleMessage,
  type Locator,
  type Page,
} from '@playwright/test';
import { Client } from 'pg';
import { newDesign } from '../../src/core/design/new-design';
import type { Design } from '../../src/core/design/design-schema';
import { formatQuantity } from '../../src/core/quantity/format-quantity';
import { readDesignText } from '../../src/core/design/read-design';
import { openLine, type Line } from './line';

export { expect };

/** What Chromium itself says when a test cuts the network or asks for what is not there. */
const EXPECTED_NOISE = /Failed to load resource/;

/** Where the application is served, here and as a telephone would reach it, and the database it is on. */
type Stage = { address: string; networkAddress: string; databaseUrl: string };

/** One for each worker. */
const stages: Stage[] = JSON.parse(process.env.STAGES ?? '[]');

const VIEWPORT = { width: 1280, height: 800 };
/** Most tests are about where things end, not about how they get there. */
const STILL = { reducedMotion: 'reduce' } as const;

/** A page of its own context, the cautions read unless it is a first visit. */
async function openPage(browser: Browser, baseURL: string | undefined, firstVisit: boolean): Promise<Page> {
  const context = await browser.newContext({ baseURL, viewport: VIEWPORT, ...STILL });
  if (!firstVisit) await context.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
  return context.newPage();
}

/** Leaves nothing of a test in the page for the next: other tabs, what stands between page and server, what is stored, how it is looked at. */
async function clear(page: Page): Promise<void> {
  const context = page.context();
  for (const other of context.pages()) if (other !== page) await other.close();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  const { origin } = new URL(page.url());
  await page.evaluate(() => window.sessionStorage.clear()).catch(() => undefined);
  await page.goto('about:blank');
  const session = await context.newCDPSession(page);
  if (origin !== 'null')
    await session.send('Storage.clearDataForOrigin', { origin, storageTypes: 'cookies,local_storage,indexeddb' });
  await session.detach();
  await page.emulateMedia({ colorScheme: null, media: null, ...STILL });
  await page.setViewportSize(VIEWPORT);
}

/**
 * Every test starts with an empty shelf and a blank page, the cautions read, and
 * fails on any console error or policy violation. The page is the worker's from
 * test to test, so that the browser reads the application's scripts but once.
 */
export const test = base.extend<
  { cleanSlate: void; firstVisit: boolean; databaseUrl: string; line: Line; telephone: Page },
  { stage: Stage; lasting: Page }
>({
  stage: [
    async ({}, run, { parallelIndex }) => {
      if (stages.length === 0) throw new Error('Run "npm run browser", which serves the application for its tests.');
      await run(stages[parallelIndex]);
    },
    { scope: 'worker' },
  ],
  lasting: [
    async ({ browser, stage }, run) => {
      const page = await openPage(browser, stage.address, false);
      await run(page);
      await page.context().close();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ stage }, run) => run(stage.address),
  databaseUrl: async ({ stage }, run) => run(stage.databaseUrl),
  line: async ({ stage }, run) => {
    const line = await openLine(stage.address);
    await run(line);
    await line.close();
  },
  telephone: async ({ browser, stage }, run) => {
    const context = await browser.newContext({
      baseURL: stage.networkAddress,
      ignoreHTTPSErrors: true,
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      ...STILL,
    });
    await context.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
    await run(await context.newPage());
    await context.close();
  },
  firstVisit: [false, { option: true }],
  page: async ({ browser, lasting, stage, firstVisit }, run) => {
    if (firstVisit) {
      const page = await openPage(browser, stage.address, true);
      await run(page);
      await page.context().close();
      return;
    }
    await run(lasting);
    await clear(lasting);
  },
  cleanSlate: [
    async ({ page, databaseUrl }, run) => {
      const client = new Client({ connectionString: databaseUrl });
      await client.connect();
      await client.query('TRUNCATE designs, parts CASCADE');
      await client.end();
      const complaints: string[] = [];
      const crashed = (error: Error) => complaints.push(error.message);
      const said = (message: ConsoleMessage) => {
        if (message.type() === 'error' && !EXPECTED_NOISE.test(message.text())) complaints.push(message.text());
      };
      page.on('pageerror', crashed);
      page.on('console', said);
      await run();
      page.off('pageerror', crashed);
      page.off('console', said);
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
});

/** A design put on the shelf without the interface, for tests about something else. */
export async function shelve(request: APIRequestContext, design: Design = newDesign('Shelved')): Promise<string> {
  const response = await request.post('/api/designs', { data: design });
  expect(response.status()).toBe(201);
  return (await response.json()).id;
}

export { demoDesign } from '../reference/demo-designs';

/** A file as the application exports it, by its entry in the menu. */
export async function exportedFile(page: Page, entry: string): Promise<Buffer> {
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: entry }).first().click();
  return readFileSync(await (await download).path());
}

/** The design as the application exports it: what is on screen, in the open format. */
export async function exported(page: Page): Promise<Design> {
  const reading = readDesignText((await exportedFile(page, 'Design')).toString('utf8'));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.design;
}

export async function openLink(
  page: Page,
  name: 'Supply' | 'Driver' | 'Transformer' | 'Ladder' | 'Output' | 'Divider' | 'Far end',
): Promise<void> {
  const trigger = page.locator(`[data-link=${name === 'Far end' ? 'farEnd' : name.toLowerCase()}]`);
  if ((await trigger.getAttribute('aria-expanded')) !== 'true') await trigger.click();
}

/** What the browser has written into its own database of this name: a tab that ends before keeps what was written last. */
export const written = (page: Page, database: string): Promise<unknown[]> =>
  page.evaluate(
    (name) =>
      new Promise<unknown[]>((resolve, reject) => {
        const opening = indexedDB.open(name);
        opening.onerror = () => reject(new Error('the database does not open'));
        opening.onsuccess = () => {
          const reading = opening.result.transaction('kept').objectStore('kept').getAll();
          reading.onsuccess = () => {
            opening.result.close();
            resolve(reading.result);
          };
        };
      }),
    database,
  );

/** All is saved; as which revision is told only where one edit was made, since of several some may go together. */
export const saved = (page: Page, revision?: number) =>
  expect(page.getByText(new RegExp(`^Revision ${revision ?? '\\d+'}, saved`))).toBeVisible();

/** Text of a figure of the verdict, spaces made plain. */
export async function figure(page: Page, name: string): Promise<string> {
  return (await page.locator(`[data-figure=${name}]`).innerText()).replace(/\s+/g, ' ').trim();
}

/** The stages field; a chart's tab bears the same name. */
export const stagesField = (page: Page) => page.getByRole('textbox', { name: 'Stages', exact: true });

/** A quantity in words with plain spaces, as {@link figure} reads the screen. */
export const say = (...quantity: Parameters<typeof formatQuantity>) => formatQuantity(...quantity).replace(/\s/g, ' ');

/** Chooses from a list that opens; a page just loaded may not listen yet. */
export async function pick(list: Locator, name: string): Promise<void> {
  const option = list.page().getByRole('option', { name, exact: true });
  await expect(async () => {
    if (!(await option.isVisible())) await list.click();
    await option.click({ timeout: 1000 });
  }).toPass();
}
