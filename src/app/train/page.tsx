import type { Metadata } from 'next';
import { Suspense } from 'react';
import { TrainingScreen } from '@/screens/training/training-screen';

// Each page carries the nonce of its own request.
export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Find the fault' };

export default function TrainPage() {
  return (
    <Suspense>
      <TrainingScreen />
    </Suspense>
  );
}
