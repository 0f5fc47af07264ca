import type { Page } from '@playwright/test';
import { NEEDS, type DriverKind } from '../../src/core/design/driver-schema';
import { newDesign } from '../../src/core/design/new-design';
import { predict } from '../../src/core/predict/predict';
import { expect, exported, openLink, say, shelve, test } from './fixtures';

/** A computed figure on the open card, as text with plain spaces. */
const made = async (page: Page, key: string) =>
  (await page.locator(`[data-made=${key}]`).innerText()).replace(/\s+/g, ' ').trim();

/** What the core says of the same figure of the design on screen. */
async function inCore(page: Page, key: string): Promise<string> {
  const one = predict(await exported(page)).source.figures.find((figure) => figure.key === key)!;
  return say(one.value, one.unit, 4);
}

/** Each kind with a field to change and a figure that answers to it. */
const KINDS: { kind: Exclude<DriverKind, 'measured'>; field: string; typed: string; figure: string }[] = [
  { kind: 'mains', field: 'Secondary without load, RMS', typed: '1.2k', figure: 'open-peak' },
  { kind: 'resonant-push-pull', field: 'Tank capacitor, each', typed: '1u', figure: 'frequency' },
  { kind: 'flyback', field: 'On, of each period', typed: '30', figure: 'peak-amps' },
  { kind: 'blocking-oscillator', field: 'Base resistor', typed: '2k2', figure: 'peak-amps' },
  { kind: 'inverter', field: 'Dead time', typed: '2u', figure: 'on-part' },
  { kind: 'module', field: 'Without load, peak', typed: '2.5k', figure: 'open-rms' },
  { kind: 'capacitor-discharge', field: 'Charger gives', typed: '12', figure: 'power' },
];

for (const { kind, field, typed, figure } of KINDS)
  test(`${kind}: chosen, read, changed, read again`, async ({ page, request }) => {
    await page.goto(`/designs/${await shelve(request)}`);
    await openLink(page, 'Driver');
    await page.getByLabel('Driver', { exact: true }).selectOption(kind);
    for (const link of ['supply', 'transformer'] as const)
      await expect(page.locator(`[data-link=${link}]`)).toHaveCount(
        (link === 'supply' ? NEEDS[kind].supply.length > 0 : NEEDS[kind].transformer) ? 1 : 0,
      );
    const before = await made(page, figure);
    expect(before).toBe(await inCore(page, figure));
    const wanted = page.getByLabel(field, { exact: true });
    if (!(await wanted.isVisible())) await page.getByRole('button', { name: 'More' }).click();
    await wanted.fill(typed);
    await expect(page.locator(`[data-made=${figure}]`)).not.toHaveText(before);
    expect(await made(page, figure)).toBe(await inCore(page, figure));
    expect((await exported(page)).driver.kind).toBe(kind);
    // A change of kind is one step to undo, whatever came with it.
    await page.keyboard.press('Escape');
    for (let step = 0; step < 2; step += 1) await page.getByRole('button', { name: /^Undo/ }).click();
    expect((await exported(page)).driver.kind).toBe('measured');
  });

test('a supply is changed, a rectifier inside stops it, and the finding leads to the transformer', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await openLink(page, 'Driver');
  await page.getByLabel('Driver', { exact: true }).selectOption('flyback');
  await openLink(page, 'Supply');
  await page.getByLabel('Supply', { exact: true }).selectOption('battery');
  await page.getByLabel('Cells in series').fill('8');
  expect(await made(page, 'open-volts')).toBe('12.00 V');
  await openLink(page, 'Transformer');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByLabel('Rectifier inside').check();
  const finding = page.locator('[data-finding=rectifier-inside]');
  await expect(finding).toContainText('Stop');
  await openLink(page, 'Load');
  await finding.getByRole('button', { name: 'Transformer' }).click();
  await expect(page.getByLabel('Primary turns, end to end')).toBeVisible();
});

test('where power runs out the verdict says by how much the drive falls', async ({ page, request }) => {
  const loaded = { ...newDesign('Too much asked'), load: { kind: 'current' as const, amps: 1e-3 } };
  await page.goto(`/designs/${await shelve(request, loaded)}`);
  await openLink(page, 'Driver');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByLabel('Most power').fill('0.5');
  await expect(page.locator('[data-finding=drive-over-power]')).toBeVisible();
  const { output, source } = predict(await exported(page));
  expect(source.level).toBeLessThan(0.98);
  await expect(page.locator('[data-figure=droopByDrive]')).toContainText(
    say(output.droopByDriveVolts!, 'V').split(' ')[0],
  );
});

test('a scope record becomes the waveform, is drawn, and gives way to a sine again; a bad one says why', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await openLink(page, 'Driver');
  const file = (text: string) => ({ name: 'scope.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  const record = page.getByLabel(/scope record/);
  await record.setInputFiles(file('Time (us);CH1 (V)\n0;1\n1;2'));
  await expect(page.getByRole('alert').filter({ hasText: 'at least 16' })).toBeVisible();
  // A peak of 900 V and a dip of 300 V at 25 kHz, decimal commas.
  const rows = Array.from({ length: 400 }, (_, at) => {
    const angle = (2 * Math.PI * at) / 80;
    const volts = Math.sin(angle) > 0 ? 900 * Math.sin(angle) : 300 * Math.sin(angle);
    return `${(at / 2).toFixed(1)};${volts.toFixed(2)}`.replaceAll('.', ',');
  });
  await record.setInputFiles(file(['Time (us);CH1 (V)', ...rows].join('\n')));
  await expect(page.getByRole('radio', { name: 'Recorded' })).toBeChecked();
  const design = await exported(page);
  const { drive, output } = predict(design);
  expect(drive.frequencyHertz / 25e3).toBeCloseTo(1, 3);
  expect([drive.positivePeakVolts / 900, drive.negativePeakVolts / 300]).toEqual([
    expect.closeTo(1, 2),
    expect.closeTo(1, 2),
  ]);
  expect(await made(page, 'positive-peak')).toBe(await inCore(page, 'positive-peak'));
  expect(await made(page, 'true-rms')).toBe(await inCore(page, 'true-rms'));
  expect(output.noLoadVolts).toBeGreaterThan(2000);
  await expect(page.locator('[data-finding=sampled-as-sine]')).toBeVisible();
  await page.getByRole('radio', { name: 'Sine' }).click();
  expect((await exported(page)).driver).toMatchObject({ waveform: 'sine', samples: null });
});
