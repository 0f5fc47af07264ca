'use client';

import { Collapsible } from 'radix-ui';
import type { Prediction } from '@/core/predict/prediction';

/** What to see to before power; folded, since it is read once, with the work on the bench. */
export function BeforePower({ checks, onDead }: { checks: Prediction['beforePower']; onDead: () => void }) {
  return (
    <Collapsible.Root className="mt-3">
      <Collapsible.Trigger className="group flex w-full items-baseline justify-between rounded text-left">
        <span className="text-[13px] font-semibold text-soft">Before power</span>
        <span className="text-[13px] text-copper group-data-[state=open]:hidden">
          {checks.length} checks before power
        </span>
      </Collapsible.Trigger>
      <Collapsible.Content>
        <ol aria-label="Before power" className="mt-1 grid list-decimal gap-1.5 pl-5 text-[13px]">
          {checks.map(({ code, text }) => (
            <li key={code} data-before={code}>
              {text}
            </li>
          ))}
        </ol>
        <button type="button" className="no-print mt-1.5 text-[13px] text-copper hover:underline" onClick={onDead}>
          How it is made dead afterwards
        </button>
      </Collapsible.Content>
    </Collapsible.Root>
  );
}
