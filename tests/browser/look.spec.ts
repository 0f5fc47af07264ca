import { lookSteps } from '../../src/screens/look/steps';
import { demoDesign, expect, test } from './fixtures';

const steps = lookSteps(demoDesign('teaching-tripler'));

test('the look asks six questions, answers each after the reader has, and is left for the shelf', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await page.goto('/');
  await page.getByRole('link', { name: 'A look at a tripler' }).click();
  for (const [at, step] of steps.entries()) {
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(step.question);
    await expect(page.getByText(step.answer)).toHaveCount(0);
    const wrong = step.choices[(step.right + 1) % 3];
    await page.getByRole('button', { name: at % 2 === 0 ? step.choices[step.right] : wrong, exact: true }).click();
    await expect(page.getByText(step.answer)).toBeVisible();
    await expect(page.getByText('so it is')).toHaveCount(1);
    await expect(page.getByText('your answer')).toHaveCount(at % 2);
    const moving = page.locator(`[data-climb-motion=${step.plays}] [data-of=nodes]`);
    const first = await moving.getAttribute('d');
    await expect.poll(() => moving.getAttribute('d')).not.toBe(first);
    if (at < steps.length - 1) await page.getByRole('button', { name: 'Next question' }).click();
  }
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await expect(page).toHaveURL('/');
});

test('each question has its address, the back button leads to the one before, and it can be left at once', async ({
  page,
}) => {
  await page.goto('/look?step=3');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(steps[2].question);
  await page.getByRole('button', { name: 'Skip' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(steps[3].question);
  await page.goBack();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(steps[2].question);
  await page.goto('/look?step=99');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(steps[0].question);
  await page.getByRole('link', { name: 'Leave' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf', exact: true })).toBeVisible();
});
