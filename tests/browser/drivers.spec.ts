import type { Page } from '@playwright/test';
import { DRIVER_KINDS, type DriverKindId } from '../../src/core/drive/driver-kinds';
import { DRIVE_FIGURES, type DriveFigureId } from '../../src/core/drive/figures';
import { newDesign } from '../../src/core/design/new-design';
import { predict } from '../../src/core/predict/predict';
import { transientOf } from '../../src/core/transient/transient';
import { finish } from '../../src/core/numeric/finish';
import { expect, exported, openLink, pick, say, shelve, test } from './fixtures';

/** A computed figure on the open card, as text with plain spaces. */
const figureOn = async (page: Page, id: DriveFigureId) =>
  (await page.locator(`[data-drive-figure=${id}]`).innerText()).replace(/\s+/g, ' ').trim();

/** What the core says of the same figure of the design on screen. */
async function inCore(page: Page, id: DriveFigureId): Promise<string> {
  return say(predict(await exported(page)).source.figures[id]!, DRIVE_FIGURES[id].unit, 4);
}

/** Each kind with a field to change and a figure that answers to it. */
const KINDS: { kind: Exclude<DriverKindId, 'measured'>; field: string; typed: string; figure: DriveFigureId }[] = [
  { kind: 'mains', field: 'Secondary, no load, RMS', typed: '1.2k', figure: 'openPeakVolts' },
  { kind: 'direct-mains', field: 'In series: resistor, lamp, line', typed: '220', figure: 'shortPeakAmps' },
  { kind: 'resonant-push-pull', field: 'Tank capacitor, each', typed: '1u', figure: 'frequencyHertz' },
  { kind: 'flyback', field: 'Duty cycle', typed: '30', figure: 'switchPeakAmps' },
  { kind: 'blocking-oscillator', field: 'Base resistor', typed: '2k2', figure: 'switchPeakAmps' },
  { kind: 'inverter', field: 'Dead time', typed: '2u', figure: 'onFraction' },
  { kind: 'module', field: 'No load, peak', typed: '2.5k', figure: 'openRmsVolts' },
  { kind: 'capacitor-discharge', field: 'Charger gives', typed: '12', figure: 'shotWatts' },
];

test('each kind of driver in turn: chosen, read, changed, read again, undone', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await openLink(page, 'Driver');
  for (const { kind, field, typed, figure } of KINDS)
    await test.step(kind, async () => {
      await pick(page.getByLabel('Driver', { exact: true }), DRIVER_KINDS[kind].name);
      for (const link of ['supply', 'transformer'] as const)
        await expect(page.locator(`[data-link=${link}]`)).toHaveCount(
          (link === 'supply' ? DRIVER_KINDS[kind].needs.supply.length > 0 : DRIVER_KINDS[kind].needs.transformer)
            ? 1
            : 0,
        );
      const before = await figureOn(page, figure);
      expect(before).toBe(await inCore(page, figure));
      const wanted = page.getByLabel(field, { exact: true });
      if (!(await wanted.isVisible())) await page.getByRole('button', { name: 'More' }).click();
      await wanted.fill(typed);
      await expect(page.locator(`[data-drive-figure=${figure}]`)).not.toHaveText(before);
      expect(await figureOn(page, figure)).toBe(await inCore(page, figure));
      expect((await exported(page)).driver.kind).toBe(kind);
      // A change of kind is one step to undo, whatever came with it.
      await wanted.blur();
      for (let step = 0; step < 2; step += 1) await page.getByRole('button', { name: /^Undo/ }).click();
      expect((await exported(page)).driver.kind).toBe('measured');
    });
});

