import type { ReactNode } from 'react';

/** One figure of what stands behind the ladder, with its name. */
export function LoadRow({ name, id, children }: { name: string; id: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-2 py-[1.5px]" data-load={id}>
      <dt className="text-soft">{name}</dt>
      <dd className="text-right">{children}</dd>
    </div>
  );
}
