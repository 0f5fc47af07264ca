'use client';

import type { FieldDescription } from '@/core/quantity/field-description';
import { CheckField } from './check-field';
import { Choice } from './choice';
import { PickField } from './pick-field';
import { QuantityField } from './quantity-field';
import { TextField } from './text-field';

/** A field as its description says: a quantity, a choice, a yes or no, or a text. */
export function DescribedField({
  field,
  value,
  onEdit,
  onAlternating,
  hint,
}: {
  field: FieldDescription;
  value: unknown;
  onEdit: (changed: unknown) => string | null;
  onAlternating?: (rmsVolts: number) => string | null;
  /** In place of the field's own. */
  hint?: string;
}) {
  switch (field.as) {
    case 'quantity':
      return (
        <QuantityField
          label={field.label}
          unit={field.unit}
          optional={field.optional}
          placeholder={field.absent}
          typedIn={field.typedIn}
          value={value as number | null}
          onValue={onEdit}
          onAlternating={onAlternating}
          hint={hint ?? field.hint}
        />
      );
    case 'choice':
      return (
        <>
          <Choice label={field.label} value={value as string} options={field.options} onValue={onEdit} />
          {field.hint ? <p className="text-xs text-soft">{field.hint}</p> : null}
        </>
      );
    case 'pick':
      return (
        <PickField
          label={field.label}
          value={value as string}
          options={field.options}
          onValue={onEdit}
          hint={field.hint}
        />
      );
    case 'yes':
      return <CheckField label={field.label} checked={value as boolean} onChecked={onEdit} />;
    case 'text':
      return <TextField label={field.label} value={value as string} onValue={onEdit} />;
  }
}
