import type { Design } from '../../src/core/design/design-schema';
import { usualDiode } from '../../src/core/parts/diode-kinds';
import { newDesign } from '../../src/core/design/new-design';
import { predict } from '../../src/core/predict/predict';
import { toleranceOf } from '../../src/core/predict/tolerance';
import { transientOf } from '../../src/core/transient/transient';
import { finish } from '../../src/core/numeric/finish';
import {
  demoDesign,
  expect,
  exported,
  figure,
  openLink,
  pick,
  saved,
  say,
  shelve,
  stagesField,
  test,
} from './fixtures';

test('every page of a design comes whole from the server, before any script runs', async ({ request }) => {
  const id = await shelve(request);
  for (const place of ['', '/transformer', '/bench', '/dead']) {
    const html = await (await request.get(`/designs/${id}${place}`)).text();
    expect(html).toContain('aria-label="Name of the design"');
  }
});

test('undo and redo by keyboard and button, saved as they go', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  const stages = stagesField(page);
  await stages.fill('6');
  await saved(page, 2);
  await page.getByLabel('Each capacitor').fill('3n3');
  await saved(page, 3);
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Each capacitor')).toHaveValue('1n');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(stages).toHaveValue('2');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await page.keyboard.press('Control+Shift+z');
  await page.keyboard.press('Control+y');
  await expect(page.getByLabel('Each capacitor')).toHaveValue('3.3n');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Each capacitor')).toHaveValue('3.3n');
});

test('typing stroke by stroke keeps every character, RMS as well; unequal peaks are shown as peaks', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await openLink(page, 'Driver');
  for (const form of ['RMS', 'Peak-to-peak', 'Peak']) {
    await page.getByRole('radio', { name: form, exact: true }).click();
    const field = page.getByLabel(`Voltage, ${form}`);
    await field.fill('');
    await field.pressSequentially('12.05k');
    await expect(field).toHaveValue('12.05k');
    await field.blur();
    await expect(field).toHaveValue('12.05k');
  }
  expect((await exported(page)).driver).toMatchObject({ positivePeakVolts: 12050 });
  await page.getByRole('radio', { name: 'RMS' }).click();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByLabel('Negative peak').fill('600');
  await expect(page.getByLabel('Positive peak')).toHaveValue('12.05k');
  await expect(page.getByText(/12\.65\skV peak-to-peak/)).toBeVisible();
  await page.getByLabel('Negative peak').fill('');
  await expect(page.getByLabel('Voltage, RMS')).toBeVisible();
});

test('a finding leads to the link it is about; notes are kept', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await page.locator('[data-finding=no-bleeder]').getByRole('button', { name: 'Output' }).click();
  await page.getByLabel('Bleeder', { exact: true }).fill('100M');
  await expect(page.locator('[data-finding=no-bleeder]')).toHaveCount(0);
  await saved(page, 2);
  await page.getByLabel('Notes').fill('Wound on the grey bobbin.');
  await saved(page, 3);
  await page.reload();
  await expect(page.getByLabel('Notes')).toHaveValue('Wound on the grey bobbin.');
});

test('figures open to equation, numbers and source; the Climb shows a part and answers one-key changes', async ({
  page,
  request,
}) => {
  const design = demoDesign('flocking-applicator');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await expect(page.locator('[data-part]')).toHaveCount(32);
  expect(await page.evaluate(() => document.documentElement.scrollHeight)).toBe(800);
  const { output, capacitors } = predict(design);
  await page.getByRole('button', { name: /by the capacitors/ }).click();
  await expect(page.getByText('Textbook droop, 2n³/3 + n²/2 − n/6:')).toBeVisible();
  await expect(page.getByText(say(output.textbookDroopVolts!, 'V', 4)).first()).toBeVisible();
  await page.getByRole('button', { name: /Ripple, peak to peak/ }).click();
  await expect(page.getByText('As plus-or-minus:')).toBeVisible();
  await page.locator('[data-part=C4]').click();
  const part = page.getByRole('region', { name: 'Part C4' });
  await expect(part).toContainText(say(capacitors[3].workingVolts, 'V'));
  await expect(part).toContainText('If it fails');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByRole('region', { name: 'Part D5' })).toContainText('blocks up to');
  await page.keyboard.press('PageUp');
  await expect(page.locator('[data-part]')).toHaveCount(36);
  await page.keyboard.press('Shift+PageDown');
  await expect(page.locator('[data-part]')).toHaveCount(34);
  await page.getByRole('button', { name: 'Close the part' }).click();
  await expect(page.getByRole('region', { name: /^Part/ })).toHaveCount(0);
});

