import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { deadPlanOf, USUAL_PLAN } from '../../src/core/dead/plan';
import { readPartLine } from '../../src/core/drawer/part-line';
import { finish } from '../../src/core/numeric/finish';
import { demoDesign, expect, say, shelve, test } from './fixtures';

const pageOf = (id: string) => `/designs/${id}/dead`;

test('the plan: what stands there, the stick, the worst that may have failed, every step, and it prints', async ({
  page,
  request,
}) => {
  const design = demoDesign('dust-plate-precipitator');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await page.getByRole('button', { name: 'Before power' }).click();
  await page.getByRole('button', { name: 'How it is made dead afterwards' }).click();
  const plan = finish(deadPlanOf(design, USUAL_PLAN));
  for (const { id, terminalVolts, joules, hazardous } of plan.energies) {
    const row = page.locator(`[data-energy=${id}]`);
    if (terminalVolts > 1) await expect(row).toContainText(say(terminalVolts, 'V', 3));
    if (joules > 1e-6) await expect(row).toContainText(say(joules, 'J', 3));
    await expect(row).toContainText(hazardous ? 'over it' : 'under it');
  }
  await expect(page.locator('[data-dead=stick]')).toContainText(say(plan.stick.ohms, 'Ω', 3));
  await expect(page.locator('[data-dead=stick]')).toContainText(`${plan.stick.count} ordinary ones`);
  for (const { fault, message } of plan.faults)
    await expect(page.locator(`[data-fault="${fault.part}"]`)).toHaveText(message);
  for (const { id, node, title } of plan.steps)
    await expect(page.locator(`[data-step="${id}"]`)).toContainText(node && !node.isTerminal ? node.name : title);
  const inside = page.locator('[data-step="node A1"]');
  const { reading, node } = plan.steps.find(({ id }) => id === 'node A1')!;
  await expect(inside).toContainText(say(reading!.failedVolts, 'V', 3));
  await expect(inside).toContainText(node!.empties.join(', '));

  // Of what is in the drawer: the plan goes on with it.
  const part = readPartLine('res 4M7 3500V 2W long x8', randomUUID());
  if (!part.ok) throw new Error(part.reason);
  const { revision } = await (await request.get('/api/drawer')).json();
  const changed = await request.post('/api/drawer', {
    data: { baseRevision: revision, changeId: randomUUID(), put: [part.part] },
  });
  expect(changed.ok()).toBe(true);
  await page.reload();
  const onHand = page.locator(`[data-on-hand="${part.part.id}"]`);
  await expect(onHand).toContainText(say(3 * 4.7e6, 'Ω', 3));
  await onHand.getByRole('button', { name: 'Plan with it' }).click();
  await expect(page.locator('[data-dead=stick]')).toContainText(say(3 * 4.7e6, 'Ω', 3));
  await expect(onHand).toContainText('in the plan');

  // Of the workshop: a lower limit and a stick of one's own; one that is out of range is said at the field.
  await page.getByLabel('Low enough').fill('500');
  await expect(page.getByRole('alert').first()).toContainText('from 1 to 60');
  await page.getByLabel('Low enough').fill('30');
  await page.getByLabel('Stick resistor').fill('2k');
  const arcing = finish(deadPlanOf(design, { limitVolts: 30, stickOhms: 2e3 }));
  await expect(page.locator('[data-finding=contact-arcs]')).toContainText(say(arcing.stick.amps, 'A', 3));
  await expect(page.locator('[data-step="node B2"]')).toContainText('under 30.0');
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('[data-step="node B2"]')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Go through it at the bench' })).toBeHidden();
  await page.emulateMedia({ media: null });
  await page.goBack();
  await expect(page.getByRole('complementary', { name: 'Chain' })).toBeVisible();
});

async function read(tab: Page, volts: string): Promise<void> {
  await tab.getByRole('button', { name: /^Start/ }).click();
  await tab.getByLabel('It reads').fill(volts);
  await expect(tab.getByRole('button', { name: 'Done' })).toBeEnabled();
  await tab.getByRole('button', { name: 'Done' }).click();
}

test('at the bench, on a telephone: through a lost connection, a reload and a closed tab, to the design’s history', async ({
  page,
  request,
  line,
}) => {
  const design = demoDesign('teaching-tripler');
  const id = await shelve(request, design);
  const { steps } = finish(deadPlanOf(design, USUAL_PLAN));
  const open = async () => {
    const tab = await page.context().newPage();
    await tab.setViewportSize({ width: 390, height: 844 });
    await tab.goto(`${line.address}${pageOf(id)}`);
    return tab;
  };
  let tab = await open();
  await tab.getByRole('button', { name: 'Go through it at the bench' }).click();
  const place = () => tab.locator('[data-bench=place]');
  const kept = () => tab.locator('[data-bench=kept]');
  await expect(place()).toHaveText(`Step 1 of ${steps.length}`);
  await expect(kept()).toHaveText('recorded with the design');
  expect(await tab.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  for (const at of [2, 3]) {
    await tab.getByRole('button', { name: 'Done' }).click();
    await expect(place()).toHaveText(`Step ${at} of ${steps.length}`);
  }
  await expect(tab.getByRole('heading', { name: 'Stick on terminal B2' })).toBeVisible();

  // Not under the limit: it does not go on, and says why.
  await tab.getByRole('button', { name: /^Start/ }).click();
  await tab.getByLabel('It reads').fill('75');
  await expect(tab.getByRole('button', { name: 'Done' })).toBeEnabled();
  await tab.getByRole('button', { name: 'Done' }).click();
  await expect(tab.getByRole('alert').first()).toContainText('75.0 V is not under 60.0 V');
  await expect(place()).toHaveText(`Step 3 of ${steps.length}`);

  // Nothing of it is lost without the server, nor over a reload, nor with the tab.
  line.cut();
  await tab.getByLabel('It reads').fill('2.5');
  await tab.getByRole('button', { name: 'Done' }).click();
  await expect(place()).toHaveText(`Step 4 of ${steps.length}`);
  await expect(kept()).toHaveText('kept in this browser, not sent yet');
  await tab.close();
  line.restore();
  tab = await open();
  await tab.getByRole('button', { name: `Go on with step 4 of ${steps.length}` }).click();
  await expect(kept()).toHaveText('recorded with the design');
  for (let left = steps.filter(({ node }) => node && !node.isTerminal).length; left > 0; left -= 1)
    await read(tab, '0.4');
  await tab.getByRole('button', { name: /^Start/ }).click();
  await tab.reload();
  await expect(place()).toHaveText(`Step ${steps.length} of ${steps.length}`);
  await expect(tab.getByRole('button', { name: 'Done' })).toBeDisabled();
  await tab.clock.install();
  await tab.clock.fastForward('06:00');
  await tab.getByLabel('It reads').fill('1');
  await tab.getByRole('button', { name: 'Done' }).click();
  await expect(tab.getByRole('heading', { name: 'All steps done' })).toBeVisible();
  await expect(tab.getByText('The highest that was read: 2.50 V.')).toBeVisible();
  await tab.getByRole('button', { name: 'Close' }).click();
  await expect(tab.getByRole('button', { name: 'Go through it at the bench' })).toBeVisible();
  await tab.close();

  await page.goto(`/designs/${id}`);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('dialog').locator('[data-discharge]')).toContainText(
    `made dead, ${steps.length} of ${steps.length} steps, the highest reading 2.50 V`,
  );
});
