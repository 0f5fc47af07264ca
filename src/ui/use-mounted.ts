'use client';

import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/** Whether the page answers yet: what is chosen before that would be lost. */
export const useMounted = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
