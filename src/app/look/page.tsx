import type { Metadata } from 'next';
import { Suspense } from 'react';
import { LookScreen } from '@/screens/look/look-screen';

// Each page carries the nonce of its own request.
export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'A look at a tripler' };

export default function LookPage() {
  return (
    <Suspense>
      <LookScreen />
    </Suspense>
  );
}
