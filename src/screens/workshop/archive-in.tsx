'use client';

import { format } from 'date-fns';
import Link from 'next/link';
import { useRef, useState, type ReactNode } from 'react';
import type { Contents, Decisions, Inspection, Taken, TakenDesigns } from '@/core/workshop/messages';
import { metersBeside } from '@/core/workshop/meters';
import { buttonStyle } from '@/ui/button';
import { FaultList } from '@/ui/fault-list';
import { ImportButton } from '@/ui/import-button';
import { useListening } from '@/ui/use-listening';
import type { useArchiveIn } from './use-archive-in';
import { type ArchiveIn } from './use-archive-in';
import { bytesWords, counted } from './words';

type Bringing = ReturnType<typeof useArchiveIn>;

/** The way in for an archive: what it holds and what clashes is shown before any of it is taken. */
export function ArchiveInPart({ bringing }: { bringing: Bringing }) {
  const fileInput = useRef<HTMLInputElement>(null);
  const listening = useListening();
  const { state, bring, leave } = bringing;
  return (
    <section aria-labelledby="in-title">
      <h2 id="in-title" className="text-base font-semibold">
        Bring one in
      </h2>
      <p className="mt-1 mb-3 max-w-[62ch] text-[13.5px] text-soft">
        All of an archive is taken or nothing. Nothing that is here is deleted; where the two differ you are asked
        first.
      </p>
      {state.kind === 'none' && listening ? (
        <>
          <ImportButton
            label="Workshop archive"
            words="Workshop archive…"
            accept=".zip,application/zip"
            inputRef={fileInput}
            onFile={(file) => void bring(file)}
          />
          <p className="mt-2 text-[13px] text-soft">Or drop the file anywhere here.</p>
        </>
      ) : null}
      <Progress state={state} onCancel={leave} />
      {state.kind === 'refused' ? (
        <div role="alert">
          <p className="mb-2 text-[13.5px]">
            Nothing was taken. {state.file} has {counted(state.faults.length, 'fault')}:
          </p>
          <FaultList faults={state.faults} />
          <button type="button" className={`${buttonStyle('plain')} mt-3`} onClick={leave}>
            Another file
          </button>
        </div>
      ) : null}
      {state.kind === 'seen' ? <Seen key={state.inspection.seen} seen={state} bringing={bringing} /> : null}
      {state.kind === 'taken' ? <WasTaken taken={state} onAnother={leave} /> : null}
    </section>
  );
}

function Progress({ state, onCancel }: { state: ArchiveIn; onCancel: () => void }) {
  if (state.kind !== 'sending' && state.kind !== 'inspecting' && state.kind !== 'taking') return null;
  const words = {
    sending: state.kind === 'sending' ? `${bytesWords(state.sent)} of ${bytesWords(state.of)} sent` : '',
    inspecting: 'Every member is read and checked…',
    taking: 'Taking it in…',
  }[state.kind];
  return (
    <div className="max-w-md text-[13.5px]">
      <p className="truncate">{state.file}</p>
      <p role="status" className="figures text-soft">
        {words}
      </p>
      {state.kind === 'sending' ? (
        <progress aria-label="Sent" className="mt-2 block w-full" max={state.of || 1} value={state.sent} />
      ) : (
        <progress aria-label="Under way" className="mt-2 block w-full" />
      )}
      <button type="button" className={`${buttonStyle('plain')} mt-3`} onClick={onCancel}>
        Cancel
      </button>
    </div>
  );
}

/** Names that are listed; the number above counts them all. */
const MOST_NAMED = 12;

function Names({ names }: { names: readonly string[] }) {
  if (names.length === 0) return null;
  return (
    <span className="text-soft">
      : {names.slice(0, MOST_NAMED).join(', ')}
      {names.length > MOST_NAMED ? ` and ${names.length - MOST_NAMED} more` : ''}
    </span>
  );
}

type Counted = Parameters<typeof counted>;
/** What there is any of, in words. */
const counts = (...of: Counted[]): string[] => of.filter(([count]) => count > 0).map((one) => counted(...one));

