'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import { useTrainingStore } from '@/client/training-store';
import { buttonStyle } from '@/ui/button';
import { TopBar } from '@/ui/top-bar';
import { useMounted } from '@/ui/use-mounted';
import photomultiplierBias from '../../../demo/photomultiplier-bias.ladder.json';
import teachingTripler from '../../../demo/teaching-tripler.ladder.json';
import { readDemo } from '@/client/read-demo';
import { trainedLadders, type Trained } from './ladders';
import { Round } from './round';
import { scoreWords } from './score-words';

/** Rounds are numbered so that a number can be read aloud. */
const MOST_SEED = 99_999;
const anySeed = () => 1 + Math.floor(Math.random() * MOST_SEED);

/** A fault hidden in a ladder, to be found with few readings. */
export function TrainingScreen() {
  const params = useSearchParams();
  const router = useRouter();
  const mounted = useMounted();
  const [ladders] = useState(() =>
    trainedLadders({ tripler: readDemo(teachingTripler), bias: readDemo(photomultiplierBias) }),
  );
  const seed = Number(params.get('round'));
  const ladder = ladders.find(({ id }) => id === params.get('ladder'));
  const begin = (id: string, round = anySeed()) => router.push(`/train?ladder=${id}&round=${round}`);
  const isRound = ladder && Number.isInteger(seed) && seed >= 1 && seed <= MOST_SEED;
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar here="train" />
      {!mounted ? null : isRound ? (
        <Round
          key={`${ladder.id} ${seed}`}
          ladder={ladder}
          seed={seed}
          onNext={() => begin(ladder.id)}
          onLeave={() => router.push('/train')}
        />
      ) : (
        <Start ladders={ladders} onBegin={begin} wrong={params.get('ladder') !== null} />
      )}
    </div>
  );
}

/** Which ladder; a round of a number, or a new one. */
function Start({
  ladders,
  onBegin,
  wrong,
}: {
  ladders: readonly Trained[];
  onBegin: (id: string, round?: number) => void;
  /** Whether a round was asked for that there is not. */
  wrong: boolean;
}) {
  const scores = useTrainingStore(({ settings }) => settings.scores);
  const [number, setNumber] = useState('');
  const asked = number.trim() === '' ? undefined : Number(number);
  const isNumber = asked === undefined || (Number.isInteger(asked) && asked >= 1 && asked <= MOST_SEED);
  return (
    <main className="mx-auto w-full max-w-3xl px-5 py-6">
      <h1 className="text-xl font-semibold tracking-tight">Find the fault</h1>
      <p className="mt-1 max-w-[65ch] text-soft">
        One fault is hidden in a ladder at its low test, or none. Put the meter where it tells most, and say what is
        wrong with as few readings as you can. Nothing here is at voltage.
      </p>
      {wrong ? (
        <p className="mt-3 border-l-[3px] border-close pl-2.5">
          There is no such round: a ladder of the list below, and a number from 1 to {MOST_SEED}.
        </p>
      ) : null}
      <ul className="mt-4 border-t border-rule" aria-label="Ladders">
        {ladders.map(({ id, name }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule py-2">
            <span className="min-w-0 flex-1 font-medium">{name}</span>
            <span className="text-[13px] text-soft">{scoreWords(scores.filter(({ ladder: of }) => of === id))}</span>
            <button
              type="button"
              className={buttonStyle('plain')}
              disabled={!isNumber}
              aria-label={`Begin with ${name}`}
              onClick={() => onBegin(id, asked)}
            >
              Begin
            </button>
          </li>
        ))}
      </ul>
      <label className="mt-4 block text-[13.5px]">
        Number of a round that somebody shared{' '}
        <input
          className="field ml-2 w-24 px-2"
          inputMode="numeric"
          value={number}
          placeholder="a new one"
          aria-invalid={!isNumber}
          aria-describedby="round-number"
          onChange={(event) => setNumber(event.target.value)}
        />
      </label>
      <p id="round-number" className="mt-1 text-[13px] text-over" role="status">
        {isNumber ? '' : `Must be a whole number from 1 to ${MOST_SEED}.`}
      </p>
    </main>
  );
}
