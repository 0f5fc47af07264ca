'use client';

import { useMemo } from 'react';
import { faultKind } from '@/core/bench/faults/faults';
import type { Fault } from '@/core/bench/faults/fault';
import type { FoundFaults, NoFaults } from '@/core/bench/faults/find';
import type { LowSource } from '@/core/bench/low-source';
import type { ProvingTest } from '@/core/bench/proving';
import type { FaultReading } from '@/core/bench/faults/suspects';
import type { Design } from '@/core/design/design-schema';
import type { Meter } from '@/core/drive/meter-sense';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { More } from '@/ui/more';
import { useLatest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';

const PAUSE_MILLISECONDS = 200;

/** Which single fault the readings of a session speak of, how to be sure, and what to read next. */
export function FaultFinder({
  design,
  source,
  meter,
  test,
  readings,
  client,
}: {
  design: Design;
  source: LowSource;
  /** The session's. */
  meter: Meter;
  /** What is expected where nothing is wrong. */
  test: ProvingTest;
  readings: readonly FaultReading[];
  client: TransientClient;
}) {
  const job = useMemo(
    () => ({
      run: (report: (fraction: number) => void) => client.faults(design, source, meter, test, readings, report),
      cancel: () => client.cancel('faults'),
    }),
    [design, source, meter, test, readings, client],
  );
  const [latest, stop] = useLatest<FoundFaults | NoFaults, number>(job, PAUSE_MILLISECONDS);
  if (latest.kind === 'failed') return <p className="text-over">The search failed: {latest.reason}</p>;
  if (latest.kind === 'stopped') return <p className="text-[13.5px] text-soft">Stopped.</p>;
  if (latest.kind === 'working')
    return (
      <p className="text-[13.5px] text-soft" role="status">
        Trying every single fault, {Math.round(100 * (latest.progress ?? 0))} %{' '}
        <button type="button" className="font-medium text-copper hover:underline" onClick={stop}>
          Stop
        </button>
      </p>
    );
  const { result } = latest;
  if ('why' in result) return <p className="text-[13.5px] text-soft">{NO_FAULTS[result.why]}</p>;
  return <Found found={result} />;
}

const NO_FAULTS: Record<NoFaults['why'], string> = {
  'too few': 'No tap has been read yet: one reading at least is needed, better one at each tap.',
  'no test': 'This drive cannot be computed turned down, or nothing rectifies here: there is nothing to compare with.',
};

function Found({ found }: { found: FoundFaults }) {
  const { isSound, isExplained, groups, hidden, next } = found;
  return (
    <div className="grid max-w-[75ch] gap-2 text-[13.5px]" aria-live="polite" data-bench="faults">
      {isSound ? (
        <p>
          <strong className="font-semibold">Nothing is wrong that these readings show.</strong> A sound ladder explains
          them, within its parts’ tolerances and the meter’s accuracy.
        </p>
      ) : (
        <>
          {isExplained ? null : (
            <p className="border-l-[3px] border-close pl-2.5">
              No single fault explains these readings well: there may be two, or a reading that is not what it is taken
              for. The nearest come first.
            </p>
          )}
          <ol aria-label="Suspects" className="grid gap-2">
            {groups.map(({ weight, faults }, at) => (
              <li key={at} className="border-b border-rule pb-2" data-suspect={faults[0].kind}>
                <Group weight={weight} faults={faults} isFirst={at === 0} />
              </li>
            ))}
          </ol>
        </>
      )}
      {next ? (
        <p data-bench="next-reading">
          <strong className="font-semibold">
            Read {next.node} next
            {next.heldSeconds === null ? '' : ` with the probe held for ${formatQuantity(next.heldSeconds, 's', 2)}`}.
          </strong>{' '}
          {next.shown.map(({ fault, volts }) => `${formatQuantity(volts, 'V', 3)} if ${said(fault)}`).join('; ')}.
        </p>
      ) : isSound ? null : (
        <p className="text-soft">No further reading of a tap tells these apart: what makes sure of each does.</p>
      )}
      {hidden.length > 0 ? (
        <More words={`Faults that these readings would not show: ${hidden.length}`}>
          <ul className="grid gap-0.5 text-[13px] text-soft">
            {byKind(hidden).map(([kind, faults]) => (
              <li key={kind}>
                {sentence(faults.map(said).join('; '))}: {faultKind(kind).shownBy} would show it.
              </li>
            ))}
          </ul>
        </More>
      ) : null}
    </div>
  );
}

/** Suspects that these readings cannot tell apart. */
function Group({
  weight,
  faults,
  isFirst,
}: {
  weight: number;
  faults: FoundFaults['groups'][number]['faults'];
  isFirst: boolean;
}) {
  const [first, ...others] = faults;
  return (
    <>
      <p>
        <strong className="font-semibold">{sentence(said(first))}</strong>{' '}
        <span className="text-soft">with {oddsWords(weight)} of the odds</span>
      </p>
      {others.length > 0 ? (
        <p>
          <span className="text-soft">These readings cannot tell it from: </span>
          {others.slice(0, MOST_ALIKE).map(said).join('; ')}
          {others.length > MOST_ALIKE ? `; ${others.length - MOST_ALIKE} more` : ''}.
        </p>
      ) : null}
      {isFirst ? (
        <>
          <p>{first.why}</p>
          <p>
            <span className="text-soft">To be sure, the ladder made dead by its discharge plan first: </span>
            {first.confirm}
          </p>
          <p>
            <span className="text-soft">Besides: </span>
            {first.besides}
          </p>
          {others.length > 0 ? (
            <More words="How to be sure of the others">
              <ul className="grid gap-0.5 text-[13px]">
                {others.slice(0, MOST_ALIKE).map((fault) => (
                  <li key={`${fault.kind} ${fault.place}`}>
                    <span className="text-soft">{sentence(said(fault))}. </span>
                    {fault.confirm}
                  </li>
                ))}
              </ul>
            </More>
          ) : null}
        </>
      ) : null}
    </>
  );
}

/** Nothing is ever certain: a share near one is said to be over 99 %. */
const CERTAIN = 0.99;
const oddsWords = (weight: number): string => (weight > CERTAIN ? 'over 99 %' : formatQuantity(weight, '%', 2));

const byKind = (faults: readonly Fault[]): [string, Fault[]][] =>
  [...new Set(faults.map(({ kind }) => kind))].map((kind) => [kind, faults.filter((one) => one.kind === kind)]);

const MOST_ALIKE = 6;
const said = ({ kind, place }: Fault): string => faultKind(kind).said(place);
const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
