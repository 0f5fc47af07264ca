'use client';

import { useRouter } from 'next/navigation';
import { startTransition } from 'react';
import { buttonStyle } from '@/ui/button';

export default function ScreenError({ reset }: { error: Error; reset: () => void }) {
  const router = useRouter();
  // What failed was computed on the server: it has to be asked again before the screen is put back.
  const tryAgain = () =>
    startTransition(() => {
      router.refresh();
      reset();
    });
  return (
    <main className="mx-auto max-w-xl px-5 py-16" role="alert">
      <h1 className="text-xl font-semibold">This could not be shown</h1>
      <p className="mt-2 mb-5 text-soft">
        The database may have stopped. What was saved is still there; start the application again if this stays.
      </p>
      <button type="button" className={buttonStyle('solid')} onClick={tryAgain}>
        Try again
      </button>
    </main>
  );
}
