'use client';

import { format } from 'date-fns';
import { useId, useState } from 'react';
import { dropWaiting, useBenchReadings } from '@/client/bench-readings';
import { isReading } from '@/core/bench/entries';
import { standing, type Session, type SessionReadings } from '@/core/bench/session';
import { buttonStyle } from '@/ui/button';
import { SwitchedOn } from './switched-on';
import { Pick } from '@/ui/pick';

const NONE = 'plan';

const wordsOf = ({ session, readings }: SessionReadings): string => {
  const count = standing(readings).filter(isReading).length;
  return `${format(new Date(session.startedAt), 'd MMM yyyy, HH:mm')}, ${count} ${count === 1 ? 'reading' : 'readings'}`;
};

/** Which session is on screen, and a new one. */
export function SessionBar({
  sessions,
  chosen,
  isSaved,
  onChoose,
  onBegin,
}: {
  sessions: readonly SessionReadings[];
  chosen: Session | null;
  /** Whether the revision on screen is in the database: readings hang on one. */
  isSaved: boolean;
  onChoose: (session: Session | null) => void;
  /** @param note what it is taken in, in words */
  onBegin: (note: string) => void;
}) {
  const id = useId();
  const [note, setNote] = useState('');
  const { kept, waiting, refused, isKept } = useBenchReadings();
  const isNew = chosen !== null && sessions.every(({ session }) => session.id !== chosen.id);
  const options = [
    { value: NONE, name: 'Plan alone' },
    ...(isNew ? [{ value: chosen.id, name: 'New, no readings yet' }] : []),
    ...sessions.map((one) => ({ value: one.session.id, name: wordsOf(one) })),
  ];
  return (
    <div className="no-print mt-3 grid max-w-2xl gap-1">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <div className="flex min-w-72 flex-1 items-baseline gap-3">
          <label htmlFor={id} className="text-[13.5px] text-soft">
            Session
          </label>
          <Pick
            id={id}
            className="min-w-0 flex-1"
            value={chosen?.id ?? NONE}
            options={options}
            onValue={(wanted) =>
              onChoose(
                isNew && wanted === chosen.id
                  ? chosen
                  : (sessions.find(({ session }) => session.id === wanted)?.session ?? null),
              )
            }
          />
        </div>
        <button
          type="button"
          className={buttonStyle(chosen ? 'plain' : 'solid')}
          disabled={!isSaved}
          onClick={() => {
            onBegin(note.trim());
            setNote('');
          }}
        >
          Begin a session
        </button>
      </div>
      {chosen ? (
        <SwitchedOn session={chosen} />
      ) : (
        <>
          <input
            aria-label="Conditions of the next session"
            placeholder="Conditions: air, damp, bench, what else matters"
            maxLength={500}
            className="field px-2 py-1 text-[13.5px]"
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
          <p className="text-[13px] text-soft">Readings, failures and pictures are recorded in a session.</p>
        </>
      )}
      {waiting.length > 0 ? (
        <p role="status" className="text-[13px] text-close" data-bench="waiting">
          {waiting.length} {waiting.length === 1 ? 'reading waits' : 'readings wait'}{' '}
          {isKept ? 'in this browser to be sent' : 'on this page to be sent; this browser keeps nothing, leave it open'}
          .
        </p>
      ) : kept === null ? (
        <p className="text-[13px] text-soft">The server has not answered yet: earlier sessions may be missing.</p>
      ) : null}
      {refused ? (
        <p role="alert" className="text-[13px] text-over">
          The server does not take what waits: {refused}.{' '}
          <button
            type="button"
            className="font-medium text-copper hover:underline"
            onClick={() => waiting.forEach(({ reading }) => dropWaiting(reading.id))}
          >
            Drop it
          </button>
        </p>
      ) : null}
    </div>
  );
}
