import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { faultyRunOf, raisedStresses } from '../../src/core/bench/faults/at-full-drive';
import { faultReadingsOf, faultsOf } from '../../src/core/bench/faults/find';
import { soundBenchOf } from '../../src/core/bench/faults/read-through';
import { ifFaulty } from '../../src/core/bench/faults/what-if';
import { provingOf } from '../../src/core/bench/proving';
import { sessionReadingsSchema } from '../../src/core/bench/session';
import { finish } from '../../src/core/numeric/finish';
import { demoDesign, expect, pick, say, shelve, test } from './fixtures';

test('what may be wrong: the demo’s reversed diode is named with what makes sure of it, and a fault is thought of', async ({
  page,
  request,
}) => {
  const design = demoDesign('photomultiplier-bias');
  const id = await shelve(request, design);
  const [{ session, readings }] = sessionReadingsSchema
    .array()
    .parse(
      JSON.parse(readFileSync('demo/bench.json', 'utf8')).find((one: { design: string }) => one.design === design.name)
        .sessions,
    );
  const todays = { ...session, id: randomUUID(), startedAt: new Date().toISOString() };
  const own = readings.map((one) => ({ ...one, id: randomUUID(), pictureId: null, replaces: null }));
  expect((await request.put(`/api/designs/${id}/bench`, { data: { session: todays, readings: own } })).ok()).toBe(true);
  await page.goto(`/designs/${id}/bench`);
  const suspects = page.getByRole('list', { name: 'Suspects' });
  const plan = finish(provingOf(design, session.source, session.meter));
  const found = finish(
    faultsOf({
      design,
      source: session.source,
      meter: session.meter,
      test: plan,
      readings: faultReadingsOf({ session, readings: own }),
    }),
  );
  if ('why' in found) throw new Error(found.why);
  const [[first], [other]] = found.groups[0].suspects;
  await expect(suspects.getByRole('listitem').first()).toContainText('D4 the wrong way round');
  await expect(suspects).toContainText(first.confirm);
  await page.getByRole('button', { name: 'How to be sure of the others' }).click();
  await expect(suspects).toContainText(other.confirm);

  await page.getByRole('button', { name: 'What would I see if…' }).click();
  await pick(page.getByRole('combobox', { name: 'Where the fault is' }), 'C2');
  await pick(page.getByRole('combobox', { name: 'What is wrong there' }), 'C2 shorted');
  const sound = soundBenchOf(design, session.source, session.meter, plan)!;
  const taps = plan.taps.map(({ node }) => node);
  const shown = ifFaulty(sound, { kind: 'capacitor-shorted', place: 'C2', degree: 0 }, taps);
  for (const { node, faulty } of shown.taps)
    await expect(page.locator(`[data-if=${node}]`)).toContainText(say(faulty!, 'V'));

  // The suspect in the picture of the design, and back to the readings.
  await suspects.getByRole('button', { name: 'The Climb with it at full drive' }).click();
  await expect(page.getByRole('region', { name: 'With a fault' })).toContainText('D4 the wrong way round');
  await expect(page).toHaveURL(new RegExp(`/designs/${id}$`));
  await page.goBack();
  await expect(suspects.getByRole('listitem').first()).toContainText('D4 the wrong way round');
});

test('what if a part of the Climb had a fault: its picture, its figures and the stresses it raises are the core’s, until it is removed', async ({
  page,
  request,
}) => {
  const design = demoDesign('photomultiplier-bias');
  await page.goto(`/designs/${await shelve(request, design)}`);
  const climb = page.getByRole('figure', { name: 'The Climb' });
  await climb.getByRole('button', { name: /^Capacitor C4/ }).click();
  await pick(page.getByRole('combobox', { name: 'What if C4' }), 'C4 shorted');
  const { transient, sound } = finish(faultyRunOf(design, { kind: 'capacitor-shorted', place: 'C4', degree: 0 }))!;
  const bar = page.getByRole('region', { name: 'With a fault' });
  const [first] = raisedStresses(design, sound!.transient, transient);
  await expect(bar).toContainText(`${first.part} `);
  await expect(bar).toContainText(say(first.faulty, first.of === 'diode-amps' ? 'A' : 'V', 3));
  await expect(page.getByRole('region', { name: 'Part C4' })).toContainText('its own ratings say nothing now');
  await climb.getByRole('button', { name: /^Capacitor C5/ }).click();
  const own = transient.capacitors.find(({ id }) => id === 'C5')!;
  await expect(page.getByRole('region', { name: 'Part C5' })).toContainText(say(own.rmsAmps, 'A', 3));
  await expect(climb).toContainText('outlined rungs: without the fault');
  await page.getByRole('tab', { name: 'Waveforms' }).click();
  await expect(page.getByText('dotted: without the fault')).toBeVisible();
  // The verdict stays that of the sound ladder.
  await expect(page.getByText('Reaches').first()).toBeVisible();
  await bar.getByRole('button', { name: 'Remove it' }).click();
  await expect(bar).toBeHidden();
  await expect(climb).not.toContainText('without the fault');
});
