import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { newDesign } from '../../src/core/design/new-design';
import { predict } from '../../src/core/predict/predict';
import { demoDesign, expect, exported, openLink, pick, say, shelve, test, written } from './fixtures';

const row = (page: Page, name: string) =>
  page.locator('[data-row]').filter({ has: page.getByRole('button', { name, exact: true }) });
const add = async (page: Page, line: string) => {
  // It stands on screen at once; what is looked at by its address must wait until it has arrived.
  const arrived = page.waitForResponse('**/api/drawer');
  await page.getByRole('textbox', { name: 'Add a part' }).fill(line);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Add a part' })).toHaveValue('');
  await arrived;
};
const csv = (lines: string[]) => ({ name: 'parts.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) });

test('parts are typed in one line, counted in place, found, sorted, and every step undone', async ({ page }) => {
  await page.goto('/drawer');
  await expect(page.getByText('The drawer is empty')).toBeVisible();
  await page.getByRole('textbox', { name: 'Add a part' }).fill('15kV cer');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'farads' })).toBeVisible();
  await add(page, '100p 15kV cer disc x30');
  await add(page, '1n 10kV cer big x12 @0.70');
  await add(page, 'diode 12kV 5mA 100ns stick x20');
  await expect(row(page, 'disc')).toContainText('100 pF');
  const count = page.getByLabel('How many of disc');
  await count.fill('two');
  await count.press('Enter');
  await expect(row(page, 'disc').getByRole('alert')).toBeVisible();
  await count.fill('28');
  const kept = page.waitForResponse('**/api/drawer');
  await count.press('Enter');
  await kept;
  await expect(row(page, 'disc').getByRole('alert')).toHaveCount(0);
  await page.reload();
  await expect(page.getByLabel('How many of disc')).toHaveValue('28');
  const names = page.locator('[data-part-name]');
  await pick(page.getByLabel('Kind', { exact: true }), 'Capacitor');
  await expect(names).toHaveCount(2);
  const heading = page.getByRole('columnheader', { name: /Values/ });
  const sortedBy = async (direction: 'ascending' | 'descending') => {
    // Each click goes one way further; it must have been drawn before the next.
    await expect(async () => {
      await heading.getByRole('button').click();
      await expect(heading).toHaveAttribute('aria-sort', direction, { timeout: 500 });
    }).toPass();
    return names.allInnerTexts();
  };
  expect(await sortedBy('ascending')).toEqual(['disc', 'big']);
  expect(await sortedBy('descending')).toEqual(['big', 'disc']);
  await page.getByRole('button', { name: 'Actions for big' }).click();
  await page.getByRole('menuitem', { name: 'Take out' }).click();
  await expect(row(page, 'big')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(row(page, 'big')).toBeVisible();
  await page.keyboard.press('Control+y');
  await expect(row(page, 'big')).toHaveCount(0);
});

test('two undos in quick succession take back two changes, the later first', async ({ page }) => {
  await page.goto('/drawer');
  await add(page, '100p 15kV cer disc x30');
  await add(page, '1n 10kV cer big x12');
  // Answers are slow: the second undo is asked for while the first is under way.
  await page.route('**/api/drawer', async (route) => {
    await new Promise((resume) => setTimeout(resume, 400));
    await route.continue();
  });
  const undo = page.getByRole('button', { name: 'Undo' }).first();
  await undo.click();
  await undo.click();
  await expect(page.getByText('The drawer is empty')).toBeVisible();
  await page.keyboard.press('Control+y');
  await expect(row(page, 'disc')).toBeVisible();
  await expect(row(page, 'big')).toHaveCount(0);
});

