import type { Locator, Page } from '@playwright/test';
import { lowSourceSchema } from '../../src/core/bench/low-source';
import { fitOf, type Fit } from '../../src/core/bench/fit';
import { provingOf } from '../../src/core/bench/proving';
import { isReading } from '../../src/core/bench/entries';
import { sessionReadingsSchema } from '../../src/core/bench/session';
import { stepsUpOf, USUAL_FRACTIONS } from '../../src/core/bench/steps-up';
import { meterSchema } from '../../src/core/drive/meter-sense';
import { finish } from '../../src/core/numeric/finish';
import { demoDesign, expect, pick, say, shelve, test } from './fixtures';

const METER = meterSchema.parse({});
const SOURCE = lowSourceSchema.parse({ kind: 'winding' });
const pageOf = (id: string) => `/designs/${id}/bench`;
const tap = (page: Page, node: string) => page.locator(`[data-tap=${node}]`);
const field = (page: Page, name: string) => page.getByRole('textbox', { name: `Read at ${name}`, exact: true });
const read = (page: Page, name: string) => page.locator(`[data-reading="${name}"]`);

/** Types a reading the way one does: into the field, and Enter. */
async function take(into: Locator, text: string): Promise<void> {
  await into.fill(text);
  await into.press('Enter');
}

test('a low test: what this meter reads tap by tap, on another source, and what it is not to be put on', async ({
  page,
  request,
}) => {
  const design = demoDesign('teaching-tripler');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await page.getByRole('navigation', { name: 'Pages of the design' }).getByRole('button', { name: 'Bench' }).click();
  await expect(page).toHaveURL(/\/bench$/);
  const expectTaps = async (source: typeof SOURCE, meter: typeof METER) => {
    const { taps } = finish(provingOf(design, source, meter));
    for (const { node, reading, fullVolts } of taps) {
      await expect(tap(page, node)).toContainText(
        reading
          ? `${say(reading.value, 'V')} ${say(reading.low, 'V')} to ${say(reading.high, 'V')}`
          : 'more than the meter takes',
      );
      await expect(tap(page, node)).toContainText(say(fullVolts, 'V'));
    }
  };
  await expectTaps(SOURCE, METER);
  const low = lowSourceSchema.parse({ kind: 'winding', rmsVolts: 6, hertz: 60, ohms: 18 });
  await page.getByLabel('Its voltage, RMS').fill('6');
  await page.getByLabel('Frequency').fill('60');
  await page.getByLabel('Resistance, with what is in series').fill('18');
  await expectTaps(low, METER);
  await page.getByLabel('Jacks marked for, RMS').fill('20');
  await expectTaps(low, { ...METER, limitVolts: 20 });
  await expect(page.locator('[data-finding=taps-over-meter]')).toContainText('B2');
  await page.getByLabel('Jacks marked for, RMS').fill('600');

  await pick(page.getByRole('combobox', { name: 'Kind' }).first(), 'The design’s own drive, turned down');
  await page.getByLabel('Of the full supply').fill('40');
  await expectTaps({ kind: 'turned-down', fraction: 0.4 }, METER);
  await page.getByLabel('Of the full supply').fill('140');
  await expect(page.getByRole('alert').first()).toContainText('from 0.01 to 1');

  const steps = stepsUpOf(design, USUAL_FRACTIONS, METER);
  for (const { fraction, outputVolts, shown, ladderWatts } of steps) {
    const row = page.locator(`[data-step="${fraction}"]`);
    await expect(row).toContainText(say(outputVolts!, 'V'));
    await expect(row).toContainText(`${say(shown!.low, 'V')} to ${say(shown!.high, 'V')}`);
    await expect(row).toContainText(`${say(ladderWatts!, 'W')} into the ladder alone`);
  }
  await page.goBack();
  await expect(page.getByRole('complementary', { name: 'Chain' })).toBeVisible();
});

