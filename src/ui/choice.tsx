'use client';

import { ToggleGroup } from 'radix-ui';

/** One of a few, all in sight. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onValue,
}: {
  label: string;
  value: T;
  options: readonly { value: T; name: string }[];
  onValue: (value: T) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => next && onValue(next as T)}
      className="field my-[3px] inline-flex w-full p-0.5"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          className="flex-auto rounded-[3px] px-1.5 text-[13px] whitespace-nowrap text-soft data-[state=on]:bg-tint data-[state=on]:font-medium data-[state=on]:text-ink"
        >
          {option.name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
