'use client';

import { useState, type FormEvent, type RefObject } from 'react';
import { inShort } from '@/core/parts/part-fields';
import { readPartLine } from '@/core/drawer/part-line';
import type { Part } from '@/core/parts/part-schema';
import { buttonStyle } from '@/ui/button';
import { useListening } from '@/ui/use-listening';

const NO_ID = '00000000-0000-4000-8000-000000000000';

/** A part typed in one line, read as it is typed; what does not read says why when it is to be added. */
export function AddLine({
  inputRef,
  onAdd,
  onMore,
}: {
  inputRef: RefObject<HTMLInputElement | null>;
  onAdd: (part: Part) => Promise<boolean>;
  /** Opens all fields of the part before it goes in. */
  onMore: (part: Part) => void;
}) {
  const [text, setText] = useState('');
  const [tried, setTried] = useState(false);
  const read = readPartLine(text, NO_ID);
  const fresh = () => (read.ok ? { ...read.part, id: crypto.randomUUID() } : null);
  const add = async (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    const part = fresh();
    if (part && (await onAdd(part))) {
      setText('');
      setTried(false);
    }
  };
  const listening = useListening();
  const fault = tried && !read.ok ? read.reason : null;
  return (
    <form onSubmit={(event) => void add(event)} className="mt-4">
      <div className="flex flex-wrap gap-2">
        <input
          ref={inputRef}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setTried(false);
          }}
          readOnly={!listening}
          aria-label="Add a part"
          aria-invalid={fault !== null}
          aria-describedby="add-part-says"
          placeholder="100p 15kV cer x30"
          autoComplete="off"
          spellCheck={false}
          className="field figures h-[34px] min-w-0 basis-full px-3 placeholder:text-soft sm:flex-1 sm:basis-auto"
        />
        <button type="submit" className={buttonStyle('solid')}>
          Add
        </button>
        <button
          type="button"
          className={buttonStyle('plain')}
          disabled={!read.ok}
          onClick={() => {
            const part = fresh();
            if (!part) return;
            setText('');
            onMore(part);
          }}
        >
          More details…
        </button>
      </div>
      <p
        id="add-part-says"
        role={fault ? 'alert' : undefined}
        className={`mt-1 min-h-[1.2em] text-xs ${fault ? 'text-over' : 'text-soft'}`}
      >
        {fault ??
          (read.ok
            ? `${read.part.name}: ${inShort(read.part)}, ${read.part.count} of them${read.part.price === null ? '' : `, ${read.part.price} each`}.`
            : 'Values with their units, a word for the kind, x for the count, @ for the price of one.')}
      </p>
    </form>
  );
}
