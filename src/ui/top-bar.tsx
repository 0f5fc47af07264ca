'use client';

import Smartphone from 'lucide-react/icons/smartphone';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { buttonStyle } from './button';
import { KeyCap, usePalette } from './commands';
import { ThemeSwitch } from './theme-switch';

function Place({ href, name, here }: { href: string; name: string; here: boolean }) {
  return (
    <Link
      href={href}
      aria-current={here ? 'page' : undefined}
      className="rounded px-2 py-1 text-soft hover:text-ink aria-[current=page]:bg-tint aria-[current=page]:text-ink sm:px-2.5"
    >
      {name}
    </Link>
  );
}

/** The bar at the head of every screen: the mark, the way to the shelf, and what the screen adds. */
export function TopBar({
  here,
  children,
}: {
  here: 'shelf' | 'design' | 'drawer' | 'choose' | 'compare' | 'look' | 'train' | 'telephone' | 'workshop';
  children?: ReactNode;
}) {
  const openPalette = usePalette();
  return (
    <header className="pane no-print flex h-[46px] shrink-0 items-center gap-2 border-b border-rule px-3 sm:gap-5 sm:px-5">
      <Link href="/" className="flex items-center gap-2 font-semibold">
        <svg viewBox="0 0 20 20" className="size-5" aria-hidden="true">
          <path
            d="M4 18V6.500M16 14V2.500M4 14.500l12-3.800M4 10.500l12-3.800M4 6.500l12-3.800"
            fill="none"
            stroke="var(--copper)"
            strokeWidth="1.700"
            strokeLinecap="round"
          />
        </svg>
        <span className="hidden sm:inline">Eager Ladder</span>
      </Link>
      <nav aria-label="Main" className="flex items-center gap-1">
        <Place href="/" name="Shelf" here={here === 'shelf'} />
        <Place href="/drawer" name="Drawer" here={here === 'drawer'} />
        <Place href="/choose" name="Choose" here={here === 'choose'} />
        {here === 'design' ? (
          <span aria-current="page" className="hidden rounded bg-tint px-2.5 py-1 sm:inline">
            Design
          </span>
        ) : null}
      </nav>
      <div className="ml-auto flex min-w-0 items-center gap-1.5 sm:gap-3">
        {children}
        <Link
          href="/telephone"
          aria-label="On the telephone"
          aria-current={here === 'telephone' ? 'page' : undefined}
          className={`aria-[current=page]:bg-tint ${buttonStyle('quiet')}`}
        >
          <Smartphone className="size-4" aria-hidden="true" />
        </Link>
        <ThemeSwitch />
        <button type="button" onClick={openPalette} className="hidden sm:block">
          <span className="sr-only">Find a command, </span>
          <KeyCap keys="mod+k" />
        </button>
      </div>
    </header>
  );
}
