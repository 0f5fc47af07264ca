'use client';

import { useId, useRef, useState, type FormEvent } from 'react';
import { useAir, useAirGap } from '@/client/air-stores';
import { useBenchDraft } from '@/client/bench-store';
import { useOwnMeters } from '@/client/meter-store';
import { readPicture } from '@/client/picture-file';
import { readAnyScopeFile } from '@/client/scope-file';
import type { Expected } from '@/core/bench/agreement';
import { DRAFT_NAMES, type Draft, type DraftKind } from '@/core/bench/draft';
import { FAILURE_WAYS, IDLE, READING_KINDS, type FailureWay, type ReadingKind } from '@/core/bench/entries';
import { expectedOf } from '@/core/bench/expected-of';
import { atLoad } from '@/core/bench/measured-curves';
import { failedPart } from '@/core/bench/failures';
import { placesOf } from '@/core/bench/places';
import { typedReading } from '@/core/bench/typed-reading';
import type { Design } from '@/core/design/design-schema';
import type { Meter } from '@/core/drive/meter-sense';
import { electrodesInWords, strikeMetres, type AirGap } from '@/core/load/air/air-gap';
import type { Prediction } from '@/core/predict/prediction';
import { typedUnit } from '@/core/quantity/units';
import { buttonStyle } from '@/ui/button';
import { ImportButton } from '@/ui/import-button';
import { More } from '@/ui/more';
import { Pick } from '@/ui/pick';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { TextField } from '@/ui/text-field';
import { AirFields } from '../air-fields';
import { GapBetween } from '../gap-between';
import type { Readings } from './readings';

/** What a meter's own limit of voltage says nothing of. */
const LIMITED: readonly ReadingKind[] = ['tap', 'peak', 'ripple', 'loaded'];

type Props = {
  designId: string;
  design: Design;
  prediction: Prediction;
  /** The session's. */
  meter: Meter;
  readings: Readings;
};