test('all fields of a part are changed in one place; a wrong one says so at the field', async ({ page }) => {
  await page.goto('/drawer');
  await add(page, '100p 15kV cer disc x30');
  await row(page, 'disc').getByRole('button', { name: 'disc', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('DC-bias derating').fill('140');
  await expect(dialog.getByRole('alert')).toContainText('between 0 and 1');
  await dialog.getByLabel('DC-bias derating').fill('55');
  await pick(dialog.getByLabel('Dielectric'), 'Ceramic, class 1');
  await dialog.getByLabel('Rated, dc').fill('20k');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(row(page, 'disc')).toContainText('20.0 kV');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export' }).click();
  const [head, line] = readFileSync(await (await download).path(), 'utf8')
    .trim()
    .split('\n');
  const cell = (name: string) => line.split(',')[head.split(',').indexOf(name)];
  expect([cell('ratedVolts'), cell('dcBiasDerating'), cell('dielectric')]).toEqual([
    '20000',
    '0.55',
    'class-1-ceramic',
  ]);
});

test('a CSV file with three bad lines is looked at first; the good ones go in, and come out again', async ({
  page,
}) => {
  await page.goto('/drawer');
  await add(page, '100p 15kV cer disc x30');
  await page
    .getByLabel('CSV file')
    .setInputFiles(
      csv([
        'kind,name,count,farads,ratedVolts,peakInverseVolts,price',
        'capacitor,disc,25,100p,15k,,',
        'capacitor,knob,4,500p,20 kV,,9.50',
        'diode,stick,16,,,12k,0.40',
        'capacitor,broken,4,lots,20k,,',
        'gizmo,what,1,,,,',
        'diode,half,1.5,,,1k,',
      ]),
    );
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('list', { name: 'Wrong lines' }).getByRole('listitem')).toHaveCount(3);
  await expect(dialog).toContainText('Line 5');
  await expect(dialog.getByRole('list', { name: 'Changes' }).getByRole('listitem')).toHaveCount(3);
  // Nothing has happened yet.
  await expect(page.getByLabel('How many of disc')).toHaveValue('30');
  await dialog.getByRole('button', { name: 'Take in the 3 good lines' }).click();
  await expect(page.getByLabel('How many of disc')).toHaveValue('25');
  await expect(page.getByLabel('Price of knob')).toHaveValue('9.50');
  await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
  await expect(row(page, 'knob')).toHaveCount(0);
  await expect(page.getByLabel('How many of disc')).toHaveValue('30');
});

test('a part in use is reserved; short stock shows in the drawer and at the ladder', async ({ page, request }) => {
  await page.goto('/drawer');
  await add(page, '560p 15kV cer disc x18');
  await add(page, 'diode 12kV 5mA 100ns stick x3');
  const id = await shelve(request, newDesign('Two stages'));
  await page.goto(`/designs/${id}`);
  await page.getByRole('button', { name: 'Capacitors from the drawer' }).click();
  await page.getByRole('button', { name: /^disc/ }).click();
  await expect(page.locator('[data-from-drawer=capacitor]')).toContainText('disc: 4 of 18, 14 left');
  await page.getByRole('button', { name: 'Diodes from the drawer' }).click();
  await page.getByRole('button', { name: /^stick/ }).click();
  await expect(page.locator('[data-from-drawer=diode]')).toContainText('1 short');
  const design = await exported(page);
  expect(design.ladder.capacitor).toMatchObject({ farads: 560e-12, ratedVolts: 15e3 });
  expect(design.ladder.diode).toMatchObject({ peakInverseVolts: 12e3, averageAmps: 5e-3 });
  await expect(page.getByText(/^Revision \d+, saved/)).toBeVisible();
  await page.getByRole('link', { name: 'Drawer' }).click();
  await expect(row(page, 'disc')).toContainText('14 free');
  await expect(row(page, 'stick')).toContainText('1 short');
  await expect(page.getByText('One part is short')).toBeVisible();
  // A value typed over it gives the part back.
  await page.goto(`/designs/${id}`);
  await page.getByLabel('Each capacitor').fill('1n');
  await expect(page.locator('[data-from-drawer=capacitor]')).not.toContainText('of 18');
});

test('resistors and a module come from the drawer too, in strings where one does not carry it', async ({
  page,
  request,
}) => {
  await page.goto('/drawer');
  await add(page, '100M 1W 2kV res long x12');
  await add(page, '4kV 15W 33kHz module board x1');
  const id = await shelve(request, newDesign('Fed'));
  await page.goto(`/designs/${id}`);
  await openLink(page, 'Output');
  await page.getByRole('button', { name: 'Bleeder from the drawer' }).click();
  await page.getByRole('button', { name: /^long/ }).click();
  await expect(page.getByRole('textbox', { name: 'Bleeder' })).toHaveValue('300M');
  await expect(page.locator('[data-from-drawer=bleeder]')).toContainText('long: 3 of 12, 9 left');
  await openLink(page, 'Driver');
  await pick(page.getByLabel('Driver', { exact: true }), 'Bought module');
  await page.getByRole('button', { name: 'Module from the drawer' }).click();
  await page.getByRole('button', { name: /^board/ }).click();
  const design = await exported(page);
  expect(design.driver).toMatchObject({ kind: 'module', openVolts: 4000, frequencyHertz: 33e3, maxWatts: 15 });
  expect(design.output.bleederOhms).toBe(300e6);
  expect(design.resistors.bleeder).toMatchObject({ count: 3, watts: 1, ratedVolts: 2000 });
  await expect(page.getByText(/^Revision \d+, saved/)).toBeVisible();
  await page.getByRole('link', { name: 'Drawer' }).click();
  await expect(row(page, 'board')).toContainText('0 free');
  await expect(row(page, 'long')).toContainText('9 free');
});

test('a driver takes its transistors and tank from the drawer, and its primary’s wire at the bench', async ({
  page,
  request,
}) => {
  await page.goto('/drawer');
  await add(page, 'mosfet 200V 30A switch x8');
  await add(page, '100n 630V 3A film cap pulse x20');
  await add(page, 'wire 0.3mm 50m reel x1');
  const id = await shelve(request, demoDesign('flocking-applicator'));
  await page.goto(`/designs/${id}`);
  await openLink(page, 'Driver');
  await page.getByRole('button', { name: 'Transistors from the drawer' }).click();
  await page.getByRole('button', { name: /^switch/ }).click();
  await expect(page.locator('[data-from-drawer=transistor]')).toContainText('switch: 2 of 8, 6 left');
  await page.getByRole('button', { name: 'Tank capacitors from the drawer' }).click();
  await page.getByRole('button', { name: /^pulse/ }).click();
  // 680 nF of tank asks for seven.
  await expect(page.locator('[data-from-drawer=tank]')).toContainText('pulse: 7 of 20, 13 left');
  await openLink(page, 'Transformer');
  await page.getByRole('button', { name: 'Transformer bench' }).click();
  await page.getByRole('tab', { name: 'Core and primary' }).click();
  await page.getByRole('button', { name: 'Primary wire from the drawer' }).click();
  await page.getByRole('button', { name: /^reel/ }).click();
  await expect(page.locator('[data-from-drawer=primary]')).toContainText('reel: 1 of 1');
  await page.getByRole('navigation', { name: 'Pages of the design' }).getByRole('button', { name: 'Design' }).click();
  const design = await exported(page);
  expect(design.driver).toMatchObject({ tankFarads: 100e-9, tankParallel: 7, tankRatedAmps: 3, ratedVolts: 200 });
  const { margins } = predict(design);
  const wire = margins.find(({ id }) => id === 'primaryCurrent')!;
  expect(wire.margin).toBeGreaterThanOrEqual(0);
  await page.getByRole('button', { name: /case by case/ }).click();
  await expect(page.locator('[data-margin=primaryCurrent]')).toContainText(say(wire.stress, 'A', 3));
});

test('without a server changes stand on screen, survive the page, and add up with what others changed', async ({
  page,
  line,
}) => {
  const first = await page.context().newPage();
  await first.goto(`${line.address}/drawer`);
  await add(first, '100p 15kV cer disc x30');
  await add(first, '1n 10kV cer big x12');
  await expect(row(first, 'big')).toBeVisible();
  line.cut();
  const count = first.getByLabel('How many of disc');
  await count.fill('27');
  await count.press('Enter');
  await expect(first.getByRole('alert').filter({ hasText: 'kept in this browser' })).toBeVisible();
  await expect(count).toHaveValue('27');
  await first.getByRole('button', { name: 'Actions for big' }).click();
  await first.getByRole('menuitem', { name: 'Take out' }).click();
  await expect(row(first, 'big')).toHaveCount(0);
  // The browser takes a moment to write; a tab that ends within it keeps what was written before.
  const steps = async () =>
    ((await written(first, 'eager-ladder-unsaved-drawer')) as { steps: unknown[] }[]).flatMap((one) => one.steps);
  await expect.poll(async () => (await steps()).length).toBe(2);
  await first.close();

  await page.goto('/drawer');
  await page.getByLabel('How many of disc').fill('20');
  const kept = page.waitForResponse('**/api/drawer');
  await page.getByLabel('How many of disc').press('Enter');
  await kept;
  line.restore();
  const again = await page.context().newPage();
  await again.goto(`${line.address}/drawer`);
  const offer = again.getByRole('status').filter({ hasText: 'not saved' });
  await expect(offer).toContainText('2 changes');
  await offer.getByText('Look').click();
  await expect(offer).toContainText('taking out big');
  await offer.getByRole('button', { name: 'Take' }).click();
  await expect(again.getByLabel('How many of disc')).toHaveValue('17');
  await expect(row(again, 'big')).toHaveCount(0);
  await again.reload();
  await expect(again.getByLabel('How many of disc')).toHaveValue('17');
  await expect(offer).toHaveCount(0);
});

test('a drawer that has lost its server sends what was changed when that is back', async ({ page, line }) => {
  await page.goto(`${line.address}/drawer`);
  await add(page, '100p 15kV cer disc x30');
  await expect(row(page, 'disc')).toBeVisible();
  line.cut();
  await page.getByLabel('How many of disc').fill('28');
  await page.getByLabel('How many of disc').press('Enter');
  const trouble = page.getByRole('alert').filter({ hasText: 'Not saved' });
  await expect(trouble).toBeVisible();
  line.restore();
  await expect(trouble).toHaveCount(0);
  await page.reload();
  await expect(page.getByLabel('How many of disc')).toHaveValue('28');
});

test('a long file is read beside the page, a longer one than a drawer takes is refused with the limit', async ({
  page,
}) => {
  await page.goto('/drawer');
  const lines = (count: number) => [
    'kind,name,farads',
    ...Array.from({ length: count }, (_, at) => `capacitor,c${at},1n`),
  ];
  await page.getByLabel('CSV file').setInputFiles(csv(lines(90_000)));
  const dialog = page.getByRole('dialog', { name: 'Before anything is changed' });
  await expect(dialog).toContainText('at most 5000 lines');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  // Read in less than a second, often between two looks from outside: the page itself clicks as soon as there is what to click.
  const cancelled = await page.evaluateHandle(() => {
    const clicked = new Promise<true>((resolve) =>
      new MutationObserver((_, observer) => {
        const reading = [...document.querySelectorAll('[role=dialog]')].find(({ textContent }) =>
          textContent?.includes('Reading the file'),
        );
        const cancel = [...(reading?.querySelectorAll('button') ?? [])].find((one) => one.textContent === 'Cancel');
        if (!cancel) return;
        observer.disconnect();
        cancel.click();
        resolve(true);
      }).observe(document.body, { childList: true, subtree: true, characterData: true }),
    );
    return { clicked };
  });
  await page.getByLabel('CSV file').setInputFiles(csv(lines(5000)));
  expect(await cancelled.evaluate(({ clicked }) => clicked)).toBe(true);
  await expect(page.getByRole('dialog', { name: 'Reading the file' })).toHaveCount(0);
  await expect(page.getByText('The drawer is empty')).toBeVisible();
  await page.getByLabel('CSV file').setInputFiles(csv(lines(5000)));
  await expect(dialog).toContainText('5000 lines new');
  await expect(dialog).toContainText('and 4800 more');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('The drawer is empty')).toBeVisible();
});

