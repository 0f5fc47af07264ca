'use client';

import deepEqual from 'fast-deep-equal';
import { useState } from 'react';

/** A value as it was when it last differed: the same object for as long as it says the same. */
export function useSame<T>(value: T): T {
  const [kept, setKept] = useState(value);
  if (kept === value || deepEqual(kept, value)) return kept;
  setKept(value);
  return value;
}
