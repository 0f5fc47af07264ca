import { useEffect, useMemo } from 'react';
import { create } from 'zustand';
import { failedWordsOf, failureRecordSchema, type FailureRecord } from '@/core/bench/failures';
import type { Design } from '@/core/design/design-schema';
import * as z from '@/core/zod';
import { answer, call } from './answers';

/** What has failed at the bench, of all designs; none until the server has said so. */
const useFailures = create<{ failures: readonly FailureRecord[] }>(() => ({ failures: [] }));

/** Asks the server anew; what is known stays where it cannot be reached. */
async function refreshFailures(): Promise<void> {
  const failures = await call('/api/failures')
    .then((response) => answer(response, z.array(failureRecordSchema)))
    .catch(() => null);
  if (failures) useFailures.setState({ failures });
}

/** What has failed at the bench among the types of part that a ladder is made of, in words. */
export function useFailedWords(design: Pick<Design, 'ladder'>): string[] {
  const { failures } = useFailures();
  useEffect(() => void refreshFailures(), []);
  return useMemo(() => failedWordsOf(design, failures), [design, failures]);
}
