'use client';

import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { agreementOf, type Expected } from '@/core/bench/agreement';
import { READING_KINDS, type ReadingKind } from '@/core/bench/entries';
import { padded, padUnits, type PadKey } from '@/core/bench/pad';
import { typedReading } from '@/core/bench/typed-reading';
import { buttonStyle } from '@/ui/button';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { useWakeLock } from '@/ui/use-wake-lock';
import { MARKS } from './reading-field';
import { secondsSince, type Readings } from './readings';

/** A place of the plan, in its order. */
export type PadPlace = { kind: ReadingKind; place: string; name: string; expected: Expected | null };

const KEYS: readonly PadKey[] = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '±', '0', '.'];

/** Readings for one hand: the plan's next place, large figures, a number pad with its units. */
export function ReadingPad({
  places,
  readings,
  mostVolts,
}: {
  places: readonly PadPlace[];
  readings: Readings;
  mostVolts: number;
}) {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <>
      <button type="button" className={`no-print ${buttonStyle('plain')}`} onClick={() => setIsOpen(true)}>
        Number pad
      </button>
      <Dialog.Root open={isOpen} onOpenChange={setIsOpen}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-scrim" />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed inset-0 z-50 m-auto flex h-full max-h-[44rem] w-full max-w-md flex-col gap-2 overflow-y-auto bg-sheet p-3 sm:rounded-md sm:border sm:border-rule"
          >
            <OnePlace places={places} readings={readings} mostVolts={mostVolts} onClose={() => setIsOpen(false)} />
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

function OnePlace({
  places,
  readings,
  mostVolts,
  onClose,
}: {
  places: readonly PadPlace[];
  readings: Readings;
  mostVolts: number;
  onClose: () => void;
}) {
  useWakeLock();
  const firstOpen = places.findIndex(({ kind, place }) => readings.at(kind, place) === null);
  const [chosen, setAt] = useState(Math.max(0, firstOpen));
  // The plan may be made anew meanwhile, with fewer places.
  const at = Math.min(chosen, places.length - 1);
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [heldFrom, setHeldFrom] = useState<number | null>(null);
  const { kind, place, name, expected } = places[at];
  const { unit } = READING_KINDS[kind];
  const reading = readings.at(kind, place);
  const go = (to: number) => {
    setAt(to);
    setText('');
    setFault(null);
    setHeldFrom(null);
  };
  const take = (padUnit: string) => {
    const read = typedReading(`${text} ${padUnit}`, unit, {
      isSigned: READING_KINDS[kind].isSigned,
      most: unit === 'V' ? mostVolts : null,
    });
    if ('fault' in read) return setFault(read.fault);
    readings.take(kind, place, read.value, expected, {
      heldSeconds: heldFrom === null ? null : secondsSince(heldFrom),
    });
    const next = places.findIndex((one, other) => other > at && readings.at(one.kind, one.place) === null);
    go(next < 0 ? at : next);
  };
  return (
    <>
      <div className="flex items-baseline justify-between gap-3">
        <Dialog.Title className="text-lg font-semibold">{name}</Dialog.Title>
        <button type="button" className={buttonStyle('quiet')} onClick={onClose}>
          Close
        </button>
      </div>
      <p className="text-[14px] text-soft">
        {at + 1} of {places.length}
        {expected ? (
          <>
            ; expected <Quantity value={expected.low} unit={unit} /> to <Quantity value={expected.high} unit={unit} />
          </>
        ) : null}
        {reading ? (
          <>
            ; read <Quantity value={reading.value} unit={unit} digits={4} />{' '}
            {expected ? <FitMark fit={MARKS[agreementOf(reading.value, expected)]} /> : null}
          </>
        ) : null}
      </p>
      <output
        aria-label="Typed"
        className="figures block min-h-16 rounded border border-rule px-3 py-2 text-right text-4xl leading-tight"
      >
        {text === '' ? '–' : text.replace('-', '−')}
      </output>
      {fault ? (
        <p role="alert" className="text-[14px] text-over">
          {fault}
        </p>
      ) : null}
      <Held from={heldFrom} onHold={() => setHeldFrom(Date.now())} />
      <div className="grid flex-1 grid-cols-3 gap-2">
        {KEYS.map((key) => (
          <button
            key={key}
            type="button"
            className={PAD_KEY}
            onClick={() => {
              setFault(null);
              setText((now) => padded(now, key));
            }}
          >
            {key}
          </button>
        ))}
      </div>
      <div className="grid grid-cols-4 gap-2">
        <button
          type="button"
          aria-label="Take the last figure back"
          className={PAD_KEY}
          onClick={() => setText((now) => padded(now, '⌫'))}
        >
          ⌫
        </button>
        {padUnits(unit).map((padUnit) => (
          <button
            key={padUnit}
            type="button"
            aria-label={`Take it in ${padUnit}`}
            disabled={text === '' || text === '-'}
            className="min-h-14 rounded bg-copper text-xl font-semibold text-on-copper disabled:opacity-40"
            onClick={() => take(padUnit)}
          >
            {padUnit}
          </button>
        ))}
      </div>
      <div className="flex justify-between">
        <button type="button" className={buttonStyle('plain')} disabled={at === 0} onClick={() => go(at - 1)}>
          Before
        </button>
        <button
          type="button"
          className={buttonStyle('plain')}
          disabled={at === places.length - 1}
          onClick={() => go(at + 1)}
        >
          Next
        </button>
      </div>
    </>
  );
}

const PAD_KEY =
  'min-h-12 rounded border border-rule bg-paper text-2xl hover:border-copper active:bg-tint disabled:opacity-40';

/** How long the probe has been on the place, counted from a button on. */
function Held({ from, onHold }: { from: number | null; onHold: () => void }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (from === null) return;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [from]);
  return from === null ? (
    <button type="button" className={`self-start ${buttonStyle('plain')}`} onClick={onHold}>
      Probe is on: count
    </button>
  ) : (
    <p className="text-[14px]" aria-live="off">
      Held <Quantity value={Math.max(0, Math.floor((now - from) / 1000))} unit="s" />
    </p>
  );
}
