import type { RaisedStress } from '@/core/bench/faults/at-full-drive';
import { formatQuantity } from '@/core/quantity/format-quantity';
import type { WhatIfShown } from './use-what-if';

/** That the picture is that of a ladder with a fault, which stresses it raises, and how to remove it. */
export function WhatIfBar({ shown: { name, raised, waits, onEnd } }: { shown: WhatIfShown }) {
  return (
    <section
      aria-label="With a fault"
      className="border-b border-rule bg-sheet px-4 py-1.5 text-[13px]"
      data-what-if={waits ?? 'shown'}
    >
      <p>
        <strong className="font-semibold">With {name}</strong>, at full drive and load, until a part fails.{' '}
        <button type="button" className="font-medium text-copper hover:underline" onClick={onEnd}>
          Remove it
        </button>
      </p>
      {waits === 'working' ? (
        <p className="text-soft" role="status">
          In the time domain…
        </p>
      ) : waits === 'none' ? (
        <p className="text-soft">
          The time domain does not settle with it: there are no figures to show, and the picture is that of the sound
          ladder.
        </p>
      ) : (
        <p className="text-soft">
          {raised.length > 0
            ? `Higher stress than without it: ${raised.map(stressWords).join('; ')}.`
            : 'No part is stressed more than without it.'}{' '}
          The drive is held as it is, whatever is asked of it.
        </p>
      )}
    </section>
  );
}

const WORDS = {
  'capacitor-volts': { does: 'works at', unit: 'V' },
  'diode-volts': { does: 'blocks up to', unit: 'V' },
  'diode-amps': { does: 'carries on average', unit: 'A' },
} as const;

function stressWords({ part, of, sound, faulty, rated }: RaisedStress): string {
  const { does, unit } = WORDS[of];
  const own = rated === null ? '' : `, rated ${formatQuantity(rated, unit)}`;
  return `${part} ${does} ${formatQuantity(faulty, unit)} (${formatQuantity(sound, unit)} before${own})`;
}
