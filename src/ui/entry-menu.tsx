'use client';

import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { buttonStyle } from './button';

/** One thing that a menu gives, with what it is. */
export type MenuEntry = { name: string; gives: string; run: () => void; isReady?: boolean };

/** A quiet button that opens a list of what can be had. */
export function EntryMenu({
  entries,
  label,
  className = '',
  children,
}: {
  entries: readonly MenuEntry[];
  /** For those who hear the screen, where the button has no words. */
  label?: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={`${className} ${buttonStyle('quiet')}`} aria-label={label}>
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 min-w-44 rounded-md border border-rule bg-sheet p-1 text-[13.5px]"
        >
          {entries.map(({ name, gives, run, isReady = true }) => (
            <DropdownMenu.Item
              key={`${name} ${gives}`}
              disabled={!isReady}
              onSelect={run}
              className="flex cursor-pointer items-baseline justify-between gap-6 rounded px-2.5 py-1.5 outline-none data-[disabled]:cursor-not-allowed data-[disabled]:opacity-60 data-[highlighted]:bg-tint"
            >
              {name} <span className="text-xs text-soft">{gives}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
