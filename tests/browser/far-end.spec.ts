import { airSchema } from '../../src/core/load/air/air';
import { breakdownVolts, strikeMetres, type Band } from '../../src/core/load/air/air-gap';
import { coronaGeometrySchema, coronaOf, type CoronaLaw } from '../../src/core/load/air/corona-geometry';
import { electrodeFarads, electrodeSchema } from '../../src/core/load/air/electrode';
import { climbing, climbingArcSchema, longestArc, type LongestArc } from '../../src/core/load/air/climbing-arc';
import { stringFigures } from '../../src/core/load/kinds/bias-string';
import type { Design } from '../../src/core/design/design-schema';
import { newDesign } from '../../src/core/design/new-design';
import { supplyLine } from '../../src/core/predict/curves';
import { predict } from '../../src/core/predict/predict';
import { demoDesign, expect, exported, openLink, pick, say, shelve, test } from './fixtures';

test('a gap in air: its size becomes what it strikes at, and the output tells how far it jumps', async ({
  page,
  request,
}) => {
  const design = demoDesign('dust-plate-precipitator');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await openLink(page, 'Far end');
  await page.getByRole('button', { name: 'How far it jumps' }).click();
  const panel = page.getByRole('dialog', { name: 'Gap in air' });
  const air = airSchema.parse({});
  const spheres = { electrodes: 'spheres', sphereMetres: 0.05, rodMetres: 0.004 } as const;
  await panel.getByLabel('Diameter of each').fill('50');
  const reaches = strikeMetres(spheres, predict(design).output.noLoadPeakVolts, air) as Band;
  await expect(panel.locator('[data-band=jumps]')).toContainText(say(reaches.likely, 'm', 3));
  await expect(panel.locator('[data-band=jumps]')).toContainText(say(reaches.most!, 'm', 3));
  // More than half the sphere: said at the field, and no figure for it.
  await panel.getByLabel('Gap', { exact: true }).fill('26');
  await expect(panel.getByRole('alert')).toContainText('half the sphere, 25.0 mm');
  await expect(panel.locator('[data-band=strikes]')).toHaveCount(0);
  await panel.getByLabel('Gap', { exact: true }).fill('-3');
  await expect(panel.getByRole('alert').first()).toBeVisible();
  await panel.getByLabel('Gap', { exact: true }).fill('2');
  await panel.getByRole('button', { name: 'Air' }).click();
  await panel.getByLabel('Above the sea').fill('1500');
  const high = { ...air, altitudeMetres: 1500 };
  const strikes = breakdownVolts({ ...spheres, gapMetres: 2e-3 }, high) as Band;
  await expect(panel.locator('[data-band=strikes]')).toContainText(say(strikes.likely, 'V', 3));
  // A voltage under which nothing breaks down.
  await panel.getByLabel('A peak of').fill('300');
  await expect(panel.getByRole('alert')).toContainText('327 V');
  await expect(panel.locator('[data-band=jumps]')).toHaveCount(0);
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

test('a corona’s law comes from its shape, in the air of the workshop and with the sign of the output', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request, demoDesign('dust-plate-precipitator'))}`);
  await openLink(page, 'Far end');
  await pick(page.getByLabel('Kind of load'), 'Corona');
  await page.getByRole('button', { name: 'Corona from its shape' }).click();
  const panel = page.getByRole('dialog', { name: 'Corona' });
  await pick(panel.getByLabel('Shape'), 'Wires between two plates');
  await panel.getByLabel('Wire, diameter').fill('0.3');
  await panel.getByLabel('Wire to plate').fill('15');
  await panel.getByLabel('Wire to next wire').fill('40');
  await expect(panel.getByRole('alert')).toContainText('at most 15.0 mm or at least 50.0 mm');
  await expect(panel.locator('[data-corona=onset]')).toHaveCount(0);
  await panel.getByLabel('Wire to next wire').fill('50');
  await panel.getByLabel('Length of all wire').fill('600');
  const air = airSchema.parse({});
  const law = coronaOf(
    coronaGeometrySchema.parse({
      shape: 'plates',
      wireMetres: 0.3e-3,
      distanceMetres: 0.015,
      pitchMetres: 0.05,
      lengthMetres: 0.6,
    }),
    air,
    'negative',
  ) as CoronaLaw;
  await expect(panel.locator('[data-corona=onset]')).toContainText(say(law.onsetVolts, 'V', 3));
  await panel.getByRole('button', { name: 'Let the load draw so' }).click();
  await page.keyboard.press('Escape');
  const design = await exported(page);
  expect(design.load).toEqual({
    kind: 'corona',
    onsetVolts: Number(law.onsetVolts.toPrecision(3)),
    ampsPerSquareVolt: Number(law.ampsPerSquareVolt.toPrecision(3)),
  });
  await expect(page.locator('[data-link=farEnd]')).toContainText(say(predict(design).output.amps!, 'A').split(' ')[0]);
});

test('a measuring divider: what its meter shows, how far off, what it costs, and a meter that it would kill', async ({
  page,
  request,
}) => {
  await page.goto(`/designs/${await shelve(request, demoDesign('dust-plate-precipitator'))}`);
  await openLink(page, 'Divider');
  await page.getByRole('button', { name: 'Add a measuring divider' }).click();
  const card = page.getByLabel('The divider');
  await expect(card.locator('[data-divider=open]')).toBeVisible();
  await page.getByLabel('String, in all').fill('100M');
  await page.getByLabel('Meter takes at most').fill('50');
  await page.getByLabel('Foot', { exact: true }).fill('1M');
  const { divider, margins, output } = predict(await exported(page));
  await expect(card.locator('[data-divider=shown]')).toContainText(say(-divider!.shownVolts!, 'V', 4));
  await expect(card.locator('[data-divider=off]')).toContainText(say(divider!.errors.atWorst, '%', 2));
  await expect(card.locator('[data-divider=most]')).toContainText(say(divider!.mostShownVolts, 'V'));
  expect(divider!.shownVolts! * divider!.ratio).toBeCloseTo(output.terminalMeanVolts!, 6);
  // It is a load of its own: 5 kV across 101 MΩ is some 50 µA beside the milliamp.
  await expect(card.locator('[data-divider=draws]')).toContainText(say(output.dividerAmps!, 'A'));
  expect(margins.some(({ id }) => id === 'dividerMeter')).toBe(true);
  await expect(page.locator('[data-finding=divider-over-meter]')).toBeVisible();
  await page.getByLabel('Foot', { exact: true }).fill('0');
  await expect(page.getByRole('alert').first()).toBeVisible();
  await page.getByLabel('Foot', { exact: true }).fill('100k');
  await expect(page.locator('[data-finding=divider-over-meter]')).toHaveCount(0);
  // An open foot: said, with the field it is about one click away.
  await expect(page.locator('[data-finding=divider-foot-open]')).toBeVisible();
  await page.getByLabel('Clamp across the foot').fill('30');
  await expect(page.locator('[data-finding=divider-foot-open]')).toHaveCount(0);
  await page.getByRole('button', { name: 'Take the divider away' }).click();
  await expect(page.getByRole('button', { name: 'Add a measuring divider' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Clamp across the foot')).toHaveValue('30');
});

test('what hangs on the output: from its shape, into a touch, its own row and step where it is made dead', async ({
  page,
  request,
}) => {
  const design = demoDesign('dust-plate-precipitator');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await openLink(page, 'Far end');
  await page.getByRole('button', { name: 'Capacitance from its shape' }).click();
  const panel = page.getByRole('dialog', { name: 'What hangs on the output' });
  await pick(panel.getByLabel('Shape'), 'Wire over a grounded plate');
  await panel.getByLabel('Diameter of the wire').fill('200');
  await expect(panel.getByRole('alert')).toContainText('it would touch');
  await expect(panel.locator('[data-electrode=farads]')).toHaveCount(0);
  await panel.getByLabel('Diameter of the wire').fill('1');
  await panel.getByLabel('From it to ground').fill('100');
  const farads = electrodeFarads(
    electrodeSchema.parse({ shape: 'wire', wireMetres: 1e-3, distanceMetres: 0.1 }),
  ) as number;
  await expect(panel.locator('[data-electrode=farads]')).toContainText(say(farads, 'F', 3));
  await panel.getByRole('button', { name: 'Let that hang on the output' }).click();
  await page.keyboard.press('Escape');
  const hung = { ...design, output: { ...design.output, electrodeFarads: Number(farads.toPrecision(3)) } };
  expect((await exported(page)).output).toEqual(hung.output);
  const { front } = predict(hung).contact;
  await openLink(page, 'Output');
  const touched = page.getByRole('region', { name: 'Touched or shorted' });
  await expect(touched.locator('[data-figure=frontAmps]')).toContainText(say(front!.amps, 'A', 3));
  await expect(touched.locator('[data-figure=frontJoules]')).toContainText(say(front!.joules, 'J', 3));

  await page.getByRole('button', { name: 'Make it dead' }).click();
  await expect(page.locator('[data-step="node load"]')).toContainText('keeps its charge if the string has come open');
  await page.goBack();
  await openLink(page, 'Far end');
  await page.getByLabel('Hangs on the output').fill('1u');
  await expect(page.locator('[data-finding=electrode-hazardous]')).toBeVisible();
});

test('smoothing: a section to begin with, its ripple as the core has it, refused without way, beside the time domain', async ({
  page,
  request,
}) => {
  const design = demoDesign('dust-plate-precipitator');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await openLink(page, 'Output');
  await page.getByRole('button', { name: 'Add a smoothing section' }).click();
  const section = page.getByRole('group', { name: 'Smoothing section 1' });
  await section.getByLabel('Capacitor behind it').fill('100n');
  await section.getByLabel('Resistance').fill('150k');
  await section.getByLabel('Capacitor rated').fill('5k');
  const smoothed = await exported(page);
  expect(smoothed.output.smoothing).toEqual([{ ohms: 150e3, henries: 0, farads: 100e-9, ratedVolts: 5000 }]);
  const { output } = predict(smoothed);
  const words = page.locator('[data-smoothing=ripple]');
  await expect(words).toContainText(say(output.terminalRipplePeakToPeakVolts!, 'V', 3));
  await expect(words).toContainText(say(output.ripplePeakToPeakVolts!, 'V', 3));
  expect(output.ripplePeakToPeakVolts!).toBeLessThan(predict(design).output.ripplePeakToPeakVolts! / 3);
  await expect(page.locator('[data-finding=smoothing-over-rating]')).toBeVisible();
  // The picture has it beyond the terminal: bleeder, section and its capacitor, string, load.
  await expect(page.locator('[data-climb-far-end]')).toHaveAttribute('data-climb-far-end', '5');
  await expect(page.locator('[data-far-end=capacitor] title')).toHaveText(/^Smoothing capacitor, 100/);
  // Neither resistance nor inductance: said at the field, and nothing lost.
  await section.getByLabel('Resistance').fill('0');
  await expect(section.getByRole('alert')).toContainText('above zero in one of them');
  expect((await exported(page)).output.smoothing[0].ohms).toBe(150e3);
  await section.getByLabel('Resistance').fill('150k');
  await page.getByRole('button', { name: 'Make it dead' }).click();
  await expect(page.locator('[data-step="node smoothed 1"]')).toContainText('Stick on the smoothing capacitor');
  await page.goBack();
  await openLink(page, 'Output');
  await page.getByRole('button', { name: 'Take section 1 away' }).click();
  await expect(section).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(section.getByLabel('Capacitor behind it')).toHaveValue('100n');
});

test('an arc between two rods: what starts it, what keeps it, and a supply without the current for one', async ({
  page,
  request,
}) => {
  // 3 kV peak behind 20 kΩ: some 100 mA into a short.
  const base = newDesign('Two rods');
  const design: Design = {
    ...base,
    driver: { ...base.driver, positivePeakVolts: 3000, frequencyHertz: 50, seriesOhms: 20e3 } as Design['driver'],
    ladder: { ...base.ladder, topology: 'none' },
  };
  const id = await shelve(request, design);
  await page.goto(`/designs/${id}`);
  await openLink(page, 'Far end');
  await page.getByRole('button', { name: 'How long an arc it keeps' }).click();
  const panel = page.getByRole('dialog', { name: 'Climbing arc' });
  const kept = longestArc(supplyLine(design)) as LongestArc;
  await expect(panel.locator('[data-band=longest]')).toContainText(say(kept.metres.likely, 'm', 3));
  await expect(panel.locator('[data-arc=point]')).toContainText(say(kept.watts, 'W'));
  await panel.getByLabel('Apart where nearest').fill('0.4');
  const rods = climbingArcSchema.parse({ startGapMetres: 0.4e-3 });
  const { startVolts } = climbing(rods, 3000, kept, airSchema.parse({}));
  await expect(panel.locator('[data-band=start]')).toContainText(say((startVolts as Band).likely, 'V', 3));
  await expect(panel.locator('[data-arc=starts]')).toContainText('starts of itself');
  await panel.getByLabel('Apart where nearest').fill('40');
  await expect(panel.getByRole('alert')).toContainText('further apart they glow first');
  await expect(panel.locator('[data-band=start]')).toHaveCount(0);
  await page.keyboard.press('Escape');

  await page.goto(`/designs/${await shelve(request, demoDesign('electrospinning-bench-pair'))}`);
  await openLink(page, 'Far end');
  await page.getByRole('button', { name: 'How long an arc it keeps' }).click();
  await expect(panel.locator('[data-arc=none]')).toContainText('sparks, one after another');
});

test('a bias string: its taps by the core, and a tube that takes too much of it', async ({ page, request }) => {
  const design = demoDesign('photomultiplier-bias');
  await page.goto(`/designs/${await shelve(request, design)}`);
  await openLink(page, 'Far end');
  const card = page.getByLabel('The bias string');
  const load = design.load as Extract<typeof design.load, { kind: 'bias-string' }>;
  const { voltsEach } = stringFigures(load, predict(design).output.meanVolts!);
  await expect(card.locator('[data-load=each]')).toContainText(say(voltsEach, 'V', 3));
  await expect(card).not.toContainText('the taps move');
  await page.getByLabel('The tube takes').fill('100u');
  await expect(card).toContainText('the taps move');
});

test('a grid of wires: energy in each spark, how soon the next, and an arc that stays', async ({ page, request }) => {
  await page.goto(`/designs/${await shelve(request, demoDesign('dust-plate-precipitator'))}`);
  await openLink(page, 'Far end');
  await pick(page.getByLabel('Kind of load'), 'Spark gap');
  await page.getByLabel('Gap strikes at').fill('4k');
  await page.getByLabel('Hangs on the output').fill('200p');
  const sparks = page.getByLabel('Sparks');
  const { sparks: told } = predict(await exported(page));
  await expect(sparks.locator('[data-load=joules]')).toContainText(say(told!.joules!, 'J', 3));
  await expect(sparks.locator('[data-load=refill]')).toContainText(say(told!.leastSeconds!, 's', 2));
  await expect(sparks.locator('[data-load=goes-out]')).toContainText('stays lit');
  await expect(page.locator('[data-finding=arc-stays]')).toBeVisible();
  await page.getByLabel('Gap strikes at').fill('40k');
  await expect(sparks).toHaveCount(0);
});
