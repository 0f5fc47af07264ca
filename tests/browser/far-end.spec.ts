import { airSchema } from '../../src/core/load/air/air';
import { breakdownVolts, strikeMetres, type Band } from '../../src/core/load/air/air-gap';
import { coronaGeometrySchema, coronaOf, type CoronaLaw } from '../../src/core/load/air/corona-geometry';
import { electrodeFarads, electrodeSchema } from '../../src/core/load/air/electrode';
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
  await openLink(page, 'Load');
  await pick(page.getByLabel('Kind of load'), 'Corona');
  await page.getByRole('button', { name: 'From its shape' }).click();
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
  await expect(page.locator('[data-link=load]')).toContainText(say(predict(design).output.amps!, 'A').split(' ')[0]);
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
  await openLink(page, 'Output');
  await page.getByRole('button', { name: 'From its shape' }).click();
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
  const touched = page.getByRole('region', { name: 'Touched or shorted' });
  await expect(touched.locator('[data-figure=frontAmps]')).toContainText(say(front!.amps, 'A', 3));
  await expect(touched.locator('[data-figure=frontJoules]')).toContainText(say(front!.joules, 'J', 3));

  await page.getByRole('button', { name: 'Make it dead' }).click();
  await expect(page.locator('[data-step="node load"]')).toContainText('keeps its charge if the string has come open');
  await page.goBack();
  await openLink(page, 'Output');
  await page.getByLabel('Hangs on the output').fill('1u');
  await expect(page.locator('[data-finding=electrode-hazardous]')).toBeVisible();
});
