import { changeDesign } from '../../src/core/design/change-design';
import { comparedFigures, comparedWith } from '../../src/core/predict/compared';
import { demoDesign, expect, pick, say, shelve, test } from './fixtures';

test('two revisions, and two designs: what differs, figures, and both ladders on one scale', async ({
  page,
  request,
}) => {
  const design = demoDesign('teaching-tripler');
  const id = await shelve(request, design);
  const taller = changeDesign(design, { path: '$.ladder.stages', value: 4 });
  await request.put(`/api/designs/${id}`, { data: { baseRevision: 1, design: taller } });
  await page.goto(`/designs/${id}`);
  await page.getByRole('button', { name: 'History' }).click();
  await page.getByRole('dialog', { name: 'History' }).getByRole('link', { name: 'Compare' }).click();
  await expect(page).toHaveURL(/\/compare\?one=/);
  const row = (name: string) => page.locator(`[data-compared="${name}"]`);
  await expect(row('Stages')).toBeVisible();
  for (const { label, unit, one, other } of comparedFigures(comparedWith(design), comparedWith(taller))) {
    for (const value of [one, other]) if (value !== null) await expect(row(label)).toContainText(say(value, unit));
  }
  // One scale: the same voltage stands at the same height in both.
  const ticks = page.locator('[data-climb]');
  await expect(ticks).toHaveCount(2);
  const heights = await ticks.evaluateAll((climbs) =>
    climbs.map((climb) =>
      [...climb.querySelectorAll('text')].map((text) => `${text.textContent} ${text.getAttribute('y')}`),
    ),
  );
  const shared = heights[0].filter((tick) => /^\d+ /.test(tick) && heights[1].includes(tick));
  expect(shared.length).toBeGreaterThanOrEqual(2);

  const otherId = await shelve(request, demoDesign('photomultiplier-bias'));
  await page.goto(`/compare?one=${id}`);
  await expect(page.getByRole('status')).toContainText('Choose two designs');
  await pick(page.getByRole('combobox', { name: 'Second design' }), demoDesign('photomultiplier-bias').name);
  await expect(page).toHaveURL(new RegExp(`other=${otherId}`));
  await expect(row('Output, mean')).toBeVisible();
  await page.getByRole('button', { name: 'Exchange the two' }).click();
  await expect(page).toHaveURL(new RegExp(`one=${otherId}`));
  await page.goto(`/compare?one=${id}&other=${otherId}.99`);
  await expect(page.getByRole('status')).toContainText('cannot be read');
});
