'use client';

import { fieldName, fieldValue } from '@/core/design/change-words';
import type { Design } from '@/core/design/design-schema';
import { differences } from '@/core/design/differences';
import { useCounting } from '@/ui/use-counting';

/** Where two states of a design differ, field by field. */
export function DifferencesTable({
  one,
  other,
  headings,
}: {
  one: Design;
  other: Design;
  /** Of what each of the two is. */
  headings: readonly [string, string];
}) {
  const { counting } = useCounting();
  return (
    <table className="w-full text-left">
      <thead>
        <tr className="border-b border-rule text-[13px] text-soft">
          <th className="py-1 pr-3 font-normal">Field</th>
          <th className="py-1 pr-3 font-normal">{headings[0]}</th>
          <th className="py-1 font-normal">{headings[1]}</th>
        </tr>
      </thead>
      <tbody className="figures">
        {differences(one, other).map((difference) => (
          <tr key={difference.path} className="border-b border-rule align-top">
            <td className="py-1 pr-3 font-sans">{fieldName(difference, one, other)}</td>
            <td className="py-1 pr-3 break-words">{fieldValue(difference, difference.one, one, other, counting)}</td>
            <td className="py-1 break-words">{fieldValue(difference, difference.other, one, other, counting)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