/** One more entry of a session: a reading by itself, a failure, a scope record, a picture or a remark. What is typed outlives the page. */
export function EntryForm(props: Props) {
  const { designId, design, prediction, meter, readings } = props;
  const { settings, change } = useBenchDraft();
  const {
    settings: { meters },
  } = useOwnMeters();
  const draft: Draft = settings.designId === designId ? settings : { ...settings, ...EMPTY };
  const set = (changes: Partial<Draft>) => change({ ...EMPTY_OF(settings, designId), ...changes });
  const [picture, setPicture] = useState<File | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const textId = useId();
  const input = useRef<HTMLInputElement>(null);
  const places = placesOf(draft.kind, design, prediction);
  const at = places.includes(draft.at) ? draft.at : (places[0] ?? '');
  const through = meters.find(({ name }) => name === draft.meterName)?.meter ?? null;
  const kind = draft.kind in READING_KINDS ? (draft.kind as ReadingKind) : null;
  const by = through ?? meter;
  const { settings: gap } = useAirGap();
  const { settings: air } = useAir();
  const jump = strikeMetres(gap, prediction.output.noLoadPeakVolts, air);
  const place = kind && placeOf(kind, draft.at, at, gap);
  const expected =
    kind && place !== null
      ? expectedOf(design, prediction, { kind, at: place, meter: by, between: { gap, air } })
      : null;
  const refused = kind === 'loaded' ? atLoad(design, Number(draft.at) || 0, by).refused : null;

  const done = (said: string | null) => {
    setFault(said);
    if (said !== null) return;
    set({ text: '', remark: '' });
    setPicture(null);
  };
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    if (draft.kind === 'scope') return;
    done(
      take({ ...props, draft: { ...draft, at }, reading: kind && { kind, at: place!, expected }, through, picture }),
    );
  };
  const takeScope = async (file: File) => {
    const read = await readAnyScopeFile(file);
    if (!read.ok) return setFault(read.reason);
    const { frequencyHertz, samples } = read;
    readings.add({ kind: 'scope', at, frequencyHertz, samples, remark: draft.remark, pictureId: null, replaces: null });
    done(null);
  };
  return (
    <form onSubmit={submit} noValidate aria-label="Record another" className="no-print max-w-md">
      <Pick
        label="What is recorded"
        className="mb-1 w-full"
        value={draft.kind}
        options={Object.entries(DRAFT_NAMES).map(([value, name]) => ({ value: value as DraftKind, name }))}
        onValue={(value) => {
          setFault(null);
          // What was meant as a node, a capacitor or a current is none of the others.
          set({ kind: value, at: placesOf(value, design, prediction).includes(draft.at) ? draft.at : '' });
        }}
      />
      {places.length > 0 ? (
        <PickField
          label="At"
          value={at}
          options={places.map((value) => ({ value, name: value }))}
          onValue={(value) => set({ at: value })}
        />
      ) : null}
      {draft.kind === 'frequency' && design.driver.kind === 'resonant-push-pull' ? (
        <QuantityField
          label="With a tank of"
          unit="F"
          optional
          placeholder="as designed"
          value={draft.at === '' || Number.isNaN(Number(draft.at)) ? null : Number(draft.at)}
          onValue={(value) => set({ at: value === null ? '' : String(value) })}
        />
      ) : null}
      {draft.kind === 'gap' ? (
        <>
          <GapBetween outside={'at' in jump ? jump : null} />
          <AirFields />
        </>
      ) : null}
      {draft.kind === 'loaded' ? (
        <QuantityField
          label="Load current"
          unit="A"
          value={Number(draft.at) || 0}
          onValue={(value) => set({ at: String(value) })}
        />
      ) : null}
      {draft.kind === 'failure' ? (
        <PickField
          label="It is"
          value={draft.how}
          options={Object.entries(FAILURE_WAYS).map(([value, name]) => ({ value: value as FailureWay, name }))}
          onValue={(how) => set({ how })}
        />
      ) : null}
      {kind ? (
        <>
          <div className="grid grid-cols-[minmax(0,1fr)_6.75rem] items-baseline gap-x-2 py-[3px]">
            <label htmlFor={textId} className="text-[13.5px] text-soft">
              Read
            </label>
            <span className="field flex items-center px-2">
              <input
                id={textId}
                className="figures w-full min-w-0 bg-transparent outline-none"
                inputMode="decimal"
                autoComplete="off"
                aria-invalid={fault !== null}
                aria-describedby={fault ? `${textId}-fault` : undefined}
                value={draft.text}
                onChange={(event) => {
                  setFault(null);
                  set({ text: event.target.value });
                }}
              />
              <span className="pl-1 text-xs text-soft">{typedUnit(READING_KINDS[kind].unit).name}</span>
            </span>
          </div>
          {refused ? <p className="text-xs text-over">{refused}</p> : null}
          {kind === 'gap' && 'at' in jump && jump.at === 'volts' ? (
            <p className="text-xs text-soft">
              Nothing is expected: <Quantity value={prediction.output.noLoadPeakVolts} unit="V" /> peak stands at the
              output without load. {jump.reason}
            </p>
          ) : null}
          {expected ? (
            <p className="text-xs text-soft">
              Expected <Quantity value={expected.low} unit={READING_KINDS[kind].unit} /> to{' '}
              <Quantity value={expected.high} unit={READING_KINDS[kind].unit} />
            </p>
          ) : null}
          {meters.length > 0 ? (
            <PickField
              label="Through"
              value={through ? draft.meterName : ''}
              options={[
                { value: '', name: 'The session’s meter' },
                ...meters.map(({ name }) => ({ value: name, name })),
              ]}
              onValue={(meterName) => set({ meterName })}
            />
          ) : null}
        </>
      ) : null}
      <TextField label="Remark" value={draft.remark} onValue={(remark) => set({ remark })} />
      {kind ? (
        <More words="Time since switch-on, time held">
          <QuantityField
            label="Since switch-on"
            unit="s"
            optional
            value={draft.sinceOnSeconds}
            onValue={(sinceOnSeconds) => set({ sinceOnSeconds })}
          />
          <QuantityField
            label="Probe held for"
            unit="s"
            optional
            value={draft.heldSeconds}
            onValue={(heldSeconds) => set({ heldSeconds })}
            hint="Above a fault a meter drains a tap over minutes."
          />
        </More>
      ) : null}
      {draft.kind === 'scope' ? (
        <ImportButton
          label="Scope record, a CSV file"
          words="Take a scope record"
          inputRef={input}
          accept=".csv,.txt,text/csv,text/plain"
          onFile={(file) => void takeScope(file)}
        />
      ) : (
        <ImportButton
          label="Picture of it"
          words={picture ? picture.name : 'Add a picture'}
          inputRef={input}
          accept="image/jpeg,image/png,image/webp"
          onFile={(file) =>
            void readPicture(file).then((wrong) => {
              setFault(wrong);
              setPicture(wrong === null ? file : null);
            })
          }
        />
      )}
      {picture ? (
        <button type="button" className="ml-2 text-[13px] text-copper hover:underline" onClick={() => setPicture(null)}>
          Leave it out
        </button>
      ) : null}
      {fault ? (
        <p id={`${textId}-fault`} role="alert" className="mt-1 text-xs text-over">
          {fault}
        </p>
      ) : null}
      {draft.kind === 'scope' ? null : (
        <div className="mt-2">
          <button type="submit" className={buttonStyle('plain')}>
            Record it
          </button>
        </div>
      )}
      {kind && LIMITED.includes(kind) && by.probeRatio !== 1 ? (
        <p className="mt-1 text-xs text-soft">As the display shows it, before the probe’s ratio.</p>
      ) : null}
    </form>
  );
}

