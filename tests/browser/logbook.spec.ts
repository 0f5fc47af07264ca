import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { lossOfIdle, ringFit, tankRings } from '../../src/core/bench/driver-fit';
import { entrySchema, type Entry } from '../../src/core/bench/entries';
import { expectedOf } from '../../src/core/bench/expected-of';
import { sessionReadingsSchema, sessionSchema } from '../../src/core/bench/session';
import type { Design } from '../../src/core/design/design-schema';
import { meterSchema } from '../../src/core/drive/meter-sense';
import { airSchema } from '../../src/core/load/air/air';
import { airGapSchema } from '../../src/core/load/air/air-gap';
import { predict, WITHOUT_OPTIMUM } from '../../src/core/predict/predict';
import { demoDesign, expect, openLink, pick, say, shelve, test } from './fixtures';

const pageOf = (id: string) => `/designs/${id}/bench`;
const picture = (colour: string) =>
  sharp({ create: { width: 320, height: 240, channels: 3, background: colour } })
    .jpeg()
    .toBuffer();

/** Opens a session; what stands below the plan moves until that is there. */
async function begin(page: Page, id: string): Promise<void> {
  await page.goto(pageOf(id));
  await beginHere(page);
}
async function beginHere(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Begin a session' }).click();
  await expect(page.getByRole('table', { name: 'Expected readings' })).toBeVisible();
}
const form = (page: Page) => page.getByRole('form', { name: 'Record another' });
const what = (page: Page, name: string) => pick(page.getByRole('combobox', { name: 'What is recorded' }), name);
const record = (page: Page) => form(page).getByRole('button', { name: 'Record it' }).click();
const recorded = (page: Page) => page.getByRole('list', { name: 'Recorded' }).getByRole('listitem');

