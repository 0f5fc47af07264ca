import type { Unit, WrittenUnit } from './units';

/** A field of a document as a form shows it. */
export type FieldDescription = {
  /** The field's name within its section of the document. */
  name: string;
  label: string;
  more?: boolean;
  hint?: string;
} & (
  | {
      as: 'quantity';
      unit: Unit;
      optional?: boolean;
      /** What an empty one stands for, in a word or two, where that is not a value that is not known. */
      absent?: string;
      /** What a bare number in it stands for, where that is not the usual. */ typedIn?: WrittenUnit;
    }
  | { as: 'choice' | 'pick'; options: readonly { value: string; name: string }[] }
  | { as: 'yes' }
  | { as: 'text' }
);

type Extra = { more?: boolean; hint?: string; optional?: boolean; absent?: string; typedIn?: WrittenUnit };

/** A field for a quantity. */
export const quantityField = (name: string, label: string, unit: Unit, extra: Extra = {}): FieldDescription => ({
  as: 'quantity',
  name,
  label,
  unit,
  ...extra,
});
