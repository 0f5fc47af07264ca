import type { ReactNode } from 'react';
import type { Finding } from '@/core/quantity/finding';
import type { Unit } from '@/core/quantity/units';
import { Quantity } from '@/ui/quantity';
import { DescribedField } from '@/ui/described-field';
import { FindingItem } from '../verdict/finding-item';
import type { FieldDescription } from '@/core/quantity/field-description';
import type { BenchEditing } from './bench-editing';

/** What is entered on the left, what follows from it on the right. */
export function Sheet({ entered, follows }: { entered: ReactNode; follows: ReactNode }) {
  return (
    <div className="grid gap-x-8 gap-y-4 sm:grid-cols-[minmax(0,19rem)_minmax(0,1fr)]">
      <div>{entered}</div>
      <div aria-live="polite">{follows}</div>
    </div>
  );
}

export function Heading({ children }: { children: ReactNode }) {
  return <h3 className="mt-3 mb-1 text-[13px] font-semibold text-soft first:mt-0">{children}</h3>;
}

/** A field of one part of the sheet. */
export function BenchField({
  bench: { winding, set },
  part,
  field,
}: {
  bench: BenchEditing;
  part: keyof BenchEditing['winding'];
  field: FieldDescription;
}) {
  return (
    <DescribedField
      field={field}
      value={(winding[part] as Record<string, unknown>)[field.name]}
      onEdit={(changed) => set(`${part}.${field.name}`, changed)}
    />
  );
}

/** One result in a line, and what can be done with it. */
export function Result({
  name,
  testName,
  value,
  unit,
  digits = 3,
  after,
  children,
}: {
  name: string;
  /** What a test finds it by. */
  testName?: string;
  value: number | null;
  unit: Unit;
  digits?: number;
  after?: string;
  children?: ReactNode;
}) {
  return (
    <div className="flex items-baseline justify-between gap-3 border-b border-rule py-[3.5px]">
      <span className="text-soft">{name}</span>
      <span className="flex items-baseline gap-2.5 text-right">
        <span data-calculated={testName}>
          <Quantity value={value} unit={unit} digits={digits} />
          {after && value !== null ? <span className="text-[0.86em] text-soft"> {after}</span> : null}
        </span>
        {children}
      </span>
    </div>
  );
}

/** Takes a result into the design. */
export function Take({ onTake, children }: { onTake: () => void; children: ReactNode }) {
  return (
    <button type="button" className="font-medium whitespace-nowrap text-copper hover:underline" onClick={onTake}>
      {children}
    </button>
  );
}

export function BenchFindings({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) return null;
  return (
    <ul aria-label="What the bench says" className="mt-3 grid gap-2">
      {findings.map((finding) => (
        <FindingItem key={finding.message} finding={finding} />
      ))}
    </ul>
  );
}

/** What stands where nothing can be said yet. */
export function Empty({ children }: { children: ReactNode }) {
  return <p className="text-soft">{children}</p>;
}
