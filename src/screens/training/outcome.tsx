import { useState } from 'react';
import type { TrainingRound } from '@/client/training-store';
import { saidOfFaults } from '@/core/bench/faults/faults';
import { saidOfPlace } from '@/core/bench/faults/next-reading';
import type { BestStep, Verdict } from '@/core/bench/faults/training';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { sentence } from '@/core/quantity/sentence';
import { buttonStyle } from '@/ui/button';

/** What is there, how the answer stands to it, and in which order it would have been found soonest. */
export function Outcome({
  verdict: { isRight, hidden, alike },
  answer,
  best,
  taken,
  link,
  onNext,
  onLeave,
}: {
  verdict: Verdict;
  answer: TrainingRound['answer'];
  best: readonly BestStep[];
  taken: number;
  link: string;
  onNext: () => void;
  onLeave: () => void;
}) {
  const isExact = hidden === null ? answer === 'sound' : isSame(answer, hidden);
  return (
    <div className="mt-4 grid gap-2 border-t border-rule pt-3 text-[13.5px]" aria-live="polite" data-train="outcome">
      <p>
        <strong className={`font-semibold ${isRight ? 'text-fits' : 'text-over'}`}>
          {isRight ? 'Right' : 'No'}. {sentence(hidden ? saidOfFaults([hidden]) : 'nothing is wrong')}.
        </strong>{' '}
        {isRight && !isExact ? 'No reading here tells it from what you said.' : ''}
      </p>
      {hidden ? (
        <>
          <p>{hidden.why}</p>
          <p>
            <span className="text-soft">To be sure, at the bench and the ladder made dead first: </span>
            {hidden.confirm}
          </p>
        </>
      ) : null}
      {alike.length > 0 ? (
        <p>
          <span className="text-soft">No reading here tells it from: </span>
          {alike.map((fault) => saidOfFaults([fault])).join('; ')}.
        </p>
      ) : null}
      <div>
        <p className="text-soft">
          You took {readingsWords(taken)}. In the best order {readingsWords(best.length)} would have done:
        </p>
        <ol aria-label="Best order" className="mt-1 grid gap-0.5">
          {best.map(({ place, volts, left }, at) => (
            <li key={at}>
              {at + 1}. {sentence(saidOfPlace(place))}: {formatQuantity(volts, 'V', 3)}; {left.faults} of {left.of}{' '}
              faults left{left.isSoundLeft ? ', and none at all' : ''}
            </li>
          ))}
        </ol>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <button type="button" className={buttonStyle('solid')} onClick={onNext}>
          Next round
        </button>
        <CopyLink link={link} />
        <button type="button" className={buttonStyle('quiet')} onClick={onLeave}>
          Other ladders
        </button>
      </div>
    </div>
  );
}

const isSame = (answer: TrainingRound['answer'], { kind, place }: { kind: string; place: string }): boolean =>
  answer !== null && answer !== 'sound' && answer.kind === kind && answer.place === place;

const readingsWords = (count: number): string =>
  count === 0 ? 'no reading' : `${count} ${count === 1 ? 'reading' : 'readings'}`;

/** The address of this round, for somebody else to try. */
function CopyLink({ link }: { link: string }) {
  const [said, setSaid] = useState('Copy the link');
  const copy = async () => {
    const address = `${window.location.origin}${link}`;
    try {
      await navigator.clipboard.writeText(address);
      setSaid('Copied');
    } catch {
      setSaid(address);
    }
  };
  return (
    <button type="button" className={buttonStyle('plain')} onClick={() => void copy()}>
      {said}
    </button>
  );
}
