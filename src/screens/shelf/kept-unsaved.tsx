'use client';

import deepEqual from 'fast-deep-equal';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { fetchDesign } from '@/client/designs-api';
import { designLeftInWords, unsavedDesigns } from '@/client/unsaved';
import { useLeft } from '@/client/use-left';

/** Designs of which this browser keeps what was typed and not saved. */
export function KeptUnsaved() {
  const { left } = useLeft(unsavedDesigns);
  /** Names of those that stand and are not what was typed, by the key of what was left. */
  const [names, setNames] = useState<Readonly<Record<string, string>>>({});
  useEffect(() => {
    let over = false;
    for (const one of left)
      fetchDesign(one.designId).then(
        ({ design }) => {
          if (!over && !deepEqual(design, one.design)) setNames((now) => ({ ...now, [one.key]: design.name }));
        },
        // One that is gone or damaged is asked for where it is opened.
        () => undefined,
      );
    return () => {
      over = true;
    };
  }, [left]);
  const kept = left.filter(({ key }) => key in names);
  if (kept.length === 0) return null;
  return (
    <ul aria-label="Not saved" className="mt-3 rounded bg-copper-tint px-3 py-2 text-[13px]">
      {kept.map((one) => (
        <li key={one.key}>
          {designLeftInWords(one)} not saved:{' '}
          <Link href={`/designs/${one.designId}`} className="font-medium text-copper underline">
            {names[one.key]}, open it to take them
          </Link>
        </li>
      ))}
    </ul>
  );
}
