import type { ReactNode } from 'react';

/** A part of a page of the design, under a heading of its own. */
export function PagePart({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-4 break-inside-auto">
      <h3 className="mb-1 text-[13px] font-semibold text-soft">{title}</h3>
      {children}
    </section>
  );
}
