'use client';

import { useMemo } from 'react';
import { saidOfFaults } from '@/core/bench/faults/faults';
import type { FaultTask, FoundFaults, FoundGroup, NoFaults } from '@/core/bench/faults/find';
import type { NextReading } from '@/core/bench/faults/next-reading';
import type { SearchProgress } from '@/core/bench/faults/shared-search';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { sentence } from '@/core/quantity/sentence';
import { More } from '@/ui/more';
import { useClient } from '@/ui/use-client';
import { useLatest } from '@/ui/use-latest';
import { faultsClient } from '@/worker/faults-client';
import { HiddenFaults } from './hidden-faults';

const PAUSE_MILLISECONDS = 200;

/** Which faults the readings of a session speak of, how to be sure, and what to read next. */
export function FaultFinder({
  task,
}: {
  /** The same object while it is the same search. */
  task: FaultTask;
}) {
  const client = useClient(faultsClient);
  const job = useMemo(
    () => ({
      run: (report: (progress: SearchProgress) => void) => client.search(task, report),
      cancel: client.cancel,
    }),
    [task, client],
  );
  const [latest, stop] = useLatest<FoundFaults | NoFaults, SearchProgress>(job, PAUSE_MILLISECONDS);
  if (latest.kind === 'failed') return <p className="text-over">The search failed: {latest.reason}</p>;
  const result = latest.kind === 'ready' ? latest.result : null;
  if (result && 'why' in result) return <p className="text-[13.5px] text-soft">{NO_FAULTS[result.why]}</p>;
  const soFar = latest.progress?.soFar ?? null;
  const found = result ?? soFar;
  // What is found later stands where it stood before: nothing that was opened closes.
  return (
    <>
      {latest.kind === 'stopped' ? (
        <p className="mb-1 text-[13.5px] text-soft">
          Stopped{soFar ? ' before the time domain had the last word on the leading ones' : ''}.
        </p>
      ) : latest.kind === 'working' ? (
        <p className="mb-1 text-[13.5px] text-soft" role="status">
          {soFar ? 'Two faults at once, and the leading ones in the time domain' : 'Every single fault'},{' '}
          {Math.round(100 * (latest.progress?.fraction ?? 0))} %{' '}
          <button type="button" className="font-medium text-copper hover:underline" onClick={stop}>
            Stop
          </button>
        </p>
      ) : null}
      {found ? <Found found={found} isLast={latest.kind === 'ready'} /> : null}
    </>
  );
}

const NO_FAULTS: Record<NoFaults['why'], string> = {
  'too few': 'No tap has been read yet: one reading at least is needed, better one at each tap.',
  'no test': 'This drive cannot be computed turned down, or nothing rectifies here: there is nothing to compare with.',
};

function Found({ found, isLast }: { found: FoundFaults; isLast: boolean }) {
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
              No fault evaluated explains these readings well: there may be more than one, or a reading that is not what
              it is taken for. The nearest come first.
            </p>
          )}
          <ol aria-label="Suspects" className="grid gap-2">
            {groups.map((group, at) => (
              <li
                key={at}
                className="border-b border-rule pb-2"
                data-suspect={group.suspects[0].map(({ kind }) => kind).join(' ')}
              >
                <Group group={group} isFirst={at === 0} />
              </li>
            ))}
          </ol>
        </>
      )}
      {next ? (
        <p data-bench="next-reading">
          <strong className="font-semibold">{nextWords(next)}</strong>{' '}
          {next.shown
            .map(({ faults, volts }) => `${formatQuantity(volts, 'V', 3)} if ${saidOfFaults(faults)}`)
            .join('; ')}
          .
        </p>
      ) : isSound || !isLast ? null : (
        <p className="text-soft">No further reading of a tap tells these apart: what makes sure of each does.</p>
      )}
      <HiddenFaults hidden={hidden} />
    </div>
  );
}

function nextWords(next: NextReading): string {
  if (next.kind === 'source') return 'Read the source itself next.';
  const held = next.heldSeconds === null ? '' : ` with the probe held for ${formatQuantity(next.heldSeconds, 's', 2)}`;
  return `Read ${next.node} next${held}.`;
}

/** Suspects that these readings cannot tell apart. */
function Group({ group: { weight, suspects }, isFirst }: { group: FoundGroup; isFirst: boolean }) {
  const [first, ...others] = suspects;
  return (
    <>
      <p>
        <strong className="font-semibold">{sentence(saidOfFaults(first))}</strong>{' '}
        <span className="text-soft">with {oddsWords(weight)} of the odds</span>
      </p>
      {others.length > 0 ? (
        <p>
          <span className="text-soft">These readings cannot tell it from: </span>
          {others.slice(0, MOST_ALIKE).map(saidOfFaults).join('; ')}
          {others.length > MOST_ALIKE ? `; ${others.length - MOST_ALIKE} more` : ''}.
        </p>
      ) : null}
      {isFirst ? (
        <>
          {first.map((fault) => (
            <div key={fault.kind + fault.place}>
              {first.length > 1 ? <p className="font-medium">{sentence(saidOfFaults([fault]))}</p> : null}
              <p>{fault.why}</p>
              <p>
                <span className="text-soft">To be sure, the ladder made dead by its discharge plan first: </span>
                {fault.confirm}
              </p>
              <p>
                <span className="text-soft">Besides: </span>
                {fault.besides}
              </p>
            </div>
          ))}
          {others.length > 0 ? (
            <More words="How to be sure of the others">
              <ul className="grid gap-0.5 text-[13px]">
                {others.slice(0, MOST_ALIKE).flatMap((faults, at) =>
                  faults.map((fault) => (
                    <li key={`${at} ${fault.kind} ${fault.place}`}>
                      <span className="text-soft">{sentence(saidOfFaults([fault]))}. </span>
                      {fault.confirm}
                    </li>
                  )),
                )}
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

const MOST_ALIKE = 6;
