import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';

/**
 * Takes the pictures of docs/screenshots from the demo data of a running
 * application: `npm run screenshots -- http://127.0.0.1:4180`.
 */
const address = process.argv[2] ?? 'http://127.0.0.1:4180';

type Shot = {
  file: string;
  theme: 'light' | 'dark';
  width: number;
  height: number;
  show: (page: Page) => Promise<void>;
};

const open = (name: string) => async (page: Page) => {
  await page.getByRole('link', { name }).click();
  await page.locator('[data-climb-from=time-domain]').waitFor();
};

const SHOTS: Shot[] = [
  { file: 'shelf', theme: 'light', width: 1280, height: 800, show: async () => undefined },
  {
    file: 'design',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Flocking applicator')(page);
      await page.locator('[data-part=C2]').click();
    },
  },
  {
    file: 'design-dark-falls-short',
    theme: 'dark',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Dust-plate precipitator')(page);
      await page.getByRole('tab', { name: 'Stages' }).click();
    },
  },
  {
    file: 'figure-opened',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('teaching tripler')(page);
      await page.locator('[data-link=driver]').click();
      await page.locator('[data-figure=droopByCapacitorsVolts]').click();
    },
  },
  {
    file: 'driver',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Electrospinning bench pair')(page);
      await page.locator('[data-link=driver]').click();
      await page.getByRole('button', { name: 'More' }).click();
    },
  },
  {
    file: 'compare',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      const idOf = async (name: string) => (await page.getByRole('link', { name }).getAttribute('href'))!.split('/')[2];
      const [one, other] = [await idOf('Flocking applicator'), await idOf('Dust-plate precipitator')];
      await page.goto(`${address}/compare?one=${one}&other=${other}`);
      await page.locator('[data-climb]').nth(1).waitFor();
    },
  },
  {
    file: 'drawer',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await page.getByRole('link', { name: 'Drawer' }).click();
      await page.getByRole('textbox', { name: 'Add a part' }).fill('1n 10kV 20% disc cap x12 @0.70');
    },
  },
  {
    file: 'choose',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      const href = await page.getByRole('link', { name: 'Flocking applicator' }).getAttribute('href');
      await page.goto(`${address}/choose?design=${href!.split('/').pop()}`);
      await page.getByRole('radio', { name: 'All listed' }).click();
      await page.getByText(/candidates evaluated in/).waitFor();
      await page.waitForTimeout(6000);
    },
  },
  {
    file: 'transformer-bench',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Flocking applicator')(page);
      await page.keyboard.press('b');
      await page.getByRole('tab', { name: 'Secondary' }).click();
    },
  },
  {
    file: 'bench',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('teaching tripler')(page);
      await page.keyboard.press('r');
      await page.getByRole('combobox', { name: 'Session' }).click();
      await page.getByRole('option', { name: /readings/ }).click();
      await page.locator('[data-fitted=forward]').waitFor();
    },
  },
  {
    file: 'find-the-fault',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await page.goto(`${address}/train?ladder=five&round=1`);
      for (const node of ['B5', 'B2']) await page.getByRole('button', { name: `Read: ${node}` }).click();
      await page.getByText('single faults would show this').waitFor();
      await page.getByRole('combobox', { name: 'Where the fault is' }).click();
      await page.getByRole('option', { name: 'D2', exact: true }).click();
    },
  },
  {
    file: 'motion',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('teaching tripler')(page);
      await page.getByRole('tab', { name: 'Waveforms' }).click();
      await page.getByRole('slider', { name: 'Moment' }).fill('0.24');
    },
  },
  {
    file: 'look',
    theme: 'dark',
    width: 1280,
    height: 800,
    show: async (page) => {
      await page.goto(`${address}/look?step=4`);
      await page.getByRole('button', { name: /^The top one/ }).click();
      await page.getByRole('slider', { name: 'Moment' }).fill('0.22');
    },
  },
  {
    file: 'layout',
    theme: 'dark',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Electrospinning bench pair')(page);
      await page.getByRole('button', { name: 'Build sheet' }).click();
      await page.locator('[data-layout=screen] [data-joint=NB2]').click();
      await page.locator('[data-layout=screen]').scrollIntoViewIfNeeded();
    },
  },
  {
    file: 'tolerance',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Dust-plate precipitator')(page);
      await page.getByRole('tab', { name: 'Tolerance' }).click();
      await page.locator('[data-tolerance=chance]').waitFor();
    },
  },
  {
    file: 'build-sheet',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Flocking applicator')(page);
      await page.getByRole('button', { name: 'Build sheet' }).click();
      await page.getByRole('table', { name: 'Insulation of nodes' }).waitFor();
      await page.mouse.move(0, 0);
    },
  },
  {
    file: 'dead',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await open('Flocking applicator')(page);
      await page.getByRole('button', { name: 'Make it dead' }).click();
      await page.locator('[data-energy=shorted]').waitFor();
      await page.mouse.move(0, 0);
    },
  },
  {
    file: 'at-the-bench',
    theme: 'dark',
    width: 390,
    height: 844,
    show: async (page) => {
      await open('Dust-plate precipitator')(page);
      await page.getByRole('button', { name: 'Make it dead' }).click();
      await page.getByRole('button', { name: 'Go through it at the bench' }).click();
      await page.getByRole('button', { name: 'Done' }).click();
      await page.getByRole('button', { name: 'Start' }).click();
      await page.waitForTimeout(2000);
    },
  },
  {
    // The last one: it changes the drawer.
    file: 'workshop',
    theme: 'light',
    width: 1280,
    height: 800,
    show: async (page) => {
      await page.goto(`${address}/workshop`);
      const coming = page.waitForEvent('download');
      await page.getByRole('button', { name: 'Whole workshop, ZIP' }).click();
      const buffer = await readFile(await (await coming).path());
      const { revision: baseRevision, parts } = await (await page.request.get(`${address}/api/drawer`)).json();
      const put = [{ ...parts[0], count: parts[0].count + 8 }];
      const data = { baseRevision, changeId: randomUUID(), put, remove: [parts[3].id] };
      await page.request.post(`${address}/api/drawer`, { data });
      const file = { name: 'eager-ladder-workshop-2026-11-30.zip', mimeType: 'application/zip', buffer };
      await page.getByLabel('Workshop archive').setInputFiles(file);
      await page.getByRole('button', { name: 'Take it in' }).waitFor();
    },
  },
];

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu'],
});
for (const shot of SHOTS) {
  const context = await browser.newContext({
    viewport: { width: shot.width, height: shot.height },
    colorScheme: shot.theme,
    reducedMotion: 'reduce',
  });
  const page = await context.newPage();
  await page.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
  await page.goto(address, { waitUntil: 'networkidle' });
  await shot.show(page);
  await page.waitForTimeout(500);
  await page.screenshot({ path: path.join(import.meta.dirname, `${shot.file}.png`) });
  await context.close();
}
await browser.close();