const EMPTY = { at: '', text: '', remark: '', sinceOnSeconds: null, heldSeconds: null } satisfies Partial<Draft>;

/** What a draft of one design starts from where the last was of another. */
const EMPTY_OF = (settings: Draft, designId: string): Partial<Draft> =>
  settings.designId === designId ? {} : { ...EMPTY, designId };

/** Where a reading of a kind is said to be taken. */
function placeOf(kind: ReadingKind, typed: string, picked: string, gap: AirGap): string {
  switch (kind) {
    case 'frequency':
      return Number.isNaN(Number(typed)) ? '' : typed;
    case 'loaded':
      return String(Number(typed) || 0);
    case 'supply-current':
      return IDLE;
    case 'gap':
      return electrodesInWords(gap);
    default:
      return picked;
  }
}

/** Takes what the draft says; answers what is wrong with it, or null. */
function take({
  design,
  prediction,
  meter,
  readings,
  draft,
  reading,
  through,
  picture,
}: Props & {
  draft: Draft;
  reading: { kind: ReadingKind; at: string; expected: Expected | null } | null;
  through: Meter | null;
  picture: File | null;
}): string | null {
  const { at, remark, text, how, sinceOnSeconds, heldSeconds } = draft;
  const pictureId = picture ? crypto.randomUUID() : null;
  if (draft.kind === 'failure') {
    readings.add(
      { kind: 'failure', at, how, ...failedPart(design, prediction, at), remark, pictureId, replaces: null },
      picture,
    );
    return null;
  }
  if (!reading) {
    if (remark.trim() === '' && !picture) return 'There is nothing to record: a remark or a picture would be right.';
    readings.add({ kind: 'note', at: '', remark, pictureId, replaces: null }, picture);
    return null;
  }
  const { kind } = reading;
  const by = through ?? meter;
  const most = LIMITED.includes(kind) ? by.limitVolts : null;
  const read = typedReading(text, READING_KINDS[kind].unit, { isSigned: READING_KINDS[kind].isSigned, most });
  if ('fault' in read) return read.fault;
  readings.take(
    kind,
    reading.at,
    read.value,
    reading.expected,
    {
      remark,
      heldSeconds,
      meter: through,
      pictureId,
      // Another at the same place stands beside the first: what falls is read more than once.
      replaces: null,
      ...(sinceOnSeconds === null ? {} : { sinceOnSeconds }),
    },
    picture,
  );
  return null;
}
