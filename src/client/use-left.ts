'use client';

import { useCallback, useEffect, useState } from 'react';
import type { keepingOf, Left } from './keeping';

/** How often is looked for what a page that ended meanwhile has left, ms. */
const LOOK_MILLISECONDS = 3000;

/** What editors that are gone have left, as it comes and goes. */
export function useLeft<T extends { at: string }>({
  findLeft,
  dropLeft,
}: ReturnType<typeof keepingOf<T>>): { left: readonly Left<T>[]; drop: (one: Left<T>) => void } {
  const [left, setLeft] = useState<readonly Left<T>[]>([]);
  useEffect(() => {
    let over = false;
    const look = async () => {
      const found = await findLeft();
      if (over) return;
      setLeft((now) => (now.map(({ key }) => key).join() === found.map(({ key }) => key).join() ? now : found));
    };
    void look();
    const timer = setInterval(() => void look(), LOOK_MILLISECONDS);
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [findLeft]);
  const drop = useCallback(
    (one: Left<T>) => {
      void dropLeft(one);
      setLeft((now) => now.filter(({ key }) => key !== one.key));
    },
    [dropLeft],
  );
  return { left, drop };
}