test('a supply is changed, a rectifier inside stops it, and the finding leads to the transformer', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await openLink(page, 'Driver');
  await pick(page.getByLabel('Driver', { exact: true }), DRIVER_KINDS.flyback.name);
  await openLink(page, 'Supply');
  await pick(page.getByLabel('Supply', { exact: true }), 'Battery');
  await page.getByLabel('Cells in series').fill('8');
  expect(await figureOn(page, 'supplyOpenVolts')).toBe('12.00 V');
  await openLink(page, 'Transformer');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByLabel('Rectifier inside').check();
  const finding = page.locator('[data-finding=rectifier-inside]');
  await expect(finding).toContainText('Stop');
  await openLink(page, 'Far end');
  await finding.getByRole('button', { name: 'Transformer' }).click();
  await expect(page.getByLabel('Primary turns, end to end')).toBeVisible();
  await expect(page.getByRole('status').getByText('Nothing climbs')).toBeVisible();
  await finding.getByRole('button', { name: 'Rectifier alone' }).click();
  await expect(finding).toHaveCount(0);
  const design = await exported(page);
  expect(design.ladder.topology).toBe('rectifier');
  await expect(page.locator('[data-figure=noLoadVolts]')).toContainText(say(predict(design).output.noLoadVolts, 'V'));
});

test('where power runs out the verdict says by how much the drive falls', async ({ page, request }) => {
  const loaded = { ...newDesign('Too much asked'), load: { kind: 'current' as const, amps: 1e-3 } };
  await page.goto(`/designs/${await shelve(request, loaded)}`);
  await openLink(page, 'Driver');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByLabel('Most power').fill('0.5');
  await expect(page.locator('[data-finding=drive-over-power]')).toBeVisible();
  const { output, source } = predict(await exported(page));
  expect(source.driveScale).toBeLessThan(0.98);
  await expect(page.locator('[data-figure=droopByDriveVolts]')).toContainText(
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
  expect(await figureOn(page, 'positivePeakVolts')).toBe(await inCore(page, 'positivePeakVolts'));
  expect(await figureOn(page, 'trueRmsVolts')).toBe(await inCore(page, 'trueRmsVolts'));
  expect(output.noLoadVolts).toBeGreaterThan(2000);
  await expect(page.locator('[data-finding=sampled-as-sine]')).toBeVisible();
  await page.getByRole('radio', { name: 'Sine' }).click();
  expect((await exported(page)).driver).toMatchObject({ waveform: 'sine', samples: null });
});

test('without a ladder the output alternates: RMS and peak stand for the mean, and the time domain agrees', async ({
  page,
  request,
}) => {
  const load = { kind: 'resistance' as const, ohms: 50e3 };
  await page.goto(`/designs/${await shelve(request, { ...newDesign('Straight'), load })}`);
  await pick(page.getByLabel('Topology'), 'None, alternating');
  await expect(page.getByLabel('Each capacitor')).toHaveCount(0);
  const design = await exported(page);
  const { rmsVolts, peakVolts, rmsAmps } = predict(design).output.alternating!;
  const shown = async (id: string) =>
    (await page.locator(`[data-figure=${id}]`).innerText()).replace(/\s+/g, ' ').trim();
  expect(await shown('outputRmsVolts')).toBe(say(rmsVolts!, 'V', 4));
  expect(await shown('outputPeakVolts')).toBe(say(peakVolts!, 'V'));
  expect(await shown('outputRmsAmps')).toBe(say(rmsAmps!, 'A'));
  await expect(page.locator('section[aria-label=Verdict] h2')).toContainText('RMS');
  const { transient } = finish(transientOf(design));
  await expect(page.locator('[data-time-domain=outputRmsVolts]')).toContainText(
    say(transient.rmsVolts, 'V', 4).split(' ')[0],
  );
  await page.getByRole('tab', { name: 'Discharge' }).click();
  await expect(page.getByText('Nothing is rectified and nothing stored here')).toBeVisible();
  await page.getByRole('tab', { name: 'Waveforms' }).click();
  await expect(page.getByRole('img', { name: /aveform/ })).toBeVisible();
  await pick(page.getByLabel('Topology'), 'Half-wave');
  await expect(page.locator('[data-part=C1]')).toBeVisible();
});
