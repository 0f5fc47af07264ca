'use client';

import { useState } from 'react';
import { PART_FIELDS, PART_NAMES, valueOf } from '@/core/parts/part-fields';
import { formatWhatIsRight } from '@/core/schema/fields';
import { partSchema, type Part } from '@/core/parts/part-schema';
import { quantityField, type FieldDescription } from '@/core/quantity/field-description';
import { buttonStyle } from '@/ui/button';
import { DescribedField } from '@/ui/described-field';
import { Panel } from '@/ui/dialog';

const COMMON: readonly FieldDescription[] = [
  quantityField('count', 'In stock', ''),
  quantityField('price', 'Price of one', '', { optional: true }),
];

/** All fields of one part; each is checked as it is typed, and nothing goes in before it is saved. */
export function PartDialog({
  part: given,
  isNew,
  onClose,
  onSave,
}: {
  part: Part;
  isNew: boolean;
  onClose: () => void;
  onSave: (part: Part) => void;
}) {
  const [part, setPart] = useState(given);
  const edit = (field: string, value: unknown): string | null => {
    const read = partSchema.safeParse({ ...part, [field]: value }, { reportInput: true });
    if (read.success) {
      setPart(read.data);
      return null;
    }
    return formatWhatIsRight(read.error.issues[0].message);
  };
  const show = (field: FieldDescription) => (
    <DescribedField
      key={field.name}
      field={field}
      value={valueOf(part, field.name)}
      onEdit={(value) => edit(field.name, value)}
    />
  );
  return (
    <Panel
      open
      onClose={onClose}
      title={`${isNew ? 'New ' : ''}${PART_NAMES[part.kind].toLowerCase()}`.replace(/^./, (c) => c.toUpperCase())}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onSave(part);
        }}
      >
        <NameField name={part.name} onName={(name) => edit('name', name)} />
        {PART_FIELDS[part.kind].map(show)}
        <div className="mt-2 border-t border-rule pt-2">
          {COMMON.map(show)}
          {show({ as: 'text', name: 'note', label: 'Note' })}
        </div>
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className={buttonStyle('plain')} onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className={buttonStyle('solid')}>
            {isNew ? 'Add' : 'Save'}
          </button>
        </div>
      </form>
    </Panel>
  );
}

function NameField({ name, onName }: { name: string; onName: (name: string) => string | null }) {
  const [draft, setDraft] = useState<{ text: string; fault: string | null } | null>(null);
  return (
    <div className="mb-1.5">
      <label className="text-[13.5px] text-soft">
        Name
        <input
          value={draft?.text ?? name}
          aria-invalid={draft?.fault != null}
          onChange={(event) => setDraft({ text: event.target.value, fault: onName(event.target.value) })}
          className="field mt-0.5 w-full px-2 text-ink"
        />
      </label>
      {draft?.fault ? (
        <p role="alert" className="text-xs text-over">
          {draft.fault}
        </p>
      ) : null}
    </div>
  );
}
