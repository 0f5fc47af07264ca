'use client';

import { useState } from 'react';
import { partSchema, type Part } from '@/core/parts/part-schema';
import { formatWhatIsRight } from '@/core/schema/fields';
import { readQuantity } from '@/core/quantity/read-quantity';
import { useListening } from '@/ui/use-listening';

/** A part's count or price, changed where it stands: taken on Enter or on leaving, given up with Escape. */
export function CountCell({
  label,
  field,
  part,
  onPart,
}: {
  label: string;
  field: 'count' | 'price';
  part: Part;
  onPart: (part: Part) => void;
}) {
  const listening = useListening();
  const [draft, setDraft] = useState<{ text: string; fault: string | null } | null>(null);
  const value = part[field];
  const settled = value === null ? '' : field === 'price' ? value.toFixed(2) : String(value);
  const take = () => {
    if (!draft || draft.text.trim() === settled) return setDraft(null);
    const read =
      draft.text.trim() === '' && field === 'price' ? { ok: true as const, value: null } : readQuantity(draft.text);
    if (!read.ok) return setDraft({ ...draft, fault: read.reason });
    const checked = partSchema.safeParse({ ...part, [field]: read.value }, { reportInput: true });
    if (!checked.success) return setDraft({ ...draft, fault: formatWhatIsRight(checked.error.issues[0].message) });
    setDraft(null);
    onPart(checked.data);
  };
  return (
    <span className="inline-block">
      <input
        aria-label={label}
        aria-invalid={draft?.fault != null}
        value={draft?.text ?? settled}
        readOnly={!listening}
        placeholder="–"
        inputMode="decimal"
        className={`figures w-16 rounded border bg-transparent px-1.5 py-0.5 hover:border-rule focus:border-copper focus:bg-sheet ${draft?.fault ? 'border-over' : 'border-transparent'}`}
        onChange={(event) => setDraft({ text: event.target.value, fault: null })}
        onFocus={(event) => event.target.select()}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === 'Enter') take();
          if (event.key === 'Escape') setDraft(null);
        }}
      />
      {draft?.fault ? (
        <span role="alert" className="block max-w-44 text-xs text-over">
          {draft.fault}
        </span>
      ) : null}
    </span>
  );
}
