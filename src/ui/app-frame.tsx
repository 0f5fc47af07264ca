'use client';

import { setNonce } from 'get-nonce';
import { ThemeProvider } from 'next-themes';
import { useState, type ReactNode } from 'react';
import { Toaster } from 'sonner';
import { Cautions } from './cautions';
import { CommandCentre } from './commands';

/** What stands around every screen: theme, messages, the command palette and, the first time, the cautions. */
export function AppFrame({ nonce, children }: { nonce: string | undefined; children: ReactNode }) {
  // A server action re-renders with a new nonce; the document keeps the policy of its first.
  const [firstNonce] = useState(nonce);
  if (typeof window !== 'undefined' && firstNonce) setNonce(firstNonce);
  return (
    <ThemeProvider
      attribute="data-theme"
      defaultTheme="system"
      enableSystem
      nonce={firstNonce}
      disableTransitionOnChange
    >
      <CommandCentre>
        {children}
        <Cautions />
      </CommandCentre>
      <Toaster
        position="bottom-center"
        toastOptions={{ className: '!bg-sheet !text-ink !border-rule !shadow-none !rounded-md !font-sans' }}
      />
    </ThemeProvider>
  );
}
