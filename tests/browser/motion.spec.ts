import { changeDesign } from '../../src/core/design/change-design';
import { predict } from '../../src/core/predict/predict';
import { motionOf, placeAt, valueAt } from '../../src/core/transient/motion';
import { transientOf } from '../../src/core/transient/transient';
import { finish } from '../../src/core/numeric/finish';
import { demoDesign, expect, exportedFile, say, shelve, test } from './fixtures';

const tripler = demoDesign('teaching-tripler');
const { transient, waveforms } = finish(transientOf(tripler));
const motion = motionOf(predict(tripler), waveforms, 'settled');

const moment = '[data-moment]';

test('the Climb plays, pauses, steps from diode to diode and goes back to the steady picture', async ({
  page,
  request,
}) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await page.goto(`/designs/${await shelve(request, tripler)}`);
  const play = page.getByRole('button', { name: 'Play' });
  await expect(play).toBeEnabled();
  await play.click();
  const picture = page.locator('[data-climb-motion=settled]');
  const nodes = picture.locator('[data-of=nodes]');
  const first = await nodes.getAttribute('d');
  await expect.poll(() => nodes.getAttribute('d')).not.toBe(first);
  await page.getByRole('button', { name: 'Pause' }).click();
  const stood = await page.locator(moment).innerText();
  await page.keyboard.press('x');
  await expect(page.locator(moment)).not.toHaveText(stood);
  const seen = new Set<string>();
  for (let stepped = 0; stepped < motion.events.length; stepped += 1) {
    seen.add((await picture.getAttribute('data-conducting')) ?? '');
    await page.getByRole('button', { name: 'To the next diode that starts or stops' }).click();
  }
  for (const id of ['D1', 'D2', 'D3']) expect([...seen].some((conducting) => conducting.includes(id))).toBe(true);
  await page.getByRole('button', { name: 'Back to the steady picture' }).click();
  await expect(picture).toHaveCount(0);
  await expect(page.locator('[data-climb-from=time-domain]')).toBeVisible();
});

test('one moment in Climb and waveforms: dragging in either moves both, with the figures of the core', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request, tripler)}`);
  await page.getByRole('tab', { name: 'Waveforms' }).click();
  const slider = page.getByRole('slider', { name: 'Moment' });
  await slider.fill('0.75');
  const line = page.locator('[data-moment-line=settled]');
  const seconds = async () => Number(await line.getAttribute('data-seconds'));
  expect(await seconds()).toBeCloseTo(0.015, 4);
  const output = valueAt(motion.output, placeAt(motion, 0.75));
  await expect(page.locator(moment)).toContainText(`output ${say(output, 'V')}`);
  const chart = page.getByRole('img', { name: /^Waveforms over one period/ });
  const box = (await chart.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  const dragged = await seconds();
  expect(dragged).toBeGreaterThan(0.004);
  expect(dragged).toBeLessThan(0.014);
  expect(Number(await slider.inputValue())).toBeCloseTo(dragged / motion.times[motion.times.length - 1], 2);
});

test('charge-up and discharge play from nothing and to nothing; nothing moves where motion is not wanted', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request, tripler)}`);
  await page.getByRole('tab', { name: 'Charge-up' }).click();
  const slider = page.getByRole('slider', { name: 'Moment' });
  await expect(page.getByText('step or drag')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play' })).toHaveCount(0);
  const outputAt = async (position: string) => {
    await slider.fill(position);
    return parseFloat((await page.locator(moment).innerText()).match(/output (\S+)/)![1]);
  };
  expect(await outputAt('0')).toBe(0);
  const end = await outputAt('1');
  expect(end).toBeGreaterThan(0.94 * transient.meanVolts);
  expect(end).toBeLessThan(1.01 * transient.meanVolts);
  await expect(page.locator('[data-moment-line=charge-up]')).toBeVisible();
  await page.getByRole('tab', { name: 'Discharge' }).click();
  await expect(page.locator('[data-climb-motion=discharge]')).toBeVisible();
  expect(await outputAt('0')).toBeCloseTo(transient.meanVolts, 0);
});

test('a still of a moment is a picture of its own, as SVG and as PNG', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, tripler)}`);
  await page.getByRole('slider', { name: 'Moment' }).fill('0.24');
  const svg = (await exportedFile(page, 'Picture')).toString('utf8');
  expect(svg).toContain('<title>Low-voltage teaching tripler</title>');
  expect(svg).toContain('target 45.0');
  expect(svg).not.toMatch(/var\(|oklab|class=|style=/);
  expect(svg.match(/<svg/g)).toHaveLength(3);
  const png = await exportedFile(page, 'Picture in points');
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  const parsed = await page.evaluate(
    (text) => new DOMParser().parseFromString(text, 'image/svg+xml').querySelectorAll('parsererror').length,
    svg,
  );
  expect(parsed).toBe(0);
});

test('a change applied shows old and new together until it is hidden or undone', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, tripler)}`);
  await page.locator('[data-climb-from=time-domain]').waitFor();
  await page.keyboard.press('PageUp');
  const before = page.locator('[data-climb-before]');
  await expect(before).toContainText(`before ${say(transient.meanVolts, 'V').split(' ')[0]}`);
  const more = changeDesign(tripler, { path: '$.ladder.stages', value: 2.5 });
  await expect(page.locator('[data-figure=outputMeanVolts]')).toContainText(
    say(predict(more).output.meanVolts!, 'V', 4).split(' ')[0],
  );
  await page.getByRole('button', { name: 'Hide what stood before' }).click();
  await expect(before).toHaveCount(0);
  await page.keyboard.press('PageUp');
  await expect(before).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(before).toHaveCount(0);
});
