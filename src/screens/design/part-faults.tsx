import { useMemo } from 'react';
import { faultsOfPart } from '@/core/bench/faults/at-full-drive';
import type { Design } from '@/core/design/design-schema';
import { sentence } from '@/core/quantity/sentence';
import { Pick } from '@/ui/pick';
import type { useWhatIf } from './use-what-if';

const SOUND = 'sound';

/** What the chosen part may have, to be seen in the picture. */
export function PartFaults({
  design,
  part,
  whatIf: { shown, put },
}: {
  design: Design;
  part: string;
  whatIf: ReturnType<typeof useWhatIf>;
}) {
  const faults = useMemo(() => faultsOfPart(design, part), [design, part]);
  const value = shown?.fault.place === part ? shown.fault.kind : SOUND;
  return (
    <span className="inline-flex items-center gap-2">
      <span className="text-soft">What if</span>
      <Pick
        label={`What if ${part}`}
        className="w-52"
        value={value}
        options={[
          { value: SOUND, name: 'it is sound' },
          ...faults.map(({ fault, name }) => ({ value: fault.kind, name: sentence(name) })),
        ]}
        onValue={(kind) => put(faults.find(({ fault }) => fault.kind === kind)?.fault ?? null)}
      />
    </span>
  );
}
