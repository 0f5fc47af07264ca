'use client';

import { useEffect, useMemo, useState } from 'react';
import { keepScore, useTrainingStore, type TrainingRound } from '@/client/training-store';
import { Climb } from '@/climb/climb';
import { createPlayer } from '@/climb/player';
import type { FaultReading } from '@/core/bench/faults/judge';
import { placeKey, type Place } from '@/core/bench/faults/next-reading';
import { soundBenchOf, type SoundBench } from '@/core/bench/faults/read-through';
import type { Left } from '@/core/bench/faults/suspects';
import type { BestStep, Verdict } from '@/core/bench/faults/training';
import { faultChoice } from '@/core/bench/faults/what-if';
import { onLowSource } from '@/core/bench/low-source';
import type { ProvingTest } from '@/core/bench/proving';
import { predict, WITHOUT_OPTIMUM } from '@/core/predict/predict';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { buttonStyle } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { FaultPick } from '@/ui/fault-pick';
import { useClient } from '@/ui/use-client';
import { useLatest } from '@/ui/use-latest';
import { trainingClient, type TrainingClient } from '@/worker/training-client';
import type { Trained } from './ladders';
import { Outcome } from './outcome';
import { PlacesTable } from './places-table';

const NO_TRACES: readonly string[] = [];

type Begun = { test: ProvingTest; places: Place[] };

/** One round: readings asked for one by one, an answer, and what is there. */
export function Round({
  ladder,
  seed,
  onNext,
  onLeave,
}: {
  ladder: Trained;
  seed: number;
  onNext: () => void;
  onLeave: () => void;
}) {
  const client = useClient(trainingClient);
  const { id, design, source, meter } = ladder;
  const beginning = useMemo(
    () => ({ run: () => client.round().begin({ design, source, meter }, seed) }),
    [client, design, source, meter, seed],
  );
  const [begun] = useLatest<Begun>(beginning);
  const prediction = useMemo(() => predict(onLowSource(design, source)!, WITHOUT_OPTIMUM), [design, source]);
  const [player] = useState(createPlayer);
  const [selected, setSelected] = useState<string | null>(null);
  return (
    <main className="grid min-h-0 flex-1 lg:grid-cols-[27rem_minmax(0,1fr)]">
      <section aria-label="Round" className="border-rule px-5 py-5 lg:overflow-y-auto lg:border-r">
        <p className="text-soft">
          Round {seed} · {ladder.name}
        </p>
        <h1 className="mt-1 text-xl leading-snug font-semibold tracking-tight">Find the fault</h1>
        <p className="mt-1 text-[13.5px] text-soft">
          {source.kind === 'winding'
            ? `On ${formatQuantity(source.rmsVolts, 'V')} RMS of ${formatQuantity(source.hertz, 'Hz')}`
            : 'On its own drive, turned down'}
          , read with {formatQuantity(meter.inputOhms, 'Ω')} within {formatQuantity(meter.accuracy, '%')}. One fault is
          in it, or none.
        </p>
        {begun.kind === 'failed' ? (
          <p className="mt-3 text-over">The round failed: {begun.reason}</p>
        ) : begun.kind === 'ready' ? (
          <Play
            id={id}
            seed={seed}
            begun={begun.result}
            client={client}
            ladder={ladder}
            selected={selected}
            onSelect={setSelected}
            onNext={onNext}
            onLeave={onLeave}
          />
        ) : (
          <p className="mt-3 text-soft" role="status">
            Hiding a fault…
          </p>
        )}
      </section>
      <section aria-label="The ladder" className="flex h-[28rem] min-h-0 min-w-0 flex-col pt-3 lg:h-auto">
        <Climb
          prediction={prediction}
          fromTimeDomain={false}
          targetVolts={null}
          selected={selected}
          onSelect={setSelected}
          traces={NO_TRACES}
          onTrace={null}
          player={player}
          waiting={null}
          ghost={null}
        />
        <p className="px-5 pb-3 text-center text-[13px] text-soft">
          As a sound ladder stands on this source without a meter. A part chosen here is the place of the answer.
        </p>
      </section>
    </main>
  );
}

/** The round as it is kept; a new one where another was under way. */
function useRound(ladder: string, seed: number): [TrainingRound, (changes: Partial<TrainingRound>) => void] {
  const { settings, change } = useTrainingStore();
  const { round } = settings;
  const own = useMemo(
    (): TrainingRound =>
      round?.ladder === ladder && round.seed === seed ? round : { ladder, seed, taken: [], answer: null },
    [round, ladder, seed],
  );
  return [own, (changes) => void change({ round: { ...own, ...changes } })];
}

/** What the meter showed at each place that was taken. */
function useTaken(client: TrainingClient, taken: readonly Place[]): ReadonlyMap<string, FaultReading> {
  const [read, setRead] = useState<ReadonlyMap<string, FaultReading>>(new Map());
  useEffect(() => {
    let over = false;
    for (const place of taken) {
      const key = placeKey(place);
      if (read.has(key)) continue;
      void client
        .round()
        .read(place)
        .then((reading) => {
          if (!over && reading) setRead((before) => new Map(before).set(key, reading));
        });
    }
    return () => {
      over = true;
    };
  }, [client, taken, read]);
  return read;
}

