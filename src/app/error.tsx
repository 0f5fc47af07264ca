'use client';

import { useRouter } from 'next/navigation';
import { startTransition, useCallback, useEffect, useState } from 'react';
import { fetchTrouble } from '@/client/health';
import { buttonStyle } from '@/ui/button';

/** How often what could not be shown is asked for again, ms. */
const RETRY_MILLISECONDS = 4000;

export default function ScreenError({ reset }: { error: Error; reset: () => void }) {
  const router = useRouter();
  const [trouble, setTrouble] = useState<string | null>(null);
  // What failed was computed on the server: it has to be asked again before the screen is put back.
  const tryAgain = useCallback(
    () =>
      startTransition(() => {
        router.refresh();
        reset();
      }),
    [router, reset],
  );
  useEffect(() => {
    let over = false;
    const look = async () => {
      const found = await fetchTrouble();
      if (over) return;
      // Only what may pass is tried again by itself; a fault of our own would come back each time.
      if (trouble !== null && found === null) tryAgain();
      setTrouble(found);
    };
    void look();
    const timer = setInterval(() => void look(), RETRY_MILLISECONDS);
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [trouble, tryAgain]);
  return (
    <main className="mx-auto max-w-xl px-5 py-16" role="alert">
      <h1 className="text-xl font-semibold">This could not be shown</h1>
      <p className="mt-2 mb-5 text-soft">
        {trouble === null
          ? 'Something went wrong on the way to this page. What was saved is still there.'
          : `Just now ${trouble}. What was saved is still there, and this page comes back by itself once that has passed.`}
      </p>
      <button type="button" className={buttonStyle('solid')} onClick={tryAgain}>
        Try again
      </button>
    </main>
  );
}
