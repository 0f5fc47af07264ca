import { airSchema } from '../../src/core/load/air/air';
import { breakdownVolts, strikeMetres, type Band } from '../../src/core/load/air/air-gap';
import { predict } from '../../src/core/predict/predict';
import { demoDesign, expect, exported, openLink, pick, say, shelve, test } from './fixtures';

test('a gap in air: its size becomes what it strikes at, and the output tells how far it jumps', async ({
  page,
  request,
}) => {
  const design = demoDesign('dust-plate-precipitator');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await openLink(page, 'Load');
  await page.getByRole('button', { name: 'How far it jumps' }).click();
  const panel = page.getByRole('dialog', { name: 'Gap in air' });
  const air = airSchema.parse({});
  const spheres = { electrodes: 'spheres', sphereMetres: 0.05 } as const;
  await panel.getByLabel('Diameter of each').fill('50');
  const reaches = strikeMetres(spheres, predict(design).output.noLoadPeakVolts, air) as Band;
  await expect(panel.locator('[data-gap=jumps]')).toContainText(say(reaches.likely, 'm', 3));
  await expect(panel.locator('[data-gap=jumps]')).toContainText(say(reaches.most!, 'm', 3));
  // More than half the sphere: said at the field, and no figure for it.
  await panel.getByLabel('Gap', { exact: true }).fill('26');
  await expect(panel.getByRole('alert')).toContainText('half the sphere, 25.0 mm');
  await expect(panel.locator('[data-gap=strikes]')).toHaveCount(0);
  await panel.getByLabel('Gap', { exact: true }).fill('-3');
  await expect(panel.getByRole('alert').first()).toBeVisible();
  await panel.getByLabel('Gap', { exact: true }).fill('2');
  await panel.getByRole('button', { name: 'Air' }).click();
  await panel.getByLabel('Above the sea').fill('1500');
  const high = { ...air, altitudeMetres: 1500 };
  const strikes = breakdownVolts({ ...spheres, gapMetres: 2e-3 }, high) as Band;
  await expect(panel.locator('[data-gap=strikes]')).toContainText(say(strikes.likely, 'V', 3));
  // A voltage under which nothing breaks down.
  await panel.getByLabel('A peak of').fill('300');
  await expect(panel.getByRole('alert')).toContainText('327 V');
  await expect(panel.locator('[data-gap=jumps]')).toHaveCount(0);
  await page.keyboard.press('Escape');

  // The air is the workshop's and stays; a gap as the load takes what it strikes at.
  await pick(page.getByLabel('Kind of load'), 'Spark gap');
  await page.getByRole('button', { name: 'From the size of the gap' }).click();
  await expect(panel.getByLabel('Gap', { exact: true })).toHaveValue('2');
  await panel.getByRole('button', { name: 'Let the gap strike at that' }).click();
  await page.keyboard.press('Escape');
  const { load } = await exported(page);
  expect(load).toMatchObject({ kind: 'gap', strikeVolts: Number(strikes.likely.toPrecision(3)) });
});
