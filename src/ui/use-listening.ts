'use client';

import { useSyncExternalStore } from 'react';

const NEVER_CHANGES = () => () => {};

/**
 * Whether the page listens. One just served does not yet: what were typed into
 * its fields then would be lost without a word, so they take nothing until it does.
 */
export const useListening = (): boolean =>
  useSyncExternalStore(
    NEVER_CHANGES,
    () => true,
    () => false,
  );
