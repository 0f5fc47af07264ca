import { faultKind, saidOfFaults } from '@/core/bench/faults/faults';
import type { Fault } from '@/core/bench/faults/fault';
import { sentence } from '@/core/quantity/sentence';
import { More } from '@/ui/more';

/** Faults that readings would not show, with what does. */
export function HiddenFaults({ hidden }: { hidden: readonly Fault[] }) {
  const kinds = [...new Set(hidden.map(({ kind }) => kind))];
  return hidden.length > 0 ? (
    <More words={`Faults that these readings would not show: ${hidden.length}`}>
      <ul className="grid gap-0.5 text-[13px] text-soft">
        {kinds.map((kind) => (
          <li key={kind}>
            {sentence(
              hidden
                .filter((one) => one.kind === kind)
                .map((one) => saidOfFaults([one]))
                .join('; '),
            )}
            : {faultKind(kind).shownBy} would show it.
          </li>
        ))}
      </ul>
    </More>
  ) : null;
}
