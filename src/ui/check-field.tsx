'use client';

import Check from 'lucide-react/icons/check';
import { Checkbox } from 'radix-ui';
import { useId } from 'react';

/** Something that is so or not. */
export function CheckField({
  label,
  checked,
  onChecked,
}: {
  label: string;
  checked: boolean;
  onChecked: (checked: boolean) => void;
}) {
  const id = useId();
  return (
    <div className="flex items-center justify-between gap-2 py-[3px] text-[13.5px]">
      <label htmlFor={id} className="flex-1 py-[4px] text-soft">
        {label}
      </label>
      <Checkbox.Root
        id={id}
        checked={checked}
        onCheckedChange={(now) => onChecked(now === true)}
        className="flex size-[17px] items-center justify-center rounded-[3px] border border-line bg-sheet data-[state=checked]:border-copper data-[state=checked]:bg-copper"
      >
        <Checkbox.Indicator>
          <Check className="size-3 text-on-copper" strokeWidth={3} aria-hidden="true" />
        </Checkbox.Indicator>
      </Checkbox.Root>
    </div>
  );
}
