'use client';

import { memo } from 'react';
import { fitOf } from '@/core/quantity/margin';
import { CONDITIONS, formatSubject, ratingKind, type Margin } from '@/core/quantity/ratings';
import { FitMark } from '@/ui/fit-mark';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';

/** How many of the weakest parts are in sight before one asks for more. */
const WEAKEST = 4;

/** Every rated part, weakest first: in sight the worst case of what is rated, behind it every case. */
export const WeakestParts = memo(function WeakestParts({ margins }: { margins: readonly Margin[] }) {
  if (margins.length === 0) return null;
  const isWorst = ({ part, id }: Margin, at: number) =>
    margins.findIndex((one) => one.part === part && one.id === id) === at;
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
});

function marginRow({ id, part, condition, stress, rated, margin }: Margin) {
  const fit = fitOf(margin);
  const { rating, unit } = ratingKind(id);
  return (
    <li key={`${id} ${part} ${condition}`} data-margin={id} className="flex items-baseline gap-2 py-0.5">
      <FitMark fit={fit} />
      <span className="min-w-0 flex-1">
        {formatSubject({ id, part })}, {rating}, {CONDITIONS[condition]}: works at{' '}
        <span className="whitespace-nowrap">
          <Quantity value={stress} unit={unit} />, rated <Quantity value={rated} unit={unit} />
        </span>
      </span>
      <span>
        <Quantity value={margin} unit="%" digits={2} plus /> <span className="text-soft">{fit}</span>
      </span>
    </li>
  );
}
