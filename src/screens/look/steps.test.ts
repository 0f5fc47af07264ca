import { readFileSync } from 'node:fs';
import { readDesignText } from '@/core/design/read-design';
import { predict } from '@/core/predict/predict';
import { chargeUpOf } from '@/core/transient/charge-up';
import { dischargeOf } from '@/core/transient/discharge';
import { motionOf } from '@/core/transient/motion';
import { transientOf } from '@/core/transient/transient';
import { finish } from '@/core/numeric/finish';
import { DISCHARGE, lookDesigns, lookSteps } from './steps';

const reading = readDesignText(readFileSync('demo/teaching-tripler.ladder.json', 'utf8'));
if (!reading.ok) throw new Error('the demo tripler does not read');
const tripler = reading.design;
const designs = lookDesigns(tripler);
const steps = lookSteps(tripler);
const { transient, waveforms } = finish(transientOf(designs.loaded));
const prediction = predict(designs.loaded);
const settled = motionOf(prediction, waveforms, 'settled');

// What the look calls right is what the circuit does in time, by another way than the closed form its figures are from.
const claims: [string, () => boolean[]][] = [
  [
    'the lowest rung stands at the peak less a drop',
    () => {
      const { nodes } = finish(transientOf(designs['no-load'])).transient;
      const lowest = nodes.find(({ id }) => id === 'B1')!.meanVolts;
      return [12, 12 * Math.SQRT2 - 0.5, 24 * Math.SQRT2].map((volts) => Math.abs(lowest - volts) < 0.2);
    },
  ],
  [
    'D1 conducts with D3, D2 alone',
    () => {
      const sets = new Set(
        Array.from(settled.times, (_, frame) =>
          settled.diodes
            .filter(({ conducts }) => conducts[frame])
            .map(({ id }) => id)
            .join(),
        ),
      );
      return [sets.has('D1,D2,D3'), sets.has('D1,D3') && sets.has('D2'), !sets.has('D1,D3')];
    },
  ],
  [
    'the lowest rung is up first',
    () => {
      const run = finish(chargeUpOf(designs.loaded, transient.terminalMeanVolts, false));
      const { nodes } = motionOf(prediction, run.moments, 'charge-up');
      const up = (id: string) => {
        const course = nodes.get(id)!;
        return course.findIndex((volts) => volts > 0.8 * course[course.length - 1]);
      };
      return [up('B1') < up('B2'), up('B2') < up('B1'), up('B1') === up('B2')];
    },
  ],
  [
    'the top sags most',
    () => {
      const open = finish(transientOf(designs['no-load'])).transient.nodes;
      const sag = (id: string) =>
        open.find((node) => node.id === id)!.meanVolts - transient.nodes.find((node) => node.id === id)!.meanVolts;
      return [sag('B1') > sag('B2'), sag('B2') > 1.5 * sag('B1'), Math.abs(sag('B1') - sag('B2')) < 0.1];
    },
  ],
  [
    'half the droop is left',
    () => {
      const open = finish(transientOf(designs['no-load'])).transient.meanVolts;
      const droop = open - transient.meanVolts;
      const left = (open - finish(transientOf(designs.larger)).transient.meanVolts) / droop;
      return [left > 0.9, left > 0.4 && left < 0.6, left < 0.35];
    },
  ],
  [
    'capacitors keep a charge',
    () => {
      const start = new Map(transient.nodes.map(({ id, meanVolts }) => [id, meanVolts]));
      const { samples, capacitors } = dischargeOf(designs.loaded, start, DISCHARGE);
      const kept = Math.max(...capacitors.map(({ volts }) => Math.abs(volts)));
      const end = samples[samples.length - 1].volts;
      return [kept < 0.1, kept > 1 && end < 10, end > 0.9 * transient.meanVolts];
    },
  ],
];

it('has six steps, each with three choices', () => {
  expect(steps).toHaveLength(claims.length);
  for (const { choices } of steps) expect(new Set(choices).size).toBe(3);
});

it.each(claims)('%s', (_, holds) => {
  const at = claims.findIndex(([name]) => name === _);
  expect(holds()).toEqual([0, 1, 2].map((choice) => choice === steps[at].right));
});
