import type { Pressed } from '@/core/bench/faults/at-full-drive';
import { faultKind } from '@/core/bench/faults/faults';
import { formatQuantity } from '@/core/quantity/format-quantity';
import type { WhatIfShown } from './use-what-if';

/** That the picture is that of a ladder with a fault in it, what presses its parts, and how to take it out. */
export function WhatIfBar({ shown: { fault, name, pressed, waits, onEnd } }: { shown: WhatIfShown }) {
  return (
    <section
      aria-label="With a fault"
      className="border-b border-rule bg-sheet px-4 py-1.5 text-[13px]"
      data-what-if={waits ?? 'shown'}
    >
      <p>
        <strong className="font-semibold">With {name}</strong>, at full drive and load, until something gives way.{' '}
        <button type="button" className="font-medium text-copper hover:underline" onClick={onEnd}>
          Take it out
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
          {pressed.length > 0
            ? `Pressed harder than without: ${pressed.map(pressedWords).join('; ')}.`
            : 'No part stands more than without it.'}{' '}
          The drive is held as it is, whatever is asked of it. {faultKind(fault.kind).besides}
        </p>
      )}
    </section>
  );
}

const WORDS = {
  'capacitor-volts': { does: 'stands', unit: 'V' },
  'diode-volts': { does: 'blocks', unit: 'V' },
  'diode-amps': { does: 'carries on average', unit: 'A' },
} as const;

function pressedWords({ part, of, sound, faulty, rated }: Pressed): string {
  const { does, unit } = WORDS[of];
  const own = rated === null ? '' : `, rated ${formatQuantity(rated, unit)}`;
  return `${part} ${does} ${formatQuantity(faulty, unit)} (${formatQuantity(sound, unit)} before${own})`;
}
