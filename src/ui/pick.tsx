'use client';

import { getNonce } from 'get-nonce';
import Check from 'lucide-react/icons/check';
import ChevronDown from 'lucide-react/icons/chevron-down';
import { Select } from 'radix-ui';
import { useTouch } from './use-media';

/** The list takes an empty value for none at all. */
const KEY = '=';
const keyOf = (value: string) => `${KEY}${value}`;

/** One of several, chosen from a list that opens; the system's own list under a finger. */
export function Pick<T extends string>({
  id,
  label,
  value,
  options,
  onValue,
  describedBy,
  className = '',
}: {
  id?: string;
  /** Where no label on screen is for it. */
  label?: string;
  value: T;
  options: readonly { value: T; name: string }[];
  onValue: (value: T) => void;
  /** Id of what says more. */
  describedBy?: string;
  /** Its width and what else its place asks for. */
  className?: string;
}) {
  const touch = useTouch();
  const common = { id, 'aria-label': label, 'aria-describedby': describedBy };
  if (touch)
    return (
      <select
        {...common}
        value={value}
        onChange={(event) => onValue(event.target.value as T)}
        className={`field px-1.5 text-[13.5px] ${className}`}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.name}
          </option>
        ))}
      </select>
    );
  return (
    <Select.Root value={keyOf(value)} onValueChange={(key) => onValue(key.slice(KEY.length) as T)}>
      <Select.Trigger
        {...common}
        className={`field inline-flex items-center justify-between gap-1 pr-1 pl-2 text-left text-[13.5px] text-ink ${className}`}
      >
        <span className="truncate">
          <Select.Value>{options.find((option) => option.value === value)?.name}</Select.Value>
        </span>
        <Select.Icon>
          <ChevronDown className="size-3.5 shrink-0 text-soft" aria-hidden="true" />
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={2}
          collisionPadding={8}
          className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden rounded-md border border-rule bg-sheet p-1"
        >
          <Select.Viewport nonce={getNonce()}>
            {options.map((option) => (
              <Select.Item
                key={option.value}
                value={keyOf(option.value)}
                className="flex cursor-pointer items-baseline gap-1.5 rounded py-1 pr-3 pl-1 text-[13.5px] outline-none data-[highlighted]:bg-tint"
              >
                <span className="w-3.5 shrink-0 self-center text-copper">
                  <Select.ItemIndicator>
                    <Check className="size-3.5" aria-hidden="true" />
                  </Select.ItemIndicator>
                </span>
                <Select.ItemText>{option.name}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
