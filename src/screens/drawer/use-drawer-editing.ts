'use client';

import { useCallback, useMemo } from 'react';
import { toast } from 'sonner';
import { attempt } from '@/client/attempt';
import { useDrawer } from '@/client/drawer-store';
import type { DrawerChange } from '@/core/drawer/drawer-messages';
import type { Part } from '@/core/parts/part-schema';

/** Changes of the drawer as the screen makes them: each says when it could not be done, and can be undone. */
export function useDrawerEditing() {
  const { change, undo, redo } = useDrawer();
  /** Makes a change; whether it was made. */
  const apply = useCallback(
    (asked: Partial<DrawerChange>, what: string) => attempt(what, () => change(asked, what)),
    [change],
  );
  const goBack = useCallback(
    () =>
      void attempt('Undoing', async () => {
        const what = await undo();
        if (what) toast(`Undone: ${what}.`);
      }),
    [undo],
  );
  const goOn = useCallback(() => void attempt('Redoing', redo), [redo]);

  // Their identity lasts, so that a table of them is not drawn anew with every keystroke beside it.
  return useMemo(() => {
    const withUndo = { action: { label: 'Undo', onClick: goBack } };
    const put = (part: Part, what: string) => apply({ put: [part] }, what);
    const copy = (part: Part) =>
      put({ ...part, id: crypto.randomUUID(), name: `${part.name.slice(0, 70)}, copy` }, `copying ${part.name}`);
    const takeOut = async ({ id, name }: { id: string; name: string }) => {
      if (await apply({ remove: [id] }, `taking out ${name}`)) toast(`“${name}” is out of the drawer.`, withUndo);
    };
    const takeOutUnread = (id: string) => void apply({ remove: [id] }, 'taking out a part that cannot be read');
    const takeIn = async (parts: Part[], file: string) => {
      if (await apply({ put: parts }, `importing ${file}`))
        toast(`${parts.length} ${parts.length === 1 ? 'part' : 'parts'} taken in.`, withUndo);
    };
    return { put, copy, takeOut, takeOutUnread, takeIn, goBack, goOn };
  }, [apply, goBack, goOn]);
}
