'use client';

import { useId, useState, type ReactNode } from 'react';
import { printForField } from '@/core/quantity/format-quantity';
import { readQuantity } from '@/core/quantity/read-quantity';
import { useReportFault } from './faulty-entries';
import { typedUnit, type Unit, type WrittenUnit } from '@/core/quantity/units';
import { useListening } from './use-listening';

type QuantityFieldProps = {
  label: string;
  value: number | null;
  unit: Unit;
  /** Takes the value; answers what is wrong with it, or null when it was accepted. */
  onValue: (value: number | null) => string | null;
  /** Whether an empty field means "not known". */
  optional?: boolean;
  /** What an empty optional field says. */
  placeholder?: string;
  /** Digits shown of a derived value; absent, all that are needed. */
  shownDigits?: number;
  hint?: ReactNode;
  id?: string;
  /** Whether it is the value of a part, as it may be printed on it. */
  printed?: boolean;
  /** Takes an RMS value that the text says alternates, where the field has a place for such. */
  onAlternating?: (rmsVolts: number) => string | null;
  /** What a bare number stands for, where that is not the usual of the unit. */
  typedIn?: WrittenUnit;
};

type Draft = {
  text: string;
  standsFor: number | null;
  fault: string | null;
  /** What may have been meant, for choosing. */
  offers?: readonly { name: string; value: number }[];
};

/** Whether two values are one but for rounding, as when RMS is kept as peak. */
function isSame(one: number | null, other: number | null): boolean {
  if (one === null || other === null) return one === other;
  return Math.abs(one - other) <= 1e-12 * Math.max(Math.abs(one), Math.abs(other));
}

/**
 * A quantity typed the way people write it. Every keystroke that reads is
 * passed on at once; what does not read stays in the field with its reason,
 * and the last good value stays in force.
 */
export function QuantityField(props: QuantityFieldProps) {
  const { label, value, unit, onValue, optional = false, placeholder, shownDigits, hint } = props;
  const typedIn = props.typedIn ?? typedUnit(unit);
  const ownId = useId();
  const id = props.id ?? ownId;
  const listening = useListening();
  const [draft, setDraft] = useState<Draft | null>(null);
  const settled = value === null ? '' : printForField(value, unit, shownDigits ?? 12, typedIn);
  // A draft is shown only while the document still holds what it stands for: undo and other tabs win over it.
  const current = draft && (draft.fault !== null || isSame(draft.standsFor, value)) ? draft : null;
  const fault = current?.fault ?? null;
  useReportFault(fault !== null);

  const type = (text: string) => {
    if (text.trim() === '' && optional) {
      const refused = onValue(null);
      setDraft({ text, standsFor: null, fault: refused });
      return;
    }
    const reading = readQuantity(text, unit, typedIn, props.printed);
    if (!reading.ok) {
      setDraft({ text, standsFor: value, fault: reading.reason, offers: reading.offers });
      return;
    }
    if (reading.alternating) {
      const refused = props.onAlternating
        ? props.onAlternating(reading.value)
        : 'That is an alternating voltage; a direct one or a peak is wanted here. Write the number alone.';
      setDraft({ text, standsFor: refused === null ? null : value, fault: refused });
      return;
    }
    const refused = onValue(reading.value);
    setDraft({ text, standsFor: refused === null ? reading.value : value, fault: refused });
  };

  return (
    <div className="grid grid-cols-[minmax(0,1fr)_6.75rem] items-baseline gap-x-2 py-[3px]">
      <label htmlFor={id} className="text-[13.5px] text-soft">
        {label}
      </label>
      <span className="field flex items-center px-2">
        <input
          id={id}
          className="figures w-full min-w-0 bg-transparent outline-none placeholder:font-sans placeholder:text-soft"
          value={current?.text ?? settled}
          placeholder={placeholder ?? (optional ? 'not known' : undefined)}
          inputMode="text"
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          aria-invalid={fault !== null}
          aria-describedby={fault || hint ? `${id}-says` : undefined}
          readOnly={!listening}
          onChange={(event) => type(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={() => setDraft((now) => (now?.fault ? now : null))}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && draft) {
              event.stopPropagation();
              setDraft(null);
            }
          }}
        />
        {typedIn.name === '' ? null : <span className="pl-1 text-xs text-soft">{typedIn.name}</span>}
      </span>
      {fault || hint ? (
        <p
          id={`${id}-says`}
          className={`col-span-2 text-xs ${fault ? 'text-over' : 'text-soft'}`}
          role={fault ? 'alert' : undefined}
        >
          {fault ?? hint}
          {current?.offers?.map((offer) => (
            <button
              key={offer.name}
              type="button"
              className="ml-1.5 rounded border border-rule bg-sheet px-1.5 text-ink hover:border-copper"
              onClick={() => {
                const refused = onValue(offer.value);
                setDraft(refused === null ? null : { text: current.text, standsFor: value, fault: refused });
              }}
            >
              {offer.name}
            </button>
          ))}
        </p>
      ) : null}
    </div>
  );
}
