'use client';

import type { DrawerPlan } from '@/core/drawer/drawer-rows';
import { inShort, PART_NAMES } from '@/core/parts/part-fields';
import type { Part } from '@/core/parts/part-schema';
import { buttonStyle } from '@/ui/button';
import { Panel } from '@/ui/dialog';

const lines = (count: number, what: string) => `${count} ${count === 1 ? 'line' : 'lines'} ${what}`;

/** Most lines of each list; the numbers above count them all. */
const MOST_SHOWN = 200;

function AndMore({ of }: { of: number }) {
  return of > MOST_SHOWN ? <li className="py-1 text-[13px] text-soft">and {of - MOST_SHOWN} more</li> : null;
}

/** What a file would change, before it does: new and changed parts, and what is wrong by line. */
export function ImportDialog({
  file,
  plan,
  onClose,
  onImport,
}: {
  file: string;
  plan: DrawerPlan;
  onClose: () => void;
  onImport: (parts: Part[]) => void;
}) {
  const fresh = plan.rows.filter((row) => row.what === 'new');
  const changed = plan.rows.filter((row) => row.what === 'changed');
  const same = plan.rows.length - fresh.length - changed.length;
  const taken = [...fresh, ...changed];
  return (
    <Panel
      open
      onClose={onClose}
      size="wide"
      title="Before anything is changed"
      description={`${file}: ${lines(fresh.length, 'new')}, ${lines(changed.length, 'change a part')}, ${lines(same, 'as they are')}, ${lines(plan.faults.length, 'wrong')}.`}
    >
      {plan.ignored.length > 0 ? (
        <p className="mb-2 text-[13px] text-soft">Columns not known here, left out: {plan.ignored.join(', ')}.</p>
      ) : null}
      {plan.faults.length > 0 ? (
        <ul aria-label="Wrong lines" className="mb-3 grid gap-1.5">
          {plan.faults.slice(0, MOST_SHOWN).map((fault) => (
            <li key={fault.line} className="border-l-[3px] border-over pl-2.5 text-[13px]">
              <strong className="font-semibold">Line {fault.line}</strong> {fault.message}
            </li>
          ))}
          <AndMore of={plan.faults.length} />
        </ul>
      ) : null}
      {taken.length > 0 ? (
        <ul aria-label="Changes" className="max-h-[40vh] overflow-y-auto border-y border-rule text-[13px]">
          {taken.slice(0, MOST_SHOWN).map(({ line, part, what, changes }) => (
            <li key={line} className="flex items-baseline gap-3 border-b border-rule py-1 last:border-0">
              <span className="w-14 shrink-0 text-soft">{what}</span>
              <span className="min-w-0 flex-1">
                {part.name}{' '}
                <span className="text-soft">
                  {PART_NAMES[part.kind].toLowerCase()}, {inShort(part)}, {part.count} of them
                </span>
              </span>
              {what === 'changed' ? <span className="text-soft">{changes.join(', ')}</span> : null}
            </li>
          ))}
          <AndMore of={taken.length} />
        </ul>
      ) : null}
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className={buttonStyle('plain')} onClick={onClose}>
          Cancel
        </button>
        <button
          type="button"
          className={buttonStyle('solid')}
          disabled={taken.length === 0}
          onClick={() => onImport(taken.map(({ part }) => part))}
        >
          {taken.length === 0
            ? 'Nothing to take in'
            : plan.faults.length > 0
              ? `Take in the ${taken.length} good ${taken.length === 1 ? 'line' : 'lines'}`
              : `Take in ${taken.length} ${taken.length === 1 ? 'part' : 'parts'}`}
        </button>
      </div>
    </Panel>
  );
}
