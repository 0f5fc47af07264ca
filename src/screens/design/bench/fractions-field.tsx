'use client';

import { useId, useState } from 'react';
import { useBenchSettings } from '@/client/bench-store';
import { fractionsIn, fractionsText } from '@/core/bench/fractions';

/** At which fractions of the drive one stops on the way up. */
export function FractionsField() {
  const id = useId();
  const { settings, change } = useBenchSettings();
  const [draft, setDraft] = useState<{ text: string; fault: string | null } | null>(null);
  const type = (text: string) => {
    const fractions = fractionsIn(text);
    const fault = fractions
      ? change({ fractions })
      : 'That is no list of steps: per cents such as 25, 50, 75, 100 would be right.';
    setDraft({ text, fault });
  };
  return (
    <div className="no-print mb-1 flex flex-wrap items-baseline gap-2 text-[13.5px]">
      <label htmlFor={id} className="text-soft">
        Steps, %
      </label>
      <input
        id={id}
        className="field figures w-48 px-2 py-0.5"
        inputMode="text"
        autoComplete="off"
        aria-invalid={draft?.fault != null}
        aria-describedby={draft?.fault ? `${id}-fault` : undefined}
        value={draft?.text ?? fractionsText(settings.fractions)}
        onChange={(event) => type(event.target.value)}
        onBlur={() => setDraft((now) => (now?.fault ? now : null))}
      />
      {draft?.fault ? (
        <p id={`${id}-fault`} role="alert" className="basis-full text-xs text-over">
          {draft.fault}
        </p>
      ) : null}
    </div>
  );
}