test('a high design: no hand meter at the steps up, and sticks that a low winding does not reach through', async ({
  page,
  request,
}) => {
  await page.goto(pageOf(await shelve(request, demoDesign('flocking-applicator'))));
  await expect(page.locator('[data-finding=drops-take-all]')).toBeVisible();
  await expect(page.locator('[data-step="1"]')).toContainText('read it through a divider');
  await page.getByRole('button', { name: 'Begin a session' }).click();
  await expect(field(page, 'B1')).toBeVisible();
  await expect(field(page, 'the output at 100 %')).toHaveCount(0);
  await expect(field(page, 'the supply at 100 %')).toBeVisible();
});

test('readings: taken in order, judged, put right without losing what stood, and compared with the revision they are of', async ({
  page,
  request,
}) => {
  const id = await shelve(request, demoDesign('teaching-tripler'));
  await page.goto(pageOf(id));
  await page.getByRole('button', { name: 'Begin a session' }).click();
  await take(field(page, 'the source'), '12.1');
  await expect(read(page, 'the source')).toContainText('agrees');
  // The next field has the keyboard.
  await expect(field(page, 'B1')).toBeFocused();
  await page.keyboard.type('16,4');
  await page.keyboard.press('Enter');
  await expect(read(page, 'B1')).toContainText(`${say(16.4, 'V', 4)}agrees`);
  await page.keyboard.type('31');
  await page.keyboard.press('Enter');
  await expect(read(page, 'B2')).toContainText('off');
  await expect(page.locator('[data-bench=tally]')).toContainText('2 agree, 1 off');

  const right = page.getByRole('button', { name: 'Put right what was read at B2' });
  await right.click();
  await take(field(page, 'B2'), 'about fifty');
  await expect(page.getByRole('alert').first()).toBeVisible();
  await take(field(page, 'B2'), '1200');
  await expect(page.getByRole('alert').first()).toContainText('more than the meter is for');
  await field(page, 'B2').press('Escape');
  await expect(read(page, 'B2')).toContainText('off');
  await right.click();
  await take(field(page, 'B2'), '49');
  await expect(read(page, 'B2')).toContainText(`before: ${say(31, 'V', 4)}`);
  await take(field(page, 'the output at 25 %'), '11.3');
  await expect(page.locator('[data-bench=tally]')).toContainText('4 agree');

  const kept = async () =>
    sessionReadingsSchema.array().parse(await (await request.get(`/api/designs/${id}/bench`)).json());
  await expect.poll(async () => (await kept())[0]?.readings.length).toBe(5);
  await page.reload();
  await expect(read(page, 'B2')).toContainText('agrees');

  // Another revision: readings stay with theirs.
  const { design } = await (await request.get(`/api/designs/${id}`)).json();
  design.ladder.diode.forwardVolts = 5;
  await request.put(`/api/designs/${id}`, { data: { baseRevision: 1, design } });
  await page.reload();
  await expect(page.locator('[data-bench=session]')).toContainText('Revision 1, compared with what that was');
  await expect(read(page, 'B2')).toContainText('agrees');
  await page.goto('/');
  await expect(page.locator('[data-measured]')).toContainText('4 agree');
  await page.goBack();
  await pick(page.getByRole('combobox', { name: 'Session' }), 'Plan alone');
  await expect(read(page, 'B2')).toHaveCount(0);
  await expect(page.getByLabel('Frequency')).toBeVisible();
});

