'use client';

import { format } from 'date-fns';
import { useState } from 'react';
import { toast } from 'sonner';
import { useBenchReadings } from '@/client/bench-readings';
import { agreementOf } from '@/core/bench/agreement';
import { FAILURE_WAYS, IDLE, isReading, READING_KINDS, type Entry, type Reading } from '@/core/bench/entries';
import { placeWords } from '@/core/bench/entry-words';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { buttonStyle } from '@/ui/button';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { BenchPicture } from '../bench-picture';
import { MARKS } from './reading-field';
import type { Readings } from './readings';

/** Readings of these stand in the tables of the test and the steps. */
const isInTables = (entry: Entry): boolean =>
  isReading(entry) &&
  (entry.kind === 'source' ||
    entry.kind === 'output' ||
    (entry.kind === 'tap' && entry.meter === null) ||
    (entry.kind === 'supply-current' && entry.at !== IDLE)) &&
  entry.remark === '' &&
  entry.pictureId === null;

/** Entries shown at first, and with each wish for more. */
const AT_FIRST = 40;
const MORE = 100;

/** What else was recorded in a session, newest first. */
export function EntryList({ designId, readings }: { designId: string; readings: Readings }) {
  const [most, setMost] = useState(AT_FIRST);
  const shown = readings.all.filter((entry) => !isInTables(entry) && !isEmpty(entry)).toReversed();
  if (shown.length === 0)
    return <p className="text-[13px] text-soft">Nothing recorded yet beside the readings above.</p>;
  return (
    <div>
      <ul aria-label="Recorded" className="grid max-w-2xl gap-1">
        {shown.slice(0, most).map((entry) => (
          <EntryItem key={entry.id} designId={designId} entry={entry} readings={readings} />
        ))}
      </ul>
      {shown.length > most ? (
        <button
          type="button"
          className={`no-print mt-1 ${buttonStyle('quiet')}`}
          onClick={() => setMost((now) => now + MORE)}
        >
          Show earlier ones, {shown.length - most} more
        </button>
      ) : null}
    </div>
  );
}

/** One that another was put in the place of, with nothing said. */
const isEmpty = (entry: Entry): boolean => entry.kind === 'note' && entry.remark === '' && entry.pictureId === null;

function EntryItem({ designId, entry, readings }: { designId: string; entry: Entry; readings: Readings }) {
  return (
    <li data-entry={entry.kind} className="flex gap-3 border-b border-rule py-1 text-[13px]">
      <time dateTime={entry.takenAt} className="w-12 shrink-0 text-soft">
        {format(new Date(entry.takenAt), 'HH:mm')}
      </time>
      <div className="min-w-0 flex-1">
        <EntryWords entry={entry} />
        {entry.remark === '' ? null : <p className="break-words">{entry.remark}</p>}
        {entry.pictureId ? <EntryPicture designId={designId} entry={entry} id={entry.pictureId} /> : null}
        {readings.isWaiting(entry) ? <p className="text-xs text-close">waits in this browser</p> : null}
      </div>
      <button
        type="button"
        className={`no-print self-start ${buttonStyle('quiet')}`}
        title="It stays kept, and no longer counts"
        onClick={() => strikeOut(entry, readings)}
      >
        Strike out
      </button>
    </li>
  );
}

function strikeOut(entry: Entry, readings: Readings): void {
  const id = readings.add({ kind: 'note', at: '', remark: '', pictureId: null, replaces: entry.id });
  toast('Struck out: it stays kept, and no longer counts.', {
    action: { label: 'Undo', onClick: () => void readings.add({ ...entry, replaces: id }) },
  });
}

function EntryWords({ entry }: { entry: Entry }) {
  switch (entry.kind) {
    case 'note':
      return null;
    case 'scope':
      return (
        <p>
          Scope record at {entry.at}, <Quantity value={entry.frequencyHertz} unit="Hz" />
        </p>
      );
    case 'failure':
      return (
        <p className="font-medium text-over">
          {entry.at} {FAILURE_WAYS[entry.how]}
          {entry.stressVolts === null ? null : (
            <span className="font-normal text-soft">
              , predicted to stand at <Quantity value={entry.stressVolts} unit="V" />
              {entry.type?.ratedVolts ? (
                <>
                  {' '}
                  of <Quantity value={entry.type.ratedVolts} unit="V" />
                </>
              ) : null}
            </span>
          )}
        </p>
      );
    default:
      return <ReadingWords reading={entry} />;
  }
}

function ReadingWords({ reading }: { reading: Reading }) {
  const { kind, at, value, expected, meter, sinceOnSeconds, heldSeconds } = reading;
  const { name, unit } = READING_KINDS[kind];
  const agreement = expected && agreementOf(value, expected);
  const place = placeWords(kind, at);
  const times = [
    ...(sinceOnSeconds === null ? [] : [`${formatQuantity(sinceOnSeconds, 's')} after switch-on`]),
    ...(heldSeconds === null ? [] : [`held ${formatQuantity(heldSeconds, 's')}`]),
    ...(meter === null ? [] : [`through a meter of ${formatQuantity(meter.inputOhms, 'Ω')}`]),
  ];
  return (
    <p>
      {name}
      {place}:{' '}
      <strong className="font-semibold">
        <Quantity value={value} unit={unit} digits={4} />
      </strong>
      {agreement ? (
        <>
          {' '}
          <FitMark fit={MARKS[agreement]} /> <span className="text-soft">{agreement}; expected </span>
          <Quantity value={expected.value} unit={unit} />
        </>
      ) : null}
      {times.length > 0 ? <span className="text-soft">; {times.join(', ')}</span> : null}
    </p>
  );
}

/** From the server; before it is there, from what waits in this browser. */
function EntryPicture({ designId, entry, id }: { designId: string; entry: Entry; id: string }) {
  const isThere = useBenchReadings(({ waiting }) => waiting.every(({ reading }) => reading.id !== entry.id));
  if (!isThere) return <p className="text-soft">with a picture</p>;
  return (
    <div className="mt-1">
      <BenchPicture designId={designId} id={id} takenAt={entry.takenAt} size="max-h-40" />
    </div>
  );
}
