'use client';

import Check from 'lucide-react/icons/check';
import { Progress } from 'radix-ui';
import { useEffect, useState } from 'react';
import { sendRun, useAtBench } from '@/client/at-bench';
import { keepFresh } from '@/client/keep-fresh';
import {
  doneSteps,
  faultOfReading,
  highestRead,
  nextStep,
  secondsLeft,
  withBegun,
  withDone,
  withoutLast,
  type DeadRun,
  type RunStep,
} from '@/core/dead/run';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { buttonStyle } from '@/ui/button';
import { QuantityField } from '@/ui/quantity-field';
import { timeWords } from './time-words';
import { useWakeLock } from '@/ui/use-wake-lock';

/** How often what the server has not is sent anew, ms. */
const AGAIN_MILLISECONDS = 5000;
const TICK_MILLISECONDS = 200;

const now = () => new Date().toISOString();

/** A plan gone through with one hand: one step a screen, in large type. */
export function AtBench({ designId, onLeave }: { designId: string; onLeave: () => void }) {
  const kept = useAtBench((state) => state.runs[designId]);
  useWakeLock();
  useSending(designId, kept?.sent ?? true);
  if (!kept) return null;
  const { run, sent } = kept;
  const at = nextStep(run);
  return (
    <section
      aria-label="At the bench"
      className="mx-auto flex min-h-[70vh] w-full max-w-2xl flex-col px-4 py-4 sm:px-6"
    >
      <div className="flex items-baseline justify-between gap-3 text-soft">
        <span role="status" data-bench="place">
          {at < run.steps.length ? `Step ${at + 1} of ${run.steps.length}` : `All ${run.steps.length} steps`}
        </span>
        <span className="text-[13px]" data-bench="kept">
          {sent ? 'recorded with the design' : 'kept in this browser, not sent yet'}
        </span>
      </div>
      <Progress.Root
        className="mt-1 h-1.5 w-full shrink-0 overflow-hidden rounded-full bg-tint"
        value={doneSteps(run)}
        max={run.steps.length}
        aria-label="Steps done"
      >
        <Progress.Indicator
          className="h-full bg-copper"
          style={{ width: `${(100 * doneSteps(run)) / run.steps.length}%` }}
        />
      </Progress.Root>
      {at < run.steps.length ? (
        <OneStep key={`${run.id} ${at}`} designId={designId} run={run} at={at} />
      ) : (
        <Finished designId={designId} run={run} sent={sent} onLeave={onLeave} />
      )}
      <div className="mt-6 flex justify-between gap-3">
        <button
          type="button"
          className={buttonStyle('quiet')}
          disabled={at === 0}
          onClick={() => useAtBench.getState().put(designId, withoutLast(run))}
        >
          One step back
        </button>
        <button type="button" className={buttonStyle('quiet')} onClick={onLeave}>
          To the plan
        </button>
      </div>
    </section>
  );
}

/** Sends what was not, again and again, and at once where the network comes back. */
function useSending(designId: string, sent: boolean): void {
  useEffect(() => (sent ? undefined : keepFresh(() => sendRun(designId), AGAIN_MILLISECONDS)), [designId, sent]);
}

