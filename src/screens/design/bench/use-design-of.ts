'use client';

import { useEffect, useState } from 'react';
import { fetchRevisions } from '@/client/designs-api';
import type { Design } from '@/core/design/design-schema';

type DesignOf = { kind: 'loading' } | { kind: 'failed' } | { kind: 'ready'; design: Design };

/** A revision of the design, from the server where it is not the one on screen. */
export function useDesignOf(id: string, revision: number, present: number, onScreen: Design): DesignOf {
  const [fetched, setFetched] = useState<{ revision: number; design: Design | null } | null>(null);
  useEffect(() => {
    if (revision === present) return;
    let over = false;
    fetchRevisions(id).then(
      (revisions) => {
        const found = revisions.find((one) => one.revision === revision);
        if (!over) setFetched({ revision, design: found && 'design' in found ? found.design : null });
      },
      () => {
        if (!over) setFetched({ revision, design: null });
      },
    );
    return () => {
      over = true;
    };
  }, [id, revision, present]);
  if (revision === present) return { kind: 'ready', design: onScreen };
  if (fetched?.revision !== revision) return { kind: 'loading' };
  return fetched.design ? { kind: 'ready', design: fetched.design } : { kind: 'failed' };
}
