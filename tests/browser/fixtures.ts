import { readFileSync } from 'node:fs';
import { test as base, expect, type APIRequestContext, type Page } from '@playwright/test';
import { Client } from 'pg';
import { newDesign } from '../../src/core/design/new-design';
import type { Design } from '../../src/core/design/design-schema';
import { formatQuantity } from '../../src/core/quantity/format-quantity';
import { readDesignText } from '../../src/core/design/read-design';

export { expect };

/** What Chromium itself says when a test cuts the network or asks for what is not there. */
const EXPECTED_NOISE = /Failed to load resource/;

/** Where the application is served for each worker, and the database it is on. */
const stages: { address: string; databaseUrl: string }[] = JSON.parse(process.env.STAGES ?? '[]');

/** Every test starts with an empty shelf, the cautions read, and fails on any console error or policy violation. */
export const test = base.extend<{ cleanSlate: void; firstVisit: boolean; databaseUrl: string }>({
  baseURL: async ({}, run, { parallelIndex }) => run(stages[parallelIndex]?.address),
  databaseUrl: async ({}, run, { parallelIndex }) => run(stages[parallelIndex]?.databaseUrl),
  firstVisit: [false, { option: true }],
  cleanSlate: [
    async ({ page, firstVisit, databaseUrl }, run) => {
      if (stages.length === 0) throw new Error('Run "npm run browser", which serves the application for its tests.');
      const client = new Client({ connectionString: databaseUrl });
      await client.connect();
      await client.query('TRUNCATE designs, design_revisions, parts');
      await client.end();
      if (!firstVisit) await markCautionsRead(page);
      const complaints: string[] = [];
      page.on('pageerror', (error) => complaints.push(error.message));
      page.on('console', (message) => {
        if (message.type() === 'error' && !EXPECTED_NOISE.test(message.text())) complaints.push(message.text());
      });
      await run();
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
});

export async function markCautionsRead(page: Page): Promise<void> {
  await page.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
}

/** A design put on the shelf without the interface, for tests about something else. */
export async function shelve(request: APIRequestContext, design: Design = newDesign('Shelved')): Promise<string> {
  const response = await request.post('/api/designs', { data: design });
  expect(response.status()).toBe(201);
  return (await response.json()).id;
}

export function demoDesign(file: string): Design {
  const reading = readDesignText(readFileSync(`demo/${file}.ladder.json`, 'utf8'));
  if (!reading.ok) throw new Error(reading.faults[0].message);
  return reading.design;
}

/** The design as the application exports it: what is on screen, in the open format. */
export async function exported(page: Page): Promise<Design> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export' }).click();
  const reading = readDesignText(readFileSync(await (await download).path(), 'utf8'));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.design;
}

export async function openLink(
  page: Page,
  name: 'Supply' | 'Driver' | 'Transformer' | 'Ladder' | 'Output' | 'Load',
): Promise<void> {
  const trigger = page.locator(`[data-link=${name.toLowerCase()}]`);
  if ((await trigger.getAttribute('aria-expanded')) !== 'true') await trigger.click();
}

export const saved = (page: Page, revision: number) =>
  expect(page.getByText(`Revision ${revision}, saved`)).toBeVisible();

/** Text of a figure of the verdict, spaces made plain. */
export async function figure(page: Page, name: string): Promise<string> {
  return (await page.locator(`[data-figure=${name}]`).innerText()).replace(/\s+/g, ' ').trim();
}

/** The stages field; a chart's tab bears the same name. */
export const stagesField = (page: Page) => page.getByRole('textbox', { name: 'Stages', exact: true });

/** A quantity in words with plain spaces, as {@link figure} reads the screen. */
export const say = (...quantity: Parameters<typeof formatQuantity>) => formatQuantity(...quantity).replace(/\s/g, ' ');