const recordWords = ({ sessions, readings, discharges, ticks, pictures }: Contents['records']): string[] =>
  counts(
    [sessions, 'session'],
    [readings, 'entry', 'entries'],
    [discharges, 'discharge gone through', 'discharges gone through'],
    [ticks, 'step of build sheets', 'steps of build sheets'],
    [pictures, 'picture'],
  );

/** What is new and what is here already, group by group; groups without anything are left out. */
function Summary({ contents, meters }: { contents: Contents; meters: { fresh: number; same: number } }) {
  const { designs, parts, records, differingRecords, unread } = contents;
  const told = recordWords(records);
  const lines: (ReactNode | null)[] = [
    designs.fresh.length > 0 ? (
      <>
        {counted(designs.fresh.length, 'design')} new here, with {counted(designs.revisions, 'saved state')}
        <Names names={designs.fresh.map(({ name }) => name)} />
      </>
    ) : null,
    designs.later.length > 0 ? (
      <>
        {counted(designs.later.length, 'design')} that went on in the archive
        <Names names={designs.later.map(({ name }) => name)} />
      </>
    ) : null,
    designs.same > 0 ? <>{counted(designs.same, 'design')} here already, as in the archive or further</> : null,
    parts.fresh > 0 ? <>{counted(parts.fresh, 'part')} new in the drawer</> : null,
    parts.same > 0 ? <>{counted(parts.same, 'part')} in the drawer as in the archive</> : null,
    told.length > 0 ? <>New records: {told.join(', ')}</> : null,
    meters.fresh > 0 ? <>{counted(meters.fresh, 'own meter')} new in this browser</> : null,
    differingRecords > 0 ? (
      <>{counted(differingRecords, 'record')} with another content here: what is here stays</>
    ) : null,
    unread > 0 ? (
      <>{counted(unread, 'thing')} that could not be read when the archive was written: left in it, in unread.json</>
    ) : null,
  ];
  const shown = lines.filter((line) => line !== null);
  return shown.length === 0 ? (
    <p className="text-[13.5px]">The archive is empty.</p>
  ) : (
    <ul aria-label="In the archive" className="grid gap-1 text-[13.5px]">
      {shown.map((line, at) => (
        <li key={at} className="border-l-[3px] border-rule pl-2.5">
          {line}
        </li>
      ))}
    </ul>
  );
}