test('what the readings teach: the drop of its diodes, what they cannot tell, and into the design with undo', async ({
  page,
  request,
}) => {
  const design = demoDesign('teaching-tripler');
  const id = await shelve(request, design);
  await page.goto(pageOf(id));
  await page.getByRole('button', { name: 'Begin a session' }).click();
  const volts = { B1: 16.35, B2: 49.05 };
  for (const [node, value] of Object.entries(volts)) await take(field(page, node), String(value));
  const readings = Object.entries(volts).map(([node, value]) => ({
    kind: 'tap' as const,
    node,
    volts: value,
    source: SOURCE,
    meter: METER,
  }));
  const fit = finish(fitOf(design, readings, ['forward'])) as Fit;
  const [{ value, low, high }] = fit.fitted;
  const row = page.locator('[data-fitted=forward]');
  for (const one of [value, low, high]) await expect(row).toContainText(say(one, 'V'));

  await page.getByRole('checkbox', { name: 'Source voltage' }).click();
  await expect(page.locator('[data-bench=alike]')).toContainText('The source voltage and the diodes’ forward drop');
  await page.getByRole('checkbox', { name: 'Capacitance, of' }).click();
  await expect(page.locator('[data-bench=too-few]')).toContainText('2 readings count here: at least 3');
  for (const name of ['Source voltage', 'Capacitance, of']) await page.getByRole('checkbox', { name }).click();

  await page.getByRole('button', { name: 'Take it into the design' }).click();
  await expect(page.locator('[data-bench=session]')).toContainText('the one on screen is 2', { timeout: 15_000 });
  const stored = async () => (await (await request.get(`/api/designs/${id}`)).json()).design;
  expect((await stored()).ladder.diode.forwardVolts / value).toBeCloseTo(1, 3);
  expect((await stored()).spread.forward / ((high - low) / 2 / value)).toBeCloseTo(1, 3);
  expect((await stored()).notes).toContain('the diodes’ forward drop');
  await expect(page.getByRole('button', { name: 'Take it into the design' })).toBeDisabled();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await stored()).ladder.diode.forwardVolts).toBe(design.ladder.diode.forwardVolts);

  await page.goto(`/designs/${id}`);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('dialog', { name: 'History' })).toContainText('measured at the bench, 2 readings');
});

test('at 390 px: a reading waits through a lost line, a closed tab and a lost answer, is sent once, and another device sees it', async ({
  page,
  request,
  line,
}) => {
  const id = await shelve(request, demoDesign('teaching-tripler'));
  const open = async () => {
    const tab = await page.context().newPage();
    await tab.setViewportSize({ width: 390, height: 844 });
    await tab.goto(`${line.address}${pageOf(id)}`);
    return tab;
  };
  let tab = await open();
  await tab.getByRole('button', { name: 'Begin a session' }).click();
  await take(field(tab, 'the source'), '12');
  await expect(read(tab, 'the source')).toContainText('agrees');
  await expect(tab.locator('[data-bench=waiting]')).toHaveCount(0);
  expect(await tab.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);

  line.cut();
  await take(field(tab, 'B1'), '16.4');
  await take(field(tab, 'B2'), '48.9');
  await expect(tab.locator('[data-bench=waiting]')).toContainText('2 readings wait in this browser');
  await expect(read(tab, 'B2')).toContainText('waits in this browser');
  await tab.close();
  line.restore();
  tab = await open();
  await expect(read(tab, 'B2')).toContainText('agrees');
  await expect(tab.locator('[data-bench=waiting]')).toHaveCount(0);

  // Kept by the server, its answer lost: sent again, and there once.
  let lost = 0;
  await tab.route('**/bench', async (route) => {
    if (route.request().method() !== 'PUT' || lost > 0) return route.continue();
    lost += 1;
    await route.fetch();
    await route.abort();
  });
  await take(field(tab, 'the output at 25 %'), '11.2');
  await expect(tab.locator('[data-bench=waiting]')).toHaveCount(0, { timeout: 15_000 });
  expect(lost).toBe(1);
  const kept = sessionReadingsSchema.array().parse(await (await request.get(`/api/designs/${id}/bench`)).json());
  expect(kept).toHaveLength(1);
  expect(
    kept[0].readings
      .filter(isReading)
      .map(({ value }) => value)
      .toSorted((a, b) => a - b),
  ).toEqual([11.2, 12, 16.4, 48.9]);

  // A second device, on its own address, with the same session.
  await page.goto(pageOf(id));
  await expect(read(page, 'B2')).toContainText(say(48.9, 'V', 4));
  await take(field(page, 'the output at 50 %'), '23.9');
  await expect(read(tab, 'the output at 50 %')).toContainText('agrees', { timeout: 15_000 });
  await tab.close();
});
