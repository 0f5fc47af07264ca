'use client';

import Redo from 'lucide-react/icons/redo-2';
import Undo from 'lucide-react/icons/undo-2';
import { buttonStyle } from './button';

/** The two buttons of a screen whose changes can be taken back. */
export function UndoButtons({
  canUndo,
  canRedo,
  onUndo,
  onRedo,
}: {
  canUndo: boolean;
  canRedo: boolean;
  onUndo: () => void;
  onRedo: () => void;
}) {
  return (
    <span className="flex">
      <button type="button" className={buttonStyle('quiet')} disabled={!canUndo} onClick={onUndo} aria-label="Undo">
        <Undo className="size-4" aria-hidden="true" />
      </button>
      <button type="button" className={buttonStyle('quiet')} disabled={!canRedo} onClick={onRedo} aria-label="Redo">
        <Redo className="size-4" aria-hidden="true" />
      </button>
    </span>
  );
}