test('loss and size typed in tell how capacitors warm; a slow diode is named with its heat', async ({
  page,
  request,
}) => {
  const design: Design = { ...newDesign('Slow and lossy'), load: { kind: 'current', amps: 1e-4 } };
  await page.goto(`/designs/${await shelve(request, design)}`);
  await openLink(page, 'Ladder');
  await page.getByLabel('Diode recovery').fill('3u');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByLabel('Diode average').fill('2m');
  await page.getByLabel('Capacitor loss tangent').fill('0.02');
  await page.getByLabel('Capacitor length').fill('6');
  await page.getByLabel('Capacitor diameter').fill('12');
  await page.getByRole('button', { name: /case by case/ }).click();
  const { capacitors, diodes, margins } = predict(await exported(page));
  const warm = margins.find(({ id }) => id === 'capacitorTemperatureRise')!;
  await expect(page.locator('[data-margin=capacitorTemperatureRise]')).toContainText(`${say(warm.stress, 'K')}, rated`);
  await expect(page.locator('[data-finding=diode-heats]')).toContainText('recovery makes up to');
  await page.locator('[data-part=C1]').click();
  const panel = page.getByRole('region', { name: 'Part C1' });
  await expect(panel).toContainText(`carries ${say(capacitors[0].rmsAmps!, 'A')} RMS`);
  await expect(panel).toContainText(`heats by ${say(capacitors[0].lossWatts!, 'W', 2)}`);
  await page.locator('[data-part=D1]').click();
  await expect(page.getByRole('region', { name: 'Part D1' })).toContainText(
    `each heats by ${say(diodes[0].watts!, 'W', 2)}`,
  );

  const kind = page.getByLabel('Diodes', { exact: true });
  await expect(kind).toHaveText('As entered');
  await pick(kind, 'High-voltage stick');
  await expect(page.getByLabel('Diode forward drop')).toHaveValue(String(usualDiode('stick', 3e3).forwardVolts));
  expect((await exported(page)).ladder.diode).toMatchObject(usualDiode('stick', 3e3));
  await page.getByLabel('Diode forward drop').fill('5');
  await expect(kind).toHaveText('As entered');
});

test('two ends of a floating winding: parts counted, coupled, kept off ground', async ({ page, request }) => {
  const base = newDesign('Two ends');
  await page.goto(`/designs/${await shelve(request, { ...base, load: { kind: 'current', amps: 1e-5 } })}`);
  await openLink(page, 'Ladder');
  await pick(page.getByLabel('Topology'), 'Two-ended');
  await expect(page.getByText('9 capacitors and 8 diodes.')).toBeVisible();
  const prediction = predict(await exported(page));
  expect(await figure(page, 'outputMeanVolts')).toContain(say(prediction.output.meanVolts!, 'V', 4));
  await page.locator('[data-part=C1]').click();
  await expect(page.getByRole('region', { name: 'Part C1' })).toContainText('one at each end of the winding');
  await expect(page.locator('[data-finding=winding-floats]')).toBeVisible();
  await pick(page.getByLabel('Capacitors', { exact: true }), 'Individual values');
  await page.getByLabel('C1, each of 2').fill('2n');
  expect((await exported(page)).ladder.capacitorFarads).toEqual([2e-9, ...Array.from({ length: 7 }, () => 1e-9)]);
});

test('rungs, target and verdict name the same volts, also between one and two kilovolts', async ({ page, request }) => {
  const design = demoDesign('photomultiplier-bias');
  await page.goto(`/designs/${await shelve(request, design)}`);
  const { transient } = finish(transientOf(design));
  const drawing = page.getByRole('group', { name: 'Ladder drawn by potential' });
  await expect(drawing).toContainText(`−${Math.round(transient.meanVolts)}`);
  await expect(drawing).toContainText(`target −${design.target!.volts}`);
});

