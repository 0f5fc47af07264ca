'use client';

import { useEffect, useMemo } from 'react';
import type { Fault } from '@/core/bench/faults/fault';
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

const PAUSE_MILLISECONDS = 50;

/** Which faults the readings of a session speak of, how to be sure, and what to read next. */
export function FaultFinder({
  known,
  task,
  onOver,
  onPutIn,
}: {
  /** What is known before the expected readings are. */
  known: Omit<FaultTask, 'test'>;
  /** The same object while it is the same search; null where what is expected is not known yet. */
  task: FaultTask | null;
  /** Told which search has ended, with a result or without. */
  onOver: (task: FaultTask) => void;
  /** Puts a fault of a part into the picture of the design; null where the readings are of another. */
  onPutIn: ((fault: Fault) => void) | null;
}) {
  const client = useClient(faultsClient);
  const isKnown = task !== null;
  useEffect(() => {
    if (!isKnown) client.prepare(known);
  }, [client, known, isKnown]);
  const job = useMemo(
    () =>
      task && {
        run: (report: (progress: SearchProgress) => void) => client.search(task, report),
        cancel: client.cancel,
      },
    [task, client],
  );
  const [latest, stop] = useLatest<FoundFaults | NoFaults, SearchProgress>(job, PAUSE_MILLISECONDS);
  const isOver = latest.kind !== 'working';
  useEffect(() => {
    if (task && isOver) onOver(task);
  }, [task, isOver, onOver]);
  if (!task)
    return (
      <p className="text-[13.5px] text-soft" role="status">
        Begins once the expected readings are known.
      </p>
    );
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
      {found ? <Found found={found} isLast={latest.kind === 'ready'} onPutIn={onPutIn} /> : null}
    </>
  );
}

const NO_FAULTS: Record<NoFaults['why'], string> = {
  'too few': 'No tap has been read yet: one reading at least is needed, better one at each tap.',
  'no test': 'This drive cannot be computed turned down, or nothing rectifies here: there is nothing to compare with.',
};

type PutIn = { onPutIn: ((fault: Fault) => void) | null };

function Found({ found, isLast, onPutIn }: { found: FoundFaults; isLast: boolean } & PutIn) {
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
                <Group group={group} isFirst={at === 0} onPutIn={onPutIn} />
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
function Group({ group: { weight, suspects }, isFirst, onPutIn }: { group: FoundGroup; isFirst: boolean } & PutIn) {
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
                {onPutIn && fault.isInPart ? (
                  <>
                    {' '}
                    <button
                      type="button"
                      className="no-print font-medium text-copper hover:underline"
                      onClick={() => onPutIn(fault)}
                    >
                      The Climb with it at full drive
                    </button>
                  </>
                ) : null}
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
