'use client';

import type { Prediction } from '@/core/predict/prediction';
import type { PartMargin } from '@/core/stress/all-margins';
import { fitOf } from '@/core/stress/margin';
import { FitMark } from '@/ui/fit-mark';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';

/** How many of the weakest parts are in sight before one asks for more. */
const WEAKEST = 4;

/** Every rated part, weakest first. */
export function WeakestParts({ prediction: { margins } }: { prediction: Prediction }) {
  if (margins.length === 0) return null;
  return (
    <div className="mt-3">
      <h3 className="text-[13px] font-semibold text-soft">Weakest parts</h3>
      <ul className="mt-0.5">{margins.slice(0, WEAKEST).map(marginRow)}</ul>
      {margins.length > WEAKEST ? (
        <More words={`All ${margins.length} rated`}>
          <ul>{margins.slice(WEAKEST).map(marginRow)}</ul>
        </More>
      ) : null}
    </div>
  );
}

const CASES: Record<PartMargin['case'], string> = {
  'no load': 'no load',
  loaded: 'at the load',
  'shorted output': 'output shorted',
  'switched on': 'switched on',
};

function marginRow({ part, what, case: when, stress, rated, unit, margin }: PartMargin) {
  const fit = fitOf(margin);
  const [shown, after] = unit === 'mT' ? (['', ' mT'] as const) : ([unit, ''] as const);
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