/** Two that clash, and which of them counts. */
function Clash<T extends string>({
  one,
  many,
  rows,
  options,
  value,
  onValue,
}: {
  /** What clashes, if it is one, and what several do. */
  one: string;
  many: string;
  rows: readonly { key: string; name: string; here: string; there: string }[];
  options: readonly { value: T; words: string }[];
  value: T;
  onValue: (value: T) => void;
}) {
  if (rows.length === 0) return null;
  const title = rows.length === 1 ? one : `${rows.length} ${many}`;
  return (
    <fieldset className="mt-4">
      <legend className="text-[13.5px] font-semibold">{title}</legend>
      <div className="max-h-64 overflow-auto">
        <table className="mt-1 w-full text-left text-[13px]" aria-label={title}>
          <thead className="text-soft">
            <tr className="border-b border-rule">
              <th className="py-1 pr-3 font-normal">In the archive</th>
              <th className="py-1 pr-3 font-normal">There</th>
              <th className="py-1 font-normal">Here</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ key, name, here, there }) => (
              <tr key={key} className="border-b border-rule align-baseline">
                <td className="py-1 pr-3">{name}</td>
                <td className="py-1 pr-3">{there}</td>
                <td className="py-1">{here}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-2 grid gap-1 text-[13.5px]">
        {options.map((option) => (
          <label key={option.value} className="flex items-baseline gap-2">
            <input
              type="radio"
              name={title}
              className="accent-copper"
              checked={value === option.value}
              onChange={() => onValue(option.value)}
            />
            {option.words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

const savedWords = (revision: number, savedAt: string) =>
  `revision ${revision}, ${format(new Date(savedAt), 'd MMM yyyy, HH:mm')}`;

/** What was found in an archive, what clashes with what is here, and whether it is to be taken. */
function Seen({ seen, bringing }: { seen: Extract<ArchiveIn, { kind: 'seen' }>; bringing: Bringing }) {
  const { contents }: Inspection = seen.inspection;
  const [designs, setDesigns] = useState<TakenDesigns>('here');
  const [parts, setParts] = useState<Taken>('here');
  const [meters, setMeters] = useState<Taken>('here');
  const besides = metersBeside(bringing.ownMeters, contents.meters);
  return (
    <div aria-label="Before anything is taken" role="group">
      {seen.isAnew ? (
        <p role="alert" className="mb-2 border-l-[3px] border-close pl-2.5 text-[13.5px]">
          Nothing was taken yet: the workshop has changed since. This is how it stands now.
        </p>
      ) : null}
      <p className="mb-2 truncate text-[13.5px] font-semibold">{seen.file}</p>
      <Summary contents={contents} meters={{ fresh: besides.fresh.length, same: besides.same.length }} />
      <Clash
        one="One design went on both here and there"
        many="designs went on both here and there"
        rows={contents.designs.clashing.map(({ id, name, hereName, hereRevision, hereSavedAt, revision, savedAt }) => ({
          key: id,
          name,
          there: savedWords(revision, savedAt),
          here: `${hereName === name ? '' : `${hereName}, `}${savedWords(hereRevision, hereSavedAt)}`,
        }))}
        options={[
          { value: 'here', words: 'Keep what is here; leave the archive’s' },
          { value: 'both', words: 'Keep both: the archive’s beside it as a design of its own' },
        ]}
        value={designs}
        onValue={setDesigns}
      />
      <Clash
        one="One part differs in the drawer"
        many="parts differ in the drawer"
        rows={contents.parts.clashing.map(({ id, name, count, hereName, hereCount }) => ({
          key: id,
          name,
          there: `${count} of them`,
          here: `${hereName === name ? '' : `${hereName}, `}${hereCount} of them`,
        }))}
        options={[
          { value: 'here', words: 'Keep the drawer as it is here' },
          { value: 'archive', words: 'Take them as they are in the archive' },
        ]}
        value={parts}
        onValue={setParts}
      />
      <Clash
        one="One own meter differs from that of its name here"
        many="own meters differ from those of their names here"
        rows={besides.clashing.map(({ name }) => ({ key: name, name, there: 'other figures', here: 'kept here' }))}
        options={[
          { value: 'here', words: 'Keep those of this browser' },
          { value: 'archive', words: 'Take those of the archive' },
        ]}
        value={meters}
        onValue={setMeters}
      />
      <div className="mt-4 flex gap-2">
        <button
          type="button"
          className={buttonStyle('solid')}
          onClick={() => bringing.take({ designs, parts } satisfies Decisions, meters)}
        >
          Take it in
        </button>
        <button type="button" className={buttonStyle('plain')} onClick={bringing.leave}>
          Cancel
        </button>
      </div>
    </div>
  );
}

function WasTaken({ taken, onAnother }: { taken: Extract<ArchiveIn, { kind: 'taken' }>; onAnother: () => void }) {
  const { contents, decisions } = taken;
  const { fresh, later, clashing } = contents.designs;
  const parts = contents.parts.fresh + (decisions.parts === 'archive' ? contents.parts.clashing.length : 0);
  const told = [
    ...counts([fresh.length + later.length, 'design'], [parts, 'part']),
    ...recordWords(contents.records),
    ...(decisions.designs === 'both'
      ? counts([clashing.length, 'design']).map(
          (words) => `${words} beside that of its id, with all that belongs to it`,
        )
      : []),
  ];
  return (
    <div role="status" className="text-[13.5px]" data-archive="taken">
      <p>
        {taken.file} was taken in{told.length > 0 ? `: ${told.join(', ')}.` : '; nothing of it was new here.'}
      </p>
      {taken.metersFault ? (
        <p role="alert" className="mt-1 text-over">
          Meters were not taken: {taken.metersFault}
        </p>
      ) : null}
      <p className="mt-3 flex gap-3">
        <Link href="/" className={buttonStyle('solid')}>
          To the shelf
        </Link>
        <button type="button" className={buttonStyle('plain')} onClick={onAnother}>
          Another archive
        </button>
      </p>
    </div>
  );
}
