import { predict } from '../../src/core/predict/predict';
import { expect, exported, figure, openLink, pick, saved, say, shelve, stagesField, test } from './fixtures';

test('from an empty shelf to a met target by typing, and found again after a reload', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('The shelf is empty')).toBeVisible();
  await page.getByRole('button', { name: 'Start a design' }).click();
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByText('The name must be a name of 1 to 120 characters.')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('Seed sorter plate');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/designs\//);

  await page.getByRole('button', { name: 'Set a target' }).click();
  await page.getByLabel('Voltage', { exact: true }).fill('-14k');
  await page.getByLabel('Current', { exact: true }).fill('50 µA');
  await page.getByRole('textbox', { name: 'Ripple, peak to peak' }).fill('1.5');
  await page.keyboard.press('Escape');

  await openLink(page, 'Far end');
  await pick(page.getByLabel('Kind of load'), 'Steady current');
  await page.getByLabel('Load current').fill('50u');
  await expect(page.getByRole('heading', { name: /Only reaches/ })).toBeVisible();

  await openLink(page, 'Driver');
  await page.getByRole('radio', { name: 'RMS' }).click();
  await page.getByLabel('Voltage, RMS').fill('1.4 kV');
  await expect(page.getByText(/1\.980 kV peak/)).toBeVisible();
  await page.getByLabel('Frequency').fill('32k');
  await openLink(page, 'Ladder');
  // The sign typed with the target is the ladder's polarity.
  await expect(page.getByRole('radio', { name: 'Negative' })).toBeChecked();
  await stagesField(page).fill('4');
  await page.getByLabel('Each capacitor').fill('2n2');
  await page.getByLabel('Capacitor rating').fill('6k3');
  await page.getByLabel('Diode peak inverse').fill('8k');
  await expect(page.getByRole('heading', { name: /^Reaches −1\d\.\d kV/ })).toBeVisible();

  await expect(page.getByText(/Revision \d+, saved/)).toBeVisible();
  const design = await exported(page);
  expect(design.driver).toMatchObject({ positivePeakVolts: expect.closeTo(1400 * Math.SQRT2, 9) });
  const { output, target, energy, optimumStages, input } = predict(design);
  expect(target?.met).toBe(true);
  expect(await figure(page, 'noLoadVolts')).toBe(say(-output.noLoadVolts, 'V'));
  expect(await figure(page, 'outputMeanVolts')).toBe(say(-output.meanVolts!, 'V', 4));
  expect(await figure(page, 'droopVolts')).toBe(`${say(output.droopVolts!, 'V')} · ${say(output.droopFraction!, '%')}`);
  expect(await figure(page, 'rippleVolts')).toBe(say(output.ripplePeakToPeakVolts!, 'V'));
  expect(await figure(page, 'outputWatts')).toBe(
    `${say(output.watts!, 'W')} / ${say(input.watts!, 'W')} · ${say(input.efficiency!, '%', 2)}`,
  );
  expect(await figure(page, 'storedJoules')).toBe(say(energy.joules, 'J'));
  expect(await figure(page, 'optimumStages')).toBe(`${optimumStages} stages`);

  await page.reload();
  expect(await exported(page)).toEqual(design);
  await page.getByRole('link', { name: 'Shelf' }).click();
  await page.getByRole('searchbox').fill('sorter');
  const row = page.getByRole('row', { name: /Seed sorter plate/ });
  await expect(row).toContainText('meets it');
  await expect(row).toContainText(`−${say(output.meanVolts!, 'V').split(' ')[0]}`);
  await row.getByRole('link').click();
  await expect(page.getByLabel('Name of the design')).toHaveValue('Seed sorter plate');
});

test('what does not read stays in the field with its reason, and the last good value stays in force', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request)}`);
  const before = await figure(page, 'outputMeanVolts');
  const field = page.getByLabel('Each capacitor');
  await field.fill('4n7k');
  await expect(page.getByRole('alert').filter({ hasText: 'Two prefixes' })).toBeVisible();
  await expect(field).toHaveAttribute('aria-invalid', 'true');
  await stagesField(page).fill('2.3');
  await expect(page.getByText('Must be a whole or half number from 0.5 to 50.')).toBeVisible();
  await expect(field).toHaveValue('4n7k');
  expect(await figure(page, 'outputMeanVolts')).toBe(before);
  await field.fill('4n7');
  await expect(field).toHaveAttribute('aria-invalid', 'false');
  await field.blur();
  await expect(field).toHaveValue('4.7n');
  await stagesField(page).press('Escape');
  await expect(stagesField(page)).toHaveValue('2');
  await saved(page, 2);
});
