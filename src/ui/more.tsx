'use client';

import { Collapsible } from 'radix-ui';
import type { ReactNode } from 'react';

/** What matters less often, folded away. */
export function More({ words = 'More', children }: { words?: string; children: ReactNode }) {
  return (
    <Collapsible.Root>
      <Collapsible.Trigger className="group mt-1 text-[13px] text-copper hover:underline">
        <span className="group-data-[state=open]:hidden">{words}</span>
        <span className="hidden group-data-[state=open]:inline">Less</span>
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