test('a ladder that climbs nowhere is drawn and explained', async ({ page, request }) => {
  const base = newDesign('Nowhere');
  const ladder = { ...base.ladder, diode: { ...base.ladder.diode, forwardVolts: 2000 } };
  await page.goto(`/designs/${await shelve(request, { ...base, ladder })}`);
  await expect(page.locator('[data-finding=no-output]')).toBeVisible();
  await expect(page.getByRole('heading', { name: /^Nothing climbs/ })).toBeVisible();
  await expect(page.locator('[data-part]')).toHaveCount(8);
  expect(await page.locator('figure').innerHTML()).not.toContain('NaN');
});

test('charts: load line with working point, stages with optimum', async ({ page, request }) => {
  const design = demoDesign('electrospinning-bench-pair');
  await page.goto(`/designs/${await shelve(request, design)}`);
  const { output, optimumStages } = predict(design);
  await expect(page.getByRole('img', { name: /^Load line/ })).toHaveAttribute(
    'aria-label',
    new RegExp(`works at ${say(output.amps!, 'A')}, ${say(output.meanVolts!, 'V')}`.replaceAll(' ', '\\s')),
  );
  await page.getByRole('tab', { name: 'Stages' }).click();
  await expect(page.getByRole('img', { name: `most output at ${optimumStages} stages` })).toBeVisible();
});

test('a slip of units is offered right, and taken with one click', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await page.getByLabel('Each capacitor').fill('2p2');
  await page.getByRole('button', { name: 'Use 2.20 nF' }).click();
  await expect(page.getByLabel('Each capacitor')).toHaveValue('2.2n');
  await expect(page.locator('[data-finding=unit-slip]')).toHaveCount(0);
});

test('past the hard limit there is no figure, and the reason stands beside', async ({ page, request }) => {
  await page.goto(
    `/designs/${await shelve(request, { ...newDesign('Too much'), load: { kind: 'current', amps: 1 } })}`,
  );
  await expect(page.getByRole('heading', { name: /The time domain gives/ })).toBeVisible();
  await expect(page.locator('[data-finding=current-out-of-reach]')).toContainText('can never give 1.00 A');
  expect(await figure(page, 'outputMeanVolts')).toBe('–');
});

