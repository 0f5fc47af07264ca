'use client';

import { useEffect } from 'react';
import { toast } from 'sonner';
import { useDrawer } from '@/client/drawer-store';

/** How often a page in sight asks whether the drawer was changed elsewhere, ms. */
const LOOK_MILLISECONDS = 5000;

/** Keeps a drawer in sight up to date with what is changed elsewhere. */
export function useFollowing(): void {
  const follow = useDrawer((state) => state.follow);
  useEffect(() => {
    const look = async () => {
      if (document.visibilityState !== 'visible') return;
      if (await follow()) toast('Brought up to date with what was changed elsewhere.');
    };
    const timer = setInterval(() => void look(), LOOK_MILLISECONDS);
    document.addEventListener('visibilitychange', look);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', look);
    };
  }, [follow]);
}
