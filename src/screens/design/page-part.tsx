import type { ReactNode } from 'react';

/** A part of a page of the design, under a heading of its own; one that `holdsTogether` is printed on one page. */
export function PagePart({
  title,
  holdsTogether = false,
  children,
}: {
  title: string;
  holdsTogether?: boolean;
  children: ReactNode;
}) {
  return (
    <section className={`mt-4 ${holdsTogether ? 'break-inside-avoid' : 'break-inside-auto'}`}>
      <h3 className="mb-1 break-after-avoid text-[13px] font-semibold text-soft">{title}</h3>
      {children}
    </section>
  );
}
