'use client';

import { useId } from 'react';
import { useListening } from './use-listening';

/** A short text that is kept as it is typed. */
export function TextField({
  label,
  value,
  onValue,
}: {
  label: string;
  value: string;
  onValue: (value: string) => string | null;
}) {
  const listening = useListening();
  const id = useId();
  return (
    <div className="py-[3px]">
      <label htmlFor={id} className="text-[13.5px] text-soft">
        {label}
      </label>
      <textarea
        id={id}
        rows={2}
        maxLength={500}
        value={value}
        readOnly={!listening}
        onChange={(event) => onValue(event.target.value)}
        className="mt-0.5 block w-full field resize-y px-2 py-1 text-[13.5px]"
      />
    </div>
  );
}
