'use client';

import { useId, type ReactNode } from 'react';
import { useMounted } from './use-mounted';

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
  const mounted = useMounted();
  return (
    <div className="grid grid-cols-[minmax(5rem,1fr)_minmax(9.5rem,10.5rem)] items-baseline gap-x-2 py-[3px]">
      <label htmlFor={id} className="text-[13.5px] text-soft">
        {label}
      </label>
      <select
        id={id}
        value={value}
        disabled={!mounted}
        onChange={(event) => onValue(event.target.value as T)}
        aria-describedby={hint ? `${id}-says` : undefined}
        className="w-full rounded border border-rule bg-sheet px-1.5 py-[3px] text-[13.5px] focus:border-copper"
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.name}
          </option>
        ))}
      </select>
      {hint ? (
        <p id={`${id}-says`} className="col-span-2 text-xs text-soft">
          {hint}
        </p>
      ) : null}
    </div>
  );
}