test('a page of many parts is served with the first; the rest comes once it stands, and nothing done meanwhile is lost', async ({
  page,
  request,
}) => {
  await page.goto('/drawer');
  const lines = Array.from({ length: 99 }, (_, at) => `capacitor,Disc ${String(at).padStart(2, '0')},${at},100p,10k`);
  await page
    .locator('input[type=file]')
    .setInputFiles(csv(['kind,name,count,farads,ratedVolts', ...lines, 'capacitor,Last disc,5,1n,10k']));
  const arrived = page.waitForResponse('**/api/drawer');
  await page.getByRole('button', { name: /Take in/ }).click();
  await arrived;
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/api/drawer', async (route) => {
    if (route.request().method() === 'GET') await held;
    await route.continue();
  });
  await page.goto('/drawer');
  await expect(page.getByText('Reading 40 more parts…')).toBeVisible();
  await expect(page.locator('[data-part-name]')).toHaveCount(60);
  await page.getByLabel('How many of Disc 07').fill('70');
  await page.keyboard.press('Enter');
  await page.getByRole('searchbox').fill('last disc');
  await expect(page.getByText('None of the parts read so far matches')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export' }).click();
  release();
  await expect(row(page, 'Last disc')).toBeVisible();
  await expect(page.getByText(/^Reading/)).toHaveCount(0);
  const exportedLines = readFileSync(await (await download).path(), 'utf8')
    .trim()
    .split('\n');
  expect(exportedLines).toHaveLength(101);
  expect(exportedLines[8]).toMatch(/^capacitor,Disc 07,70,/);
  await expect
    .poll(
      async () =>
        (await (await request.get('/api/drawer')).json()).parts.find((one: { name: string }) => one.name === 'Disc 07')
          .count,
    )
    .toBe(70);
});
