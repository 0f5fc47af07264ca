'use client';

import deepEqual from 'fast-deep-equal';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import type { Left as LeftOf } from '@/client/keeping';
import { changesIn, designLeftInWords, unsavedDesigns, type UnsavedDesign } from '@/client/unsaved';
import { useLeft } from '@/client/use-left';
import type { Design } from '@/core/design/design-schema';
import { mergeDesigns } from '@/core/design/merge';
import { buttonStyle } from '@/ui/button';
import { Panel } from '@/ui/dialog';
import { DifferencesTable } from './differences-table';
import type { EditorStore } from './editor-store';

type Left = LeftOf<UnsavedDesign>;

/** The design as it stands with what was left put into it; what was left where they do not go together. */
function withLeft(standing: Design, { base, design }: Left): Design {
  const merge = mergeDesigns(base.design, design, standing, 'mine');
  return merge.kind === 'merged' ? merge.design : design;
}

/** Offers what was typed into this design and not saved, when its page was closed or broke down. */
export function LeftUnsaved({ store }: { store: EditorStore }) {
  const id = useStore(store, (state) => state.id);
  const savedDesign = useStore(store, (state) => state.savedDesign);
  const { left: everywhere, drop: dropOne } = useLeft(unsavedDesigns);
  const all = useMemo(() => everywhere.filter(({ designId }) => designId === id), [everywhere, id]);
  const [looking, setLooking] = useState(false);
  // What arrived after all is nothing to ask about.
  useEffect(
    () => all.filter((one) => deepEqual(one.design, savedDesign)).forEach(dropOne),
    [all, savedDesign, dropOne],
  );
  const left = all.find((one) => !deepEqual(one.design, savedDesign));
  if (!left) return null;
  const drop = () => {
    dropOne(left);
    setLooking(false);
  };
  const take = () => {
    store.getState().replace(withLeft(store.getState().design, left));
    drop();
  };
  const takeOrAsk = () => {
    // What was changed elsewhere since is shown before it is overwritten.
    if (mergeDesigns(left.base.design, left.design, store.getState().design).kind === 'overlap') setLooking(true);
    else take();
  };
  return (
    <>
      <p
        role="status"
        className="no-print flex flex-wrap items-center gap-x-2 border-b border-rule bg-copper-tint px-3 py-1 text-[13px] sm:px-5"
      >
        {designLeftInWords(left)} {changesIn(left) === 1 ? 'was' : 'were'} not saved.
        <button type="button" className={buttonStyle('quiet')} onClick={takeOrAsk}>
          Take
        </button>
        <button type="button" className={buttonStyle('quiet')} onClick={() => setLooking(true)}>
          Look
        </button>
        <button type="button" className={buttonStyle('quiet')} onClick={drop}>
          Drop
        </button>
      </p>
      {looking ? (
        <Look store={store} left={left} onTake={take} onDrop={drop} onClose={() => setLooking(false)} />
      ) : null}
    </>
  );
}

function Look({
  store,
  left,
  onTake,
  onDrop,
  onClose,
}: {
  store: EditorStore;
  left: Left;
  onTake: () => void;
  onDrop: () => void;
  onClose: () => void;
}) {
  const design = useStore(store, (state) => state.design);
  const joined = withLeft(design, left);
  const merge = mergeDesigns(left.base.design, left.design, design);
  return (
    <Panel
      open
      size="wide"
      onClose={onClose}
      title="Not saved"
      description={`${designLeftInWords(left)}, typed into revision ${left.base.revision}.${merge.kind === 'overlap' ? ' Some of these fields were changed elsewhere since: taking them overwrites that.' : ''}`}
    >
      <DifferencesTable one={design} other={joined} headings={['As it stands', 'As it was typed']} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <button type="button" className={buttonStyle('plain')} onClick={onDrop}>
          Drop them
        </button>
        <button type="button" className={buttonStyle('solid')} onClick={onTake}>
          Take them
        </button>
      </div>
    </Panel>
  );
}
