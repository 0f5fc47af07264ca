import type { LucideIcon } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

/** Something to work out beside a field, opened by a line of words. */
export function PopoverPanel({
  icon: Icon,
  words,
  label,
  children,
}: {
  icon: LucideIcon;
  words: string;
  label: string;
  children: ReactNode;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger className="my-[3px] mr-4 inline-flex items-center gap-1.5 text-[13px] text-copper hover:underline">
        <Icon className="size-3.5" aria-hidden="true" /> {words}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label={label}
          className="z-[60] max-h-[var(--radix-popover-content-available-height)] w-[21rem] max-w-[calc(100vw-1rem)] overflow-y-auto rounded-md border border-rule bg-paper p-3"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
