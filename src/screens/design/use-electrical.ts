'use client';

import deepEqual from 'fast-deep-equal';
import { useState } from 'react';
import type { Design } from '@/core/design/design-schema';

const bare = (design: Design) => ({ ...design, notes: '', build: null });

/** The design as far as figures hang on it: the same object while only notes, or how it is put together, change. */
export function useElectrical(design: Design): Design {
  const [kept, setKept] = useState(design);
  if (kept === design) return kept;
  if (deepEqual(bare(kept), bare(design))) return kept;
  setKept(design);
  return design;
}
