'use client';

import X from 'lucide-react/icons/x';
import { useId, useState, type FormEvent } from 'react';
import { findPins, type PinReading } from '@/core/winding/pin-finder';
import { readPinLines } from '@/core/winding/pin-line';
import { buttonStyle } from '@/ui/button';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import type { BenchEditing } from './bench-editing';
import { BenchFindings, Empty, Heading, Result, Sheet, Take } from './bench-parts';

const LEAD_TESTS = [
  { value: 'not-done', name: 'Not done' },
  { value: 'one-way', name: 'Conducts one way' },
  { value: 'both-ways', name: 'Conducts both ways' },
  { value: 'neither', name: 'Neither way' },
] as const;

/** What an unmarked transformer's pins are, by the resistances between them. */
export function PinsPage({ bench }: { bench: BenchEditing }) {
  const { lead, readings, leadTest } = bench.winding.pins;
  const setReadings = (next: readonly PinReading[]) => bench.set('pins.readings', next);
  return (
    <Sheet
      entered={
        <>
          <Heading>Resistances, as your meter shows them</Heading>
          <p className="mb-1 text-xs text-soft">
            Two pins and ohms, one reading or many at once. The high-voltage lead is called {lead}.
          </p>
          <AddReadings lead={lead} onAdd={(added) => setReadings([...readings, ...added])} />
          <Readings readings={readings} onReadings={setReadings} />
          <div className="mt-2">
            <PickField
              label="30 V dc through 100 kΩ, lead to pins"
              value={leadTest}
              options={LEAD_TESTS}
              onValue={(value) => bench.set('pins.leadTest', value)}
            />
          </div>
        </>
      }
      follows={
        <>
          <Heading>What the pins are</Heading>
          {readings.length === 0 ? (
            <Empty>
              Read every pair of pins on the lowest range, then from the high-voltage lead to each pin on the highest,
              with nothing connected and the lead touched to the core first.
            </Empty>
          ) : (
            <PinsSay bench={bench} found={findPins(readings, lead, leadTest)} />
          )}
        </>
      }
    />
  );
}

function Readings({
  readings,
  onReadings,
}: {
  readings: readonly PinReading[];
  onReadings: (readings: PinReading[]) => void;
}) {
  if (readings.length === 0) return null;
  return (
    <ul aria-label="Readings" className="mt-2 max-h-[15.5rem] overflow-y-auto border-y border-rule">
      {readings.map(({ from, to, ohms }, at) => (
        <li key={at} className="flex items-baseline justify-between gap-2 border-b border-rule py-[3px] last:border-0">
          <span className="figures">
            {from} – {to}
          </span>
          <span className="ml-auto">
            {ohms === null ? <span className="text-soft">open</span> : <Quantity value={ohms} unit="Ω" />}
          </span>
          <button
            type="button"
            aria-label={`Remove ${from} to ${to}`}
            className="self-center text-soft hover:text-ink"
            onClick={() => onReadings(readings.filter((_, other) => other !== at))}
          >
            <X className="size-3.5" aria-hidden="true" />
          </button>
        </li>
      ))}
    </ul>
  );
}

type Found = ReturnType<typeof findPins>;

function PinsSay({ bench: { design, take }, found }: { bench: BenchEditing; found: Found }) {
  const { primary, highVoltageReturn, rectifier } = found;
  const { transformer } = design;
  const rectifierSeen = rectifier === 'certain' || rectifier === 'likely';
  return (
    <>
      <Result
        name={primary ? `Likely primary: ${primary.from} and ${primary.to}` : 'Likely primary'}
        testName="primary-pins"
        value={primary?.ohms ?? null}
        unit="Ω"
      />
      <Result
        name={highVoltageReturn ? `High-voltage return: ${highVoltageReturn.pin}` : 'High-voltage return: not found'}
        testName="return-pin"
        value={highVoltageReturn?.ohms ?? null}
        unit="Ω"
      >
        {transformer && highVoltageReturn ? (
          <Take onTake={() => take('$.transformer.secondaryOhms', highVoltageReturn.ohms, 'Secondary resistance')}>
            Use it
          </Take>
        ) : null}
      </Result>
      <div className="flex items-baseline justify-between gap-3 border-b border-rule py-[3.5px]">
        <span className="text-soft">Rectifier inside</span>
        <span className="flex items-baseline gap-2.5">
          <span data-calculated="rectifier">{RECTIFIER[rectifier]}</span>
          {transformer && rectifierSeen && !transformer.rectifierInside ? (
            <Take onTake={() => take('$.transformer.rectifierInside', true, 'Rectifier inside')}>
              Note it in the design
            </Take>
          ) : null}
        </span>
      </div>
      <Heading>Windings</Heading>
      <Windings found={found} />
      <BenchFindings findings={found.findings} />
    </>
  );
}

/** Pins that conduct to each other, strung on their winding; those of the primary stand out. */
function Windings({ found: { windings, primary } }: { found: Found }) {
  if (windings.length === 0) return <Empty>No two pins conduct yet.</Empty>;
  return (
    <ul>
      {windings.map((pins) => (
        <li key={pins.join()} className="flex items-center py-1">
          {pins.map((pin, at) => (
            <span key={pin} className="flex items-center">
              {at > 0 ? <span aria-hidden="true" className="h-px w-6 bg-copper" /> : null}
              <span
                className={`figures min-w-7 rounded-full border px-1.5 text-center ${
                  pin === primary?.from || pin === primary?.to
                    ? 'border-copper bg-copper-tint font-semibold'
                    : 'border-line'
                }`}
              >
                {pin}
              </span>
            </span>
          ))}
        </li>
      ))}
    </ul>
  );
}

const RECTIFIER = { none: 'no', likely: 'likely', certain: 'yes', 'not known': 'not known yet' } as const;

/** A line for readings; what does not read stays in it with its reason. */
function AddReadings({ lead, onAdd }: { lead: string; onAdd: (readings: PinReading[]) => string | null }) {
  const id = useId();
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const add = (event: FormEvent) => {
    event.preventDefault();
    const read = readPinLines(text);
    const refused = read.ok ? (read.readings.length > 0 ? onAdd(read.readings) : null) : read.reason;
    setFault(refused);
    if (refused === null) setText('');
  };
  return (
    <form onSubmit={add}>
      <div className="flex gap-1.5">
        <textarea
          id={id}
          aria-label="Readings between pins"
          rows={1}
          value={text}
          placeholder={`1-2 0.6; ${lead}-8 310; ${lead}-1 open`}
          aria-invalid={fault !== null}
          aria-describedby={fault ? `${id}-says` : undefined}
          autoCapitalize="off"
          spellCheck={false}
          className={`figures min-w-0 flex-1 resize-none rounded border bg-sheet px-2 py-[5px] text-[13px] focus:border-copper ${fault ? 'border-over' : 'border-rule'}`}
          onChange={(event) => {
            setText(event.target.value);
            setFault(null);
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && !event.shiftKey) add(event);
          }}
        />
        <button type="submit" className={buttonStyle('plain')}>
          Add
        </button>
      </div>
      {fault ? (
        <p id={`${id}-says`} role="alert" className="mt-0.5 text-xs text-over">
          {fault}
        </p>
      ) : null}
    </form>
  );
}