test('what would help most does what it says', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, demoDesign('dust-plate-precipitator'))}`);
  const before = predict(await exported(page)).output.meanVolts!;
  const promise = page.getByText('Largest gain').locator('..');
  const words = (await promise.innerText()).replace(/\s+/g, ' ');
  await promise.getByRole('button', { name: 'Apply' }).click();
  await saved(page, 2);
  const gain = predict(await exported(page)).output.meanVolts! - before;
  expect(words).toContain(`+${say(gain, 'V')}`);
});

test('a resistive load is solved for its own current', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await openLink(page, 'Far end');
  await pick(page.getByLabel('Kind of load'), 'Resistance');
  await page.getByLabel('Load resistance').fill('10M');
  await saved(page);
  const { output } = predict(await exported(page));
  expect(output.amps! * 10e6).toBeCloseTo(output.meanVolts!, 3);
  expect(await figure(page, 'outputMeanVolts')).toBe(say(output.meanVolts!, 'V', 4));
});

test('history brings back an earlier state as an edit', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await stagesField(page).fill('9');
  await saved(page, 2);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('dialog')).toContainText(/Stages \d/);
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(stagesField(page)).toHaveValue('2');
  await saved(page, 3);
  await page.keyboard.press('Control+z');
  await expect(stagesField(page)).toHaveValue('9');
});

test('without the server edits are kept, said to be unsaved, and saved when it is back', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await page.route('**/api/designs/**', (route) => route.abort());
  await stagesField(page).fill('7');
  await expect(page.getByText(/Not saved: the server cannot be reached/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/Not saved: the server cannot be reached/)).toBeVisible();
  // The redone edit is tried once of itself; only when that has failed too is there nothing but the button.
  const tried = page.waitForEvent('requestfailed', (failed) => failed.method() === 'PUT');
  await page.keyboard.press('Control+y');
  await tried;
  await page.unroute('**/api/designs/**');
  await page.getByRole('button', { name: 'Try now' }).click();
  await saved(page, 2);
  await expect(stagesField(page)).toHaveValue('7');
});

test('an answer lost on its way is not taken for another tab’s change', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  let lost = 0;
  await page.route('**/api/designs/**', async (route) => {
    if (route.request().method() !== 'PUT' || lost > 0) return route.continue();
    lost += 1;
    await route.fetch();
    await route.abort();
  });
  await stagesField(page).fill('6');
  await expect(page.getByText(/Not saved: the server cannot be reached/)).toBeVisible();
  await page.getByRole('button', { name: 'Try now' }).click();
  await saved(page, 2);
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await stagesField(page).fill('7');
  await saved(page, 3);
});

test('undone to what is saved while a save is under way, the later state wins', async ({ page, request }) => {
  const id = await shelve(request);
  await page.goto(`/designs/${id}`);
  await page.route('**/api/designs/**', async (route) => {
    if (route.request().method() === 'PUT') await new Promise((resolve) => setTimeout(resolve, 700));
    await route.continue();
  });
  await stagesField(page).fill('9');
  await expect(page.getByText('Saving…')).toBeVisible();
  await page.waitForTimeout(800);
  await page.keyboard.press('Control+z');
  await expect(stagesField(page)).toHaveValue('2');
  await saved(page, 3);
  expect((await (await request.get(`/api/designs/${id}`)).json()).design.ladder.stages).toBe(2);
});

test('leaving at once after a keystroke loses nothing', async ({ page, request }) => {
  const id = await shelve(request);
  await page.goto(`/designs/${id}`);
  await stagesField(page).fill('3.5');
  await page.getByRole('link', { name: 'Shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Shelf', exact: true })).toBeVisible();
  await expect
    .poll(async () => (await (await request.get(`/api/designs/${id}`)).json()).design.ladder.stages)
    .toBe(3.5);
  await page.goBack();
  await expect(stagesField(page)).toHaveValue('3.5');
});

test('the command palette and the sheet of keys', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request)}`);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill('half a stage more');
  await page.keyboard.press('Enter');
  await expect(stagesField(page)).toHaveValue('2.5');
  await page.locator('main').click({ position: { x: 640, y: 60 } });
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('One stage more');
});

test('single changes are ranked by what they do, and one click applies one', async ({ page, request }) => {
  const design = { ...newDesign('To be better'), load: { kind: 'current' as const, amps: 100e-6 } };
  await page.goto(`/designs/${await shelve(request, design)}`);
  await page.getByRole('button', { name: 'What each change would do' }).click();
  const dialog = page.getByRole('dialog');
  const stage = dialog.locator('[data-row="One stage more"]');
  await expect(stage).toBeVisible();
  const more = { ...design, ladder: { ...design.ladder, stages: 3 } };
  const gain = predict(more).output.meanVolts! - predict(design).output.meanVolts!;
  await expect(stage).toContainText(`+${say(gain, 'V').split(' ')[0]}`);
  // Ranked: what heads the list gains most.
  await expect(dialog.locator('[data-row]').first()).toContainText('+');
  await dialog.getByRole('button', { name: 'Apply: One stage more' }).click();
  await expect(stage).not.toContainText(`+${say(gain, 'V')}`);
  await dialog.getByRole('button', { name: 'Dismiss' }).click();
  await expect(stagesField(page)).toHaveValue('3');
  expect(await figure(page, 'outputMeanVolts')).toBe(say(predict(more).output.meanVolts!, 'V', 4));
  await page.keyboard.press('Control+z');
  await expect(stagesField(page)).toHaveValue('2');
});