test('a failure with a picture: from the Climb to the record, the history, and a warning wherever its type is used', async ({
  page,
  request,
}) => {
  const id = await shelve(request, demoDesign('dust-plate-precipitator'));
  await page.goto(pageOf(id));
  await page.getByRole('textbox', { name: 'Conditions of the next session' }).fill('Damp, 18 °C');
  await page.getByRole('button', { name: 'Begin a session' }).click();
  await expect(page.locator('[data-bench=session]')).toContainText('Damp, 18 °C');
  await page.getByRole('button', { name: 'Switched on now' }).click();
  await what(page, 'Picture or remark');
  await form(page).getByLabel('Remark').fill('Before the first step.');
  await record(page);
  await expect(recorded(page)).toHaveCount(1);

  await page.getByRole('navigation', { name: 'Pages of the design' }).getByRole('button', { name: 'Design' }).click();
  await page.locator('[data-part=D2]').click();
  await page.getByRole('region', { name: 'Part D2' }).getByRole('button', { name: 'or that it failed' }).click();
  await expect(page).toHaveURL(/\/bench$/);
  await expect(form(page).getByRole('combobox', { name: 'At', exact: true })).toContainText('D2');

  // A program that is called a picture is none, and what is typed stays.
  await form(page).getByLabel('Remark').fill('With a snap.');
  await page.getByLabel('Picture of it').setInputFiles({
    name: 'proof.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.concat([Buffer.from('MZ'), Buffer.alloc(2000, 3)]),
  });
  await expect(form(page).getByRole('alert')).toContainText('no picture');
  await expect(form(page).getByLabel('Remark')).toHaveValue('With a snap.');
  await page.reload();
  await expect(form(page).getByLabel('Remark')).toHaveValue('With a snap.');
  await page
    .getByLabel('Picture of it')
    .setInputFiles({ name: 'proof.jpg', mimeType: 'image/jpeg', buffer: await picture('#7a5a3c') });
  await record(page);
  const failure = recorded(page).filter({ hasText: 'D2 shorted' });
  await expect(failure).toContainText('With a snap.');
  const shown = failure.getByRole('img', { name: /^Picture taken/ });
  await expect.poll(() => shown.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(320);

  await page.goto(`/designs/${id}`);
  await expect(page.locator('[data-failed-before]')).toContainText('One diode of this type failed: shorted');
  await page.getByRole('button', { name: 'History' }).click();
  const history = page.getByRole('dialog', { name: 'History' });
  await expect(history).toContainText('D2 shorted');
  await expect(history.getByRole('img')).toHaveCount(1);

  // Struck out, it warns no longer, and stays kept; undone, it does again.
  await page.goto(pageOf(id));
  await failure.getByRole('button', { name: 'Strike out' }).click();
  await expect(failure).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(failure).toHaveCount(1);
});

test('readings by themselves are judged by the design’s own figures, and tell of the driver', async ({
  page,
  request,
}) => {
  const design = demoDesign('flocking-applicator');
  const id = await shelve(request, design);
  // From its card in the chain.
  await page.goto(`/designs/${id}`);
  await openLink(page, 'Driver');
  await page.getByRole('button', { name: 'Record its frequency…' }).click();
  await beginHere(page);
  await expect(page.getByRole('combobox', { name: 'What is recorded' })).toContainText('Frequency');
  const rings = [
    ['220n', '92k'],
    ['470n', '65k'],
    ['1u', '45k'],
    ['2.2u', '33k'],
  ];
  for (const [farads, hertz] of rings) {
    await form(page).getByLabel('With a tank of').fill(farads);
    await form(page).getByRole('textbox', { name: 'Read', exact: true }).fill(hertz);
    await record(page);
  }
  await expect(recorded(page)).toHaveCount(4);
  await what(page, 'Supply current at full drive, without load');
  await form(page).getByRole('textbox', { name: 'Read', exact: true }).fill('0.8');
  await record(page);
  await expect(recorded(page)).toHaveCount(5);
  const kept = async () => {
    const [{ readings }] = sessionReadingsSchema
      .array()
      .parse(await (await request.get(`/api/designs/${id}/bench`)).json());
    return readings;
  };
  await expect.poll(async () => (await kept()).length).toBe(5);
  const fit = ringFit(tankRings(design, await kept()))!;
  const told = page.locator('[data-bench=driver-fit]');
  for (const henries of [fit.henries, fit.low, fit.high]) await expect(told).toContainText(say(henries, 'H'));
  await expect(told).toContainText(say(lossOfIdle(design, 0.8)!.watts, 'W'));
  await told.getByRole('button', { name: 'Take the driver’s figures into the design' }).click();
  const stored = async () => (await (await request.get(`/api/designs/${id}`)).json()).design;
  await expect.poll(async () => (await stored()).transformer.primaryHenries).toBe(Number(fit.henries.toPrecision(4)));
  expect((await stored()).notes).toContain('primary inductance');

  // A gap between electrodes that are named, and a winding.
  const now: Design = await stored();
  const prediction = predict(now, WITHOUT_OPTIMUM);
  const meter = meterSchema.parse({});
  const between = { gap: airGapSchema.parse({ sphereMetres: 0.05 }), air: airSchema.parse({}) };
  await what(page, 'Gap at which the output sparks, without load');
  await form(page).getByLabel('Diameter of each').fill('50');
  const gap = expectedOf(now, prediction, { kind: 'gap', at: '', meter, between })!;
  await expect(form(page)).toContainText(`Expected ${say(gap.low, 'm')} to ${say(gap.high, 'm')}`);
  await form(page)
    .getByRole('textbox', { name: 'Read', exact: true })
    .fill(String(gap.value * 1e3));
  await record(page);
  await expect(recorded(page).first()).toContainText('spheres 50.0 mm');
  await expect(recorded(page).first()).toContainText('agrees');
  await what(page, 'Resistance of a part, out of circuit');
  await pick(form(page).getByRole('combobox', { name: 'At', exact: true }), 'secondary');
  const { low, high } = expectedOf(now, prediction, { kind: 'resistance', at: 'secondary', meter, between })!;
  await expect(form(page)).toContainText(`Expected ${say(low, 'Ω')} to ${say(high, 'Ω')}`);
});

test('on the number pad: the plan’s next place, a unit by a tap, nothing over the meter, and a tap held and counted', async ({
  page,
  request,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const id = await shelve(request, demoDesign('teaching-tripler'));
  await begin(page, id);
  await page.getByRole('button', { name: 'Switched on now' }).click();
  await page.getByRole('button', { name: 'Number pad' }).click();
  const pad = page.getByRole('dialog');
  const press = async (keys: string) => {
    for (const key of keys) await pad.getByRole('button', { name: key, exact: true }).click();
  };
  await expect(pad.getByRole('heading')).toHaveText('Source');
  await press('12.1');
  await pad.getByRole('button', { name: 'Take it in V', exact: true }).click();
  await expect(pad.getByRole('heading')).toHaveText('Tap B1');
  await press('16.4');
  await pad.getByRole('button', { name: 'Take it in kV' }).click();
  await expect(pad.getByRole('alert')).toContainText('more than the meter is for');
  await pad.getByRole('button', { name: 'Probe is on: count' }).click();
  await page.waitForTimeout(1200);
  await pad.getByRole('button', { name: 'Take it in V', exact: true }).click();
  await expect(pad.getByRole('heading')).toHaveText('Tap B2');
  await press('48900');
  await pad.getByRole('button', { name: 'Take it in mV' }).click();
  await pad.getByRole('button', { name: 'Close' }).click();
  await expect(page.locator('[data-reading=B2]')).toContainText(`${say(48.9, 'V', 4)}agrees`);
  const entries = async (): Promise<Entry[]> => {
    const sessions = (await (await request.get(`/api/designs/${id}/bench`)).json()) as { readings: unknown[] }[];
    return (sessions[0]?.readings ?? []).map((one) => entrySchema.parse(one));
  };
  await expect.poll(async () => (await entries()).length).toBe(3);
  const held = (await entries()).find(({ at }) => at === 'B1');
  expect(held).toMatchObject({ kind: 'tap', value: 16.4 });
  if (held?.kind !== 'tap') throw new Error('no tap');
  expect(held.heldSeconds).toBeGreaterThanOrEqual(1);
  expect(held.sinceOnSeconds).toBeGreaterThanOrEqual(1);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('own meters are kept by name, and a reading through another is not judged by the session’s', async ({
  page,
  request,
}) => {
  const id = await shelve(request, demoDesign('teaching-tripler'));
  await page.goto(pageOf(id));
  await page.getByRole('button', { name: 'Keep this meter' }).click();
  await expect(page.getByRole('alert').first()).toContainText('1 to 40 characters');
  await page.getByRole('textbox', { name: 'Name of this meter' }).fill('Bench meter');
  await page.getByRole('button', { name: 'Keep this meter' }).click();
  await page.getByLabel('Probe divides by').fill('100');
  await page.getByRole('textbox', { name: 'Name of this meter' }).fill('Long probe');
  await page.getByRole('button', { name: 'Keep this meter' }).click();
  await pick(page.getByRole('combobox', { name: 'Own meters' }), 'Bench meter');
  await expect(page.getByLabel('Probe divides by')).toHaveValue('1');
  await page.reload();
  await beginHere(page);
  await what(page, 'Tap, through another meter');
  await pick(form(page).getByRole('combobox', { name: 'At', exact: true }), 'B2');
  await pick(form(page).getByRole('combobox', { name: 'Through' }), 'Long probe');
  await form(page).getByRole('textbox', { name: 'Read', exact: true }).fill('0.49');
  await record(page);
  await expect(recorded(page)).toContainText('through a meter of');
  // The table has a field for the session's own meter still.
  await expect(page.getByRole('textbox', { name: 'Read at B2', exact: true })).toBeVisible();
});

test('a load current and a scope record are drawn beside what is computed', async ({ page, request }) => {
  const id = await shelve(request, demoDesign('teaching-tripler'));
  await begin(page, id);
  await what(page, 'Output at a load current, full drive');
  await form(page).getByLabel('Load current').fill('10u');
  await form(page).getByRole('textbox', { name: 'Read', exact: true }).fill('47');
  await record(page);
  await expect(page.getByRole('img', { name: 'Against the load: 1 point read' })).toBeVisible();
  await what(page, 'Scope record of a node');
  await pick(form(page).getByRole('combobox', { name: 'At', exact: true }), 'A2');
  const rows = Array.from(
    { length: 500 },
    (_, at) => `${at * 1e-4},${16 + 16 * Math.sin(2 * Math.PI * 50 * at * 1e-4 + 1)}`,
  );
  await page.getByLabel('Scope record, a CSV file').setInputFiles({
    name: 'trace.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['time (s),V', ...rows].join('\n')),
  });
  await expect(page.locator('[data-bench=overlay]')).toContainText(`Recorded at A2 with ${say(50, 'Hz')}`);
  await expect(page.getByRole('img', { name: 'Scope record at A2 over the computed waveform' })).toBeVisible();
  await page.getByLabel('Scope record, a CSV file').setInputFiles({
    name: 'trace.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('nothing at all'),
  });
  await expect(form(page).getByRole('alert')).toContainText('No row with two numbers');
});

test('a session goes on over midnight, and is none to go on with half a day later', async ({
  browser,
  baseURL,
  request,
}) => {
  const design = demoDesign('teaching-tripler');
  const id = await shelve(request, design);
  const session = sessionSchema.parse({
    id: randomUUID(),
    revision: 1,
    startedAt: '2026-06-01T22:30:00.000Z',
    source: { kind: 'winding' },
    meter: meterSchema.parse({}),
    note: '',
  });
  const tap = { id: randomUUID(), takenAt: session.startedAt, kind: 'tap', at: 'B1', value: 15, remark: '' };
  const readings = [entrySchema.parse({ ...tap, replaces: null, expected: null })];
  expect((await request.put(`/api/designs/${id}/bench`, { data: { session, readings } })).ok()).toBe(true);
  const context = await browser.newContext({ baseURL, timezoneId: 'Europe/Vienna' });
  await context.addInitScript(() => window.localStorage.setItem('eager-ladder-cautions-read', 'yes'));
  const page = await context.newPage();
  const shown = page.getByRole('combobox', { name: 'Session' });
  await page.clock.setFixedTime('2026-06-02T03:00:00Z');
  await page.goto(pageOf(id));
  await expect(shown).toContainText('2 Jun 2026, 00:30');
  await page.clock.setFixedTime('2026-06-02T11:00:00Z');
  await page.reload();
  await expect(shown).toContainText('Plan alone');
  await context.close();
});
