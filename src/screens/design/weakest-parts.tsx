'use client';

import type { Prediction } from '@/core/predict/prediction';
import type { PartMargin } from '@/core/stress/margins';
import { fitOf } from '@/core/quantity/margin';
import { FitMark } from '@/ui/fit-mark';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';

/** How many of the weakest parts are in sight before one asks for more. */
const WEAKEST = 4;

/** Every rated part, weakest first: in sight the worst case of what is rated, behind it every case. */
export function WeakestParts({ prediction: { margins } }: { prediction: Prediction }) {
  if (margins.length === 0) return null;
  const isWorst = ({ part, what }: PartMargin, at: number) =>
    margins.findIndex((one) => one.part === part && one.what === what) === at;
  const inSight = margins.filter(isWorst).slice(0, WEAKEST);
  const others = margins.filter((one) => !inSight.includes(one));
  return (
    <div className="mt-3">
      <h3 className="text-[13px] font-semibold text-soft">Weakest parts</h3>
      <ul className="mt-0.5">{inSight.map(marginRow)}</ul>
      {others.length > 0 ? (
        <More words={`All ${margins.length}, case by case`}>
          <ul>{others.map(marginRow)}</ul>
        </More>
      ) : null}
    </div>
  );
}

const CASES: Record<PartMargin['case'], string> = {
  'no load': 'no load',
  'drive high': 'drive at its highest',
  loaded: 'at the load',
  'shorted output': 'output shorted',
  'switched on': 'switched on',
};

function marginRow({ part, what, case: when, stress, rated, unit, margin }: PartMargin) {
  const fit = fitOf(margin);
  const [shown, after] = unit === 'mT' || unit === 'K' ? (['', ` ${unit}`] as const) : ([unit, ''] as const);
  return (
    <li key={`${part} ${what} ${when}`} data-margin={`${part} ${what}`} className="flex items-baseline gap-2 py-0.5">
      <FitMark fit={fit} />
      <span className="min-w-0 flex-1">
        {part}, {what}, {CASES[when]},{' '}
        <span className="whitespace-nowrap">
          <Quantity value={stress} unit={shown} /> of <Quantity value={rated} unit={shown} />
          {after}
        </span>
      </span>
      <span>
        {margin > 0 ? '+' : ''}
        <Quantity value={margin} unit="%" digits={2} /> <span className="text-soft">{fit}</span>
      </span>
    </li>
  );
}
