'use client';

import { useId, type ReactNode } from 'react';
import { Pick } from './pick';

/** One of several, chosen from a list that opens. */
export function PickField<T extends string>({
  label,
  value,
  options,
  onValue,
  hint,
}: {
  label: string;
  value: T;
  options: readonly { value: T; name: string }[];
  onValue: (value: T) => void;
  hint?: ReactNode;
}) {
  const id = useId();
  return (
    <div className="grid grid-cols-[minmax(5rem,1fr)_minmax(9.5rem,10.5rem)] items-baseline gap-x-2 py-[3px]">
      <label htmlFor={id} className="text-[13.5px] text-soft">
        {label}
      </label>
      <Pick
        id={id}
        value={value}
        options={options}
        onValue={onValue}
        describedBy={hint ? `${id}-says` : undefined}
        className="w-full"
      />
      {hint ? (
        <p id={`${id}-says`} className="col-span-2 text-xs text-soft">
          {hint}
        </p>
      ) : null}
    </div>
  );
}
