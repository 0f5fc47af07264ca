import { faultKind } from '../../src/core/bench/faults/faults';
import { placeKey, saidOfPlace, type Place } from '../../src/core/bench/faults/next-reading';
import { Training } from '../../src/core/bench/faults/training';
import { provingOf } from '../../src/core/bench/proving';
import { finish } from '../../src/core/numeric/finish';
import { sentence } from '../../src/core/quantity/sentence';
import { trainedLadders } from '../../src/screens/training/ladders';
import { demoDesign, expect, pick, say, test } from './fixtures';

const tripler = trainedLadders({
  tripler: demoDesign('teaching-tripler'),
  bias: demoDesign('photomultiplier-bias'),
}).find(({ id }) => id === 'tripler')!;
const roundOf = (seed: number) =>
  Training.of({ ...tripler, test: finish(provingOf(tripler.design, tripler.source, tripler.meter)) }, seed)!;
/** A round in which a part is at fault, and one with nothing wrong. */
const numberOf = (isWanted: (round: Training) => boolean): number => {
  for (let seed = 1; seed < 100; seed += 1) if (isWanted(roundOf(seed))) return seed;
  throw new Error('No such round.');
};
const hiddenOf = (round: Training) => finish(round.verdict(null)).hidden;

test('the trainer: a shared round, readings one by one, the right answer, and what is kept', async ({ page }) => {
  const seed = numberOf((round) => hiddenOf(round)?.kind === 'diode-open');
  const round = roundOf(seed);
  const hidden = hiddenOf(round)!;
  await page.goto('/train');
  await page.getByLabel('Number of a round').fill('0');
  await expect(page.getByText('Must be a whole number from 1')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Begin with Teaching tripler' })).toBeDisabled();
  await page.getByLabel('Number of a round').fill(String(seed));
  await page.getByRole('button', { name: 'Begin with Teaching tripler' }).click();

  const taken: Place[] = [
    { kind: 'tap', node: 'B2', heldSeconds: null },
    { kind: 'tap', node: 'B1', heldSeconds: null },
    { kind: 'tap', node: 'B2', heldSeconds: 60 },
  ];
  for (const place of taken) {
    await page.getByRole('button', { name: saidOfPlace(place) }).click();
    const shown = finish(round.reading(place))!.volts;
    await expect(page.locator(`[data-place="${placeKey(place)}"]`)).toContainText(say(shown, 'V', 4));
  }
  const left = finish(round.left(taken.map((place) => finish(round.reading(place))!)));
  await expect(page.locator('[data-train=left]')).toContainText(
    `3 readings. ${left.faults} of ${left.of} single faults`,
  );

  // Nothing is lost by a reload.
  await page.reload();
  await expect(page.locator('[data-place=B1]')).toContainText(say(finish(round.reading(taken[1]))!.volts, 'V', 4));

  await pick(page.getByRole('combobox', { name: 'Where the fault is' }), hidden.place);
  await pick(
    page.getByRole('combobox', { name: 'What is wrong there' }),
    sentence(faultKind(hidden.kind).said(hidden.place)),
  );
  await page.getByRole('button', { name: 'Submit answer' }).click();
  const outcome = page.locator('[data-train=outcome]');
  await expect(outcome).toContainText('Right.');
  await expect(outcome).toContainText(hidden.confirm);
  await expect(outcome.getByRole('list', { name: 'Best order' }).getByRole('listitem')).toHaveCount(
    finish(round.best()).length,
  );
  await page.getByRole('button', { name: 'Other ladders' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Teaching tripler' })).toContainText('1 round, 1 right');
  await page.goBack();
  await expect(outcome).toContainText('Right.');
});

test('the trainer: where nothing is wrong a fault is the wrong answer, and an address that is no round says so', async ({
  page,
}) => {
  const seed = numberOf((round) => hiddenOf(round) === null);
  await page.goto(`/train?ladder=tripler&round=${seed}`);
  await page.getByRole('button', { name: 'Submit answer' }).click();
  await expect(page.locator('[data-train=outcome]')).toContainText('No. Nothing is wrong.');
  await page.goto('/train?ladder=tripler&round=0');
  await expect(page.getByText('There is no such round')).toBeVisible();
});
