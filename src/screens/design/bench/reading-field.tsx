'use client';

import Check from 'lucide-react/icons/check';
import Pencil from 'lucide-react/icons/pencil';
import { useId, useState, type FormEvent } from 'react';
import { agreementOf, isTurned, type Agreement, type Expected } from '@/core/bench/agreement';
import type { Reading } from '@/core/bench/entries';
import { typedReading } from '@/core/bench/typed-reading';
import { formatQuantity } from '@/core/quantity/format-quantity';
import type { Unit } from '@/core/quantity/units';
import { buttonStyle } from '@/ui/button';
import { FitMark, type FitWord } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';

export const MARKS: Record<Agreement, FitWord> = { agrees: 'fits', doubtful: 'close', off: 'over' };

/** What was read at one place, beside what was expected there; taken with Enter or by its button, and put right without losing what stood. */
export function ReadingField({
  name,
  unit,
  reading,
  earlier,
  isWaiting,
  expected,
  mostValue,
  onTake,
}: {
  /** Where it is taken, in words. */
  name: string;
  unit: Unit;
  reading: Reading | null;
  /** What it took the place of, newest first. */
  earlier: readonly Reading[];
  /** Whether the server is not known to have it. */
  isWaiting: boolean;
  expected: Expected | null;
  /** The most that the meter is for, as its display would show it; null without a limit. */
  mostValue: number | null;
  onTake: (value: number) => void;
}) {
  const [isOpen, setIsOpen] = useState(false);
  const agreement = reading && expected ? agreementOf(reading.value, expected) : null;
  if (!reading || isOpen)
    return (
      <Entry
        name={name}
        unit={unit}
        mostValue={mostValue}
        isFocused={isOpen}
        onLeave={reading ? () => setIsOpen(false) : null}
        onTake={(value) => {
          setIsOpen(false);
          onTake(value);
        }}
      />
    );
  return (
    <div data-reading={name}>
      <span className="inline-flex items-center gap-1.5">
        <span className="text-[14.5px] font-semibold">
          <Quantity value={reading.value} unit={unit} digits={4} />
        </span>
        {agreement ? (
          <>
            <FitMark fit={MARKS[agreement]} />
            <span className="text-soft">{agreement}</span>
          </>
        ) : null}
        <button
          type="button"
          className={`no-print ${buttonStyle('quiet')}`}
          aria-label={`Put right what was read at ${name}`}
          onClick={() => setIsOpen(true)}
        >
          <Pencil className="size-3.5" aria-hidden="true" />
        </button>
      </span>
      {expected && isTurned(reading.value, expected) ? (
        <span className="block text-xs text-soft">
          with the other sign it would agree: leads, or all of the ladder, the other way round?
        </span>
      ) : null}
      {isWaiting ? <span className="block text-xs text-close">waits in this browser</span> : null}
      {earlier.length > 0 ? (
        <span className="block text-xs text-soft">
          before: {earlier.map(({ value }) => formatQuantity(value, unit, 4)).join(', ')}
        </span>
      ) : null}
    </div>
  );
}

function Entry({
  name,
  unit,
  mostValue,
  isFocused,
  onLeave,
  onTake,
}: {
  name: string;
  unit: Unit;
  mostValue: number | null;
  isFocused: boolean;
  onLeave: (() => void) | null;
  onTake: (value: number) => void;
}) {
  const id = useId();
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    if (text.trim() === '') return;
    const read = typedReading(text, unit, { isSigned: unit === 'V', most: mostValue });
    if ('fault' in read) return setFault(read.fault);
    const fields = [...document.querySelectorAll<HTMLInputElement>('[data-reading-field]')];
    const next = fields[fields.findIndex((field) => field.id === id) + 1];
    onTake(read.value);
    next?.focus();
  };
  return (
    <form onSubmit={submit} className="no-print" noValidate>
      <div className="flex items-center gap-1.5">
        <input
          id={id}
          data-reading-field
          aria-label={`Read at ${name}`}
          aria-invalid={fault !== null}
          aria-describedby={fault ? `${id}-fault` : undefined}
          inputMode="decimal"
          autoComplete="off"
          autoFocus={isFocused}
          placeholder={unit}
          className="field figures w-24 px-2 py-1 text-[16px] sm:text-[14px]"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setFault(null);
          }}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && onLeave) onLeave();
          }}
        />
        <button type="submit" className={buttonStyle('plain')} aria-label={`Take what was read at ${name}`}>
          <Check className="size-4" aria-hidden="true" />
        </button>
      </div>
      {fault ? (
        <p id={`${id}-fault`} role="alert" className="mt-0.5 max-w-60 text-xs whitespace-normal text-over">
          {fault}
        </p>
      ) : null}
    </form>
  );
}
