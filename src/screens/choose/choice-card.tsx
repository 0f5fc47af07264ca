'use client';

import { useFailedWords } from '@/client/failures';
import type { ChoiceTimeDomain } from '@/core/choose/choice-time-domain';
import { formOf, type ChoiceRow } from '@/core/choose/row';
import { signedVolts, type Polarity } from '@/core/quantity/polarity';
import { buttonStyle } from '@/ui/button';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { useCounting } from '@/ui/use-counting';

/** The selected choice: its parts, what limits it, what the engine says, and what can be made of it. */
export function ChoiceCard({
  row,
  settled,
  polarity,
  intoName,
  busy,
  onMake,
  onPutInto,
}: {
  row: ChoiceRow;
  /** Undefined until the engine has looked, null where it could not tell. */
  settled: ChoiceTimeDomain | null | undefined;
  polarity: Polarity;
  /** Design whose drive it stands on, if any. */
  intoName: string | null;
  busy: boolean;
  onMake: () => void;
  onPutInto: () => void;
}) {
  const { counting } = useCounting();
  const failed = useFailedWords(row.design);
  return (
    <section aria-label="This choice" className="flex h-full min-w-0 flex-col text-[13px]">
      <h2 className="text-[17px] leading-snug font-semibold tracking-tight">{formOf(row.shape, counting)}</h2>
      <ul className="mt-1">
        {row.taken.map((part) => (
          <li key={part.name} className="flex items-baseline gap-1.5">
            <FitMark fit={part.missing > 0 ? 'over' : 'fits'} />
            <span className="figures">{part.count}</span>
            <span className="min-w-0 break-words">
              {part.name}
              {part.missing > 0 ? <span className="text-over">, {part.missing} to buy</span> : null}
            </span>
          </li>
        ))}
      </ul>
      {row.toBuyPrice ? (
        <p className="text-soft">
          To buy: <span className="figures">{row.toBuyPrice.toFixed(2)}</span>.
        </p>
      ) : null}
      {row.drive === '' ? null : <p>With the {row.drive}.</p>}
      <p className="mt-1.5">
        Limiting factor: <span className="font-medium">{row.limit}</span>.
      </p>
      <p className="mt-1 text-soft" data-in-time={settled ? 'settled' : 'waiting'}>
        {settled === undefined ? (
          'The time domain has not been evaluated yet.'
        ) : settled === null ? (
          'The time domain has no settled state for it.'
        ) : (
          <>
            The time domain gives <Quantity value={signedVolts(settled.meanVolts, polarity)} unit="V" />, ripple{' '}
            <Quantity value={settled.rippleFraction} unit="%" digits={2} />:{' '}
            {settled.met
              ? 'it still reaches the target.'
              : row.met
                ? 'there it misses the target.'
                : 'short there too.'}
          </>
        )}
      </p>
      {[...row.warnings, ...failed].map((warning) => (
        <p key={warning} className="mt-1 border-l-[3px] border-close pl-2">
          {warning}
        </p>
      ))}
      <div className="mt-auto flex flex-wrap gap-2 pt-2">
        <button type="button" className={buttonStyle('solid')} disabled={busy} onClick={onMake}>
          Make it a design
        </button>
        {intoName ? (
          <button
            type="button"
            className={`${buttonStyle('plain')} max-w-full min-w-0`}
            disabled={busy}
            onClick={onPutInto}
          >
            <span className="truncate">Put it into {intoName}</span>
          </button>
        ) : null}
      </div>
    </section>
  );
}