test('tolerances are drawn: the band and the chance the core says, anew when the spread is changed', async ({
  page,
  request,
}) => {
  const design = {
    ...newDesign('Spread'),
    load: { kind: 'current' as const, amps: 100e-6 },
    target: { volts: 3800, amps: 0, ripplePeakToPeakFraction: null, of: 'mean' as const },
  };
  const drawn = (of: Design) => finish(toleranceOf(of))!;
  await page.goto(`/designs/${await shelve(request, design)}`);
  await page.getByRole('tab', { name: 'Tolerance' }).click();
  const output = page.locator('[data-tolerance=outputMeanVolts]');
  const { meanVolts, chance } = drawn(design);
  await expect(output).toContainText(say(meanVolts.low, 'V'));
  await expect(output).toContainText(say(meanVolts.high, 'V'));
  await expect(page.locator('[data-tolerance=chance]')).toContainText(say(chance!, '%', 3));
  await page.getByRole('button', { name: 'Tolerances' }).click();
  await page.getByLabel('Drive’s peaks, ±').fill('20');
  const wider = drawn({ ...design, spread: { ...design.spread, peaks: 0.2 } });
  await expect(output).toContainText(say(wider.meanVolts.low, 'V'));
  expect((await exported(page)).spread.peaks).toBe(0.2);
});

test('stages counted one of each: on every screen, in notes and history, and by the keys', async ({
  page,
  request,
}) => {
  const base = newDesign('Counted');
  const id = await shelve(request, {
    ...base,
    ladder: { ...base.ladder, stages: 3 },
    load: { kind: 'current', amps: 1e-5 },
    target: { volts: 5000, amps: 1e-5, ripplePeakToPeakFraction: null, of: 'mean' },
  });
  await page.goto(`/designs/${id}`);
  await openLink(page, 'Ladder');
  await page.locator('aside[aria-label=Chain]').getByRole('button', { name: 'More' }).click();
  await page.getByRole('radio', { name: 'One of each' }).click();
  await expect(stagesField(page)).toHaveValue('6');
  await expect(page.getByText('A stage is one capacitor and one diode.')).toBeVisible();
  await expect(page.locator('[data-link=ladder]')).toContainText('6 stages');
  const { optimumStages } = predict(await exported(page));
  expect(await figure(page, 'optimumStages')).toBe(`${2 * optimumStages!} stages`);
  await stagesField(page).fill('2.5');
  await expect(page.getByRole('alert').filter({ hasText: 'whole number, 1 to 100' })).toBeVisible();
  await stagesField(page).fill('7');
  await expect.poll(async () => (await exported(page)).ladder.stages).toBe(3.5);
  await stagesField(page).blur();
  await page.keyboard.press('PageUp');
  await expect(stagesField(page)).toHaveValue('9');
  await saved(page);
  await page.keyboard.press('h');
  await expect(page.getByRole('dialog', { name: 'History' })).toContainText(/Stages [67] to 9/);
  await page.goto('/');
  await expect(page.getByRole('row', { name: /Counted/ })).toContainText('9 stages');
  await page.goto(`/choose?design=${id}`);
  await expect(page.getByLabel('to', { exact: true })).toHaveValue('32');
  await page.getByRole('radio', { name: 'Any value' }).click();
  const first = page.locator('[data-choice]').first();
  await expect(first).toContainText(/\d+ stages, half-wave/);
  const count = Number(/(\d+) stages/.exec(await first.innerText())![1]);
  await page.getByRole('button', { name: 'Make it a design' }).click();
  await page.waitForURL(/designs/);
  const made = await exported(page);
  expect(made.ladder.stages).toBe(count / 2);
  expect(made.name).toContain(`${count} stages`);
  expect(made.notes).toContain(`${count} stages`);
});

test('what is just over the target is told with the digits that tell the two apart', async ({ page, request }) => {
  const base = demoDesign('flocking-applicator');
  const ripple = predict(base).output.ripplePeakToPeakFraction!;
  // Both are 1.9 % to the two digits that a ripple is usually told with.
  const target = { ...base.target!, ripplePeakToPeakFraction: ripple * 0.997 };
  expect(say(ripple, '%', 2)).toBe(say(target.ripplePeakToPeakFraction, '%', 2));
  await page.goto(`/designs/${await shelve(request, { ...base, target })}`);
  await expect(page.getByRole('heading', { name: /^Reaches/ })).toContainText(
    `Ripple ${say(ripple, '%', 3)}, over the ${say(target.ripplePeakToPeakFraction, '%', 3)} wanted`,
  );
});