function OneStep({ designId, run, at }: { designId: string; run: DeadRun; at: number }) {
  const step = run.steps[at];
  const { put } = useAtBench.getState();
  const [readVolts, setReadVolts] = useState<number | null>(null);
  const [asked, setAsked] = useState(false);
  const left = useSecondsLeft(step);
  const fault = faultOfReading(step, readVolts);
  const done = (skipped: boolean) => {
    if (fault && !skipped) return setAsked(true);
    put(designId, withDone(run, at, now(), readVolts, skipped));
  };
  return (
    <div className="flex flex-1 flex-col">
      <h2 className="mt-5 text-[26px] leading-tight font-semibold">{step.title}</h2>
      <p className="mt-2 text-[18px] leading-snug">{step.text}</p>
      {step.seconds === null ? null : <Timer step={step} left={left} />}
      {step.reading ? (
        <div className="mt-4 text-[17px]">
          <p>
            Read {step.reading.where}: under{' '}
            <strong className="font-semibold">{formatQuantity(step.reading.underVolts, 'V')}</strong> to go on.
          </p>
          <p className="mt-1 text-[15px] text-soft">{step.reading.meter}</p>
          <div className="mt-2 max-w-sm">
            <QuantityField label="It reads, dc" unit="V" optional value={readVolts} onValue={takeReading} />
          </div>
          {fault && (asked || readVolts !== null) ? (
            <p role="alert" className="mt-1 text-over">
              {fault}
            </p>
          ) : null}
        </div>
      ) : null}
      <div className="mt-auto grid gap-2 pt-6">
        {step.seconds !== null && step.begunAt === null ? (
          <button
            type="button"
            className={`${buttonStyle('solid')} py-4 text-[20px]`}
            onClick={() => put(designId, withBegun(run, at, now()))}
          >
            Start {timeWords(step.seconds)}
          </button>
        ) : (
          <button
            type="button"
            className={`${buttonStyle('solid')} py-4 text-[20px]`}
            disabled={left > 0}
            onClick={() => done(false)}
          >
            Done
          </button>
        )}
        {step.begunAt !== null && left === 0 ? (
          <button
            type="button"
            className={`${buttonStyle('plain')} py-2.5 text-[16px]`}
            onClick={() => put(designId, withBegun(run, at, now()))}
          >
            The time once more
          </button>
        ) : null}
        {step.maySkip ? (
          <button type="button" className={`${buttonStyle('plain')} py-2.5 text-[16px]`} onClick={() => done(true)}>
            Do not wait: go on with the stick
          </button>
        ) : null}
      </div>
    </div>
  );

  function takeReading(value: number | null): string | null {
    setReadVolts(value);
    return null;
  }
}

function Timer({ step, left }: { step: RunStep; left: number }) {
  return (
    <p className="mt-4 flex items-baseline gap-3" role="timer" data-bench="left">
      <span className="figures text-[44px] leading-none">{timeWords(left)}</span>
      <span className="text-soft">{step.begunAt === null ? 'at least' : left > 0 ? 'to go' : 'over'}</span>
    </p>
  );
}

/** Counts down while a step's time runs; it goes on by the clock, whatever becomes of the page. */
function useSecondsLeft(step: RunStep): number {
  const [at, setAt] = useState(() => Date.now());
  const left = secondsLeft(step, at);
  const runs = step.begunAt !== null && left > 0;
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => setAt(Date.now()), TICK_MILLISECONDS);
    return () => clearInterval(timer);
  }, [runs]);
  const isOver = step.begunAt !== null && left === 0;
  useEffect(() => {
    if (isOver) navigator.vibrate?.(400);
  }, [isOver]);
  return left;
}

function Finished({
  designId,
  run,
  sent,
  onLeave,
}: {
  designId: string;
  run: DeadRun;
  sent: boolean;
  onLeave: () => void;
}) {
  const highest = highestRead(run);
  return (
    <div className="mt-6">
      <h2 className="flex items-center gap-2 text-[26px] leading-tight font-semibold">
        <Check className="size-7" aria-hidden="true" /> All steps done
      </h2>
      <p className="mt-2 text-[18px] leading-snug">
        {highest === null ? 'Nothing was read.' : `The highest that was read: ${formatQuantity(highest, 'V')}.`} It is
        dead where you have measured it, and nowhere else. Leave the strap on while you work; measure again before each
        time you reach in.
      </p>
      <button
        type="button"
        className={`${buttonStyle('solid')} mt-5 w-full py-4 text-[20px]`}
        disabled={!sent}
        onClick={() => {
          onLeave();
          useAtBench.getState().drop(designId);
        }}
      >
        {sent ? 'Close' : 'Waits to be recorded'}
      </button>
    </div>
  );
}
