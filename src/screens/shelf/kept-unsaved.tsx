'use client';

import deepEqual from 'fast-deep-equal';
import Link from 'next/link';
import { designLeftInWords, unsavedDesigns } from '@/client/unsaved';
import { useLeft } from '@/client/use-left';
import type { ShelvedDesign } from './shelf-table';

/** Designs of which this browser keeps what was typed and not saved. */
export function KeptUnsaved({ designs }: { designs: readonly ShelvedDesign[] }) {
  const { left } = useLeft(unsavedDesigns);
  const kept = left.flatMap((one) => {
    const row = designs.find(({ id }) => id === one.designId);
    return row && (row.damaged || !deepEqual(row.design, one.design)) ? [{ one, row }] : [];
  });
  if (kept.length === 0) return null;
  return (
    <ul aria-label="Not saved" className="mt-3 rounded bg-copper-tint px-3 py-2 text-[13px]">
      {kept.map(({ one, row }) => (
        <li key={one.key}>
          {designLeftInWords(one)} not saved:{' '}
          <Link href={`/designs/${row.id}`} className="font-medium text-copper underline">
            {row.name}, open it to take them
          </Link>
        </li>
      ))}
    </ul>
  );
}
