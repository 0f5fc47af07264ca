'use client';

import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { attempt } from '@/client/attempt';
import { createDesign, fetchDesign, saveDesign, setArchived } from '@/client/designs-api';
import type { Design } from '@/core/design/design-schema';
import type { ShelvedDesign, SoundRow } from '@/core/predict/shelf-query';
import { copyOf } from '@/core/design/copy-of';
import { downloadDesign } from '@/client/design-file';

/** The changes of the shelf; each shows itself when done, and says plainly when it could not be. */
export function useShelfChanges() {
  const router = useRouter();
  // Their identity lasts, so that a table of them is not drawn anew with every keystroke beside it.
  return useMemo(() => {
    const change = async (what: string, work: () => Promise<void>) => {
      if (await attempt(what, work)) router.refresh();
    };

    const create = (design: Design) =>
      change('Creating the design', async () => {
        const stored = await createDesign(design);
        router.push(`/designs/${stored.id}`);
      });

    const archive = (row: ShelvedDesign, away: boolean) =>
      change(away ? 'Archiving' : 'Restoring', async () => {
        await setArchived(row.id, away);
        toast(away ? `“${row.name}” is in the archive.` : `“${row.name}” is back on the shelf.`, {
          action: { label: 'Undo', onClick: () => void archive({ ...row, archived: away }, !away) },
        });
      });

    const rename = (row: SoundRow, name: string) =>
      change('Renaming', async () => {
        const standing = await fetchDesign(row.id);
        const { conflict } = await saveDesign(row.id, standing.revision, { ...standing.design, name });
        if (conflict) toast.error('The design was changed in another tab at that very moment. Try again.');
      });

    const duplicate = ({ id }: SoundRow) =>
      attempt('Duplicating', async () => {
        const copy = await createDesign(copyOf((await fetchDesign(id)).design));
        router.push(`/designs/${copy.id}`);
      });

    const handOver = ({ id }: SoundRow) =>
      attempt('Exporting', async () => downloadDesign((await fetchDesign(id)).design));

    return { create, archive, rename, duplicate, handOver };
  }, [router]);
}
