'use client';

import { buttonStyle } from '@/ui/button';
import { Panel } from '@/ui/dialog';

/** A file on its way, and how many of its rows are done. */
export type FileBeingRead = { file: string; done: number; of: number; cancel: () => void };

/** A file being read: how far it is, and a way to leave it. */
export function ReadingDialog({ file, done, of, cancel }: FileBeingRead) {
  return (
    <Panel open onClose={cancel} title="Reading the file" description={file}>
      <p role="status" className="figures text-[13px]">
        {of === 0 ? 'opening it' : `line ${done} of ${of}`}
      </p>
      <progress aria-label="Lines read" className="mt-2 block w-full" max={of || 1} value={done} />
      <div className="mt-4 flex justify-end">
        <button type="button" className={buttonStyle('plain')} onClick={cancel}>
          Cancel
        </button>
      </div>
    </Panel>
  );
}
