'use client';

import { useState } from 'react';
import { designSchema } from '@/core/design/design-schema';
import type { Fault } from '@/core/schema/faults';
import { buttonStyle } from '@/ui/button';
import { FaultList } from '@/ui/fault-list';
import { Panel } from '@/ui/dialog';

/** Asks for a design's name, guarded by the schema's own rule for names. */
export function NameDialog({
  open,
  title,
  verb,
  initial,
  onClose,
  onName,
}: {
  open: boolean;
  title: string;
  verb: string;
  initial: string;
  onClose: () => void;
  onName: (name: string) => void;
}) {
  const [name, setName] = useState(initial);
  const [tried, setTried] = useState(false);
  const checked = designSchema.shape.name.safeParse(name);
  const fault = checked.success ? null : `The name ${checked.error.issues[0].message.split('; ').pop()}.`;
  return (
    <Panel open={open} onClose={onClose} title={title}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          setTried(true);
          if (!checked.success) return;
          onName(checked.data);
          setName(initial);
          setTried(false);
        }}
      >
        <label htmlFor="design-name" className="text-soft">
          Name
        </label>
        <input
          id="design-name"
          value={name}
          onChange={(event) => setName(event.target.value)}
          autoComplete="off"
          aria-invalid={tried && fault !== null}
          aria-describedby={tried && fault ? 'design-name-fault' : undefined}
          className="field mt-1 h-[34px] w-full px-3"
        />
        {tried && fault ? (
          <p id="design-name-fault" role="alert" className="mt-1 text-sm text-over">
            {fault}
          </p>
        ) : null}
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={buttonStyle('plain')} onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className={buttonStyle('solid')}>
            {verb}
          </button>
        </div>
      </form>
    </Panel>
  );
}

/** Names each path and fault of a file that could not be read. */
export function BadFile({
  open,
  file,
  faults,
  onClose,
}: {
  open: boolean;
  file: string;
  faults: Fault[];
  onClose: () => void;
}) {
  return (
    <Panel
      open={open}
      onClose={onClose}
      size="wide"
      title="This file was not imported"
      description={`Nothing was changed. ${file} has ${faults.length === 1 ? 'one fault' : `${faults.length} faults`}:`}
    >
      <FaultList faults={faults} />
      <div className="mt-4 flex justify-end">
        <button type="button" className={buttonStyle('solid')} onClick={onClose}>
          Close
        </button>
      </div>
    </Panel>
  );
}