function Play({
  id,
  seed,
  begun: { test, places },
  client,
  ladder: { design, source, meter },
  selected,
  onSelect,
  onNext,
  onLeave,
}: {
  id: string;
  seed: number;
  begun: Begun;
  client: TrainingClient;
  ladder: Trained;
  /** The part or node chosen, here or in the Climb. */
  selected: string | null;
  onSelect: (place: string) => void;
  onNext: () => void;
  onLeave: () => void;
}) {
  const [round, change] = useRound(id, seed);
  const read = useTaken(client, round.taken);
  const readings = useMemo(() => round.taken.flatMap((place) => read.get(placeKey(place)) ?? []), [round.taken, read]);
  const counting = useMemo(
    () => (readings.length > 0 ? { run: () => client.round().left(readings) } : null),
    [client, readings],
  );
  const [left] = useLatest<Left>(counting);
  const ordering = useMemo(() => ({ run: () => client.round().best() }), [client]);
  const [best] = useLatest<BestStep[]>(ordering);
  const { answer } = round;
  const judging = useMemo(
    () =>
      answer === null
        ? null
        : {
            run: async () => {
              const found = await client.round().verdict(answer === 'sound' ? null : answer);
              if (found?.hidden) onSelect(found.hidden.place);
              return found;
            },
          },
    [client, answer, onSelect],
  );
  const [verdict] = useLatest<Verdict>(judging);
  const isOver = answer !== null && verdict.kind === 'ready' && best.kind === 'ready';
  const isRight = isOver && verdict.result.isRight;
  const bestCount = isOver ? best.result.length : 0;
  const count = round.taken.length;
  useEffect(() => {
    if (isOver) keepScore({ ladder: id, seed, isRight, readings: count, best: bestCount });
  }, [isOver, id, seed, isRight, count, bestCount]);
  const sound = useMemo(() => soundBenchOf(design, source, meter, test), [design, source, meter, test]);
  return (
    <>
      <PlacesTable
        test={test}
        places={places}
        taken={round.taken}
        read={read}
        isOver={answer !== null}
        onTake={(place) => change({ taken: [...round.taken, place] })}
      />
      <p className="mt-2 text-[13.5px]" role="status" data-train="left">
        {count === 0 ? 'No reading yet.' : `${count} ${count === 1 ? 'reading' : 'readings'}. `}
        {count > 0 ? (left.kind === 'ready' ? leftWords(left.result) : '…') : ''}
      </p>
      {answer === null && sound ? (
        <AnswerForm
          sound={sound}
          selected={selected}
          onSelect={onSelect}
          onAnswer={(given) => change({ answer: given })}
        />
      ) : isOver && sound ? (
        <Outcome
          verdict={verdict.result}
          answer={answer}
          best={best.result}
          taken={count}
          link={`/train?ladder=${id}&round=${seed}`}
          onNext={onNext}
          onLeave={onLeave}
        />
      ) : (
        <p className="mt-3 text-soft" role="status">
          {verdict.kind === 'failed' ? `The round failed: ${verdict.reason}` : 'Evaluating the answer…'}
        </p>
      )}
    </>
  );
}

function leftWords({ faults, of, isSoundLeft }: Left): string {
  const sound = isSoundLeft ? 'and a sound ladder does as well' : 'and a sound ladder does not';
  return `${faults} of ${of} single faults would show this, ${sound}.`;
}

/** What is wrong, as one thinks. */
function AnswerForm({
  sound,
  selected,
  onSelect,
  onAnswer,
}: {
  sound: SoundBench;
  selected: string | null;
  onSelect: (place: string) => void;
  onAnswer: (answer: NonNullable<TrainingRound['answer']>) => void;
}) {
  const [what, setWhat] = useState<'fault' | 'sound'>('fault');
  const [kind, setKind] = useState('');
  const choice = faultChoice(sound, selected === null ? null : { place: selected, kind });
  const { fault } = choice;
  return (
    <form
      className="mt-4 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        onAnswer(what === 'sound' ? 'sound' : { kind: fault.kind, place: fault.place });
      }}
    >
      <Choice
        label="Answer"
        value={what}
        options={[
          { value: 'fault', name: 'A fault' },
          { value: 'sound', name: 'Nothing is wrong' },
        ]}
        onValue={setWhat}
      />
      {what === 'fault' ? (
        <div className="mt-2">
          <FaultPick
            places={choice.places}
            kinds={choice.kinds}
            place={fault.place}
            kind={fault.kind}
            onPick={(picked) => {
              setKind(picked.kind);
              onSelect(picked.place);
            }}
          />
        </div>
      ) : null}
      <button type="submit" className={`${buttonStyle('solid')} mt-3`}>
        Submit answer
      </button>
    </form>
  );
}
