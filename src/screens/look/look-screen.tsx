'use client';

import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { Climb } from '@/climb/climb';
import { createPlayer } from '@/climb/player';
import type { Design } from '@/core/design/design-schema';
import { asSettled } from '@/core/transient/comparison';
import { motionOf } from '@/core/transient/motion';
import { buttonStyle } from '@/ui/button';
import { TopBar } from '@/ui/top-bar';
import { useClient } from '@/ui/use-client';
import { useLatest } from '@/ui/use-latest';
import { useReducedMotion } from '@/ui/use-media';
import { transientClient, type TransientClient } from '@/worker/transient-client';
import demoTripler from '../../../demo/teaching-tripler.ladder.json';
import { readDemo } from '@/client/read-demo';
import { DISCHARGE, lookDesigns, lookSteps, picturesOf, type Step } from './steps';

const NO_TRACES: readonly string[] = [];

/** Six questions about the teaching tripler, each answered by the ladder as it plays. */
export function LookScreen() {
  const [tripler] = useState(() => readDemo(demoTripler));
  const steps = useMemo(() => lookSteps(tripler), [tripler]);
  const { at, goTo } = useStepInAddress(steps.length);
  const [answers, setAnswers] = useState<Readonly<Record<number, number>>>({});
  const step = steps[at];
  const answer = answers[at] ?? null;
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar here="look" />
      <main className="grid min-h-0 flex-1 lg:grid-cols-[24rem_minmax(0,1fr)]">
        <section aria-label="Question" className="flex flex-col border-rule px-5 py-5 lg:overflow-y-auto lg:border-r">
          <p className="text-soft">
            A look at a tripler, {at + 1} of {steps.length}
          </p>
          <h1 className="mt-2 text-xl leading-snug font-semibold tracking-tight">{step.question}</h1>
          <p className="mt-1 text-soft">Say what you expect; the ladder answers.</p>
          <div role="group" aria-label="What do you expect?" className="mt-4 flex flex-col gap-2">
            {step.choices.map((choice, index) => (
              <button
                key={choice}
                type="button"
                aria-pressed={answer === index}
                disabled={answer !== null}
                onClick={() => setAnswers({ ...answers, [at]: index })}
                className={`rounded border px-3 py-2 text-left disabled:cursor-default ${
                  answer !== null && index === step.right
                    ? 'border-fits bg-sheet font-medium'
                    : 'border-rule bg-sheet enabled:hover:border-line'
                } ${answer !== null && index !== step.right ? 'text-soft' : ''}`}
              >
                {choice}
                {answer !== null && index === step.right ? <span className="text-fits"> · so it is</span> : null}
                {answer === index && index !== step.right ? <span> · your answer</span> : null}
              </button>
            ))}
          </div>
          <div aria-live="polite">{answer === null ? null : <p className="mt-4 leading-relaxed">{step.answer}</p>}</div>
          <div className="mt-5 flex items-center gap-2">
            {at > 0 ? (
              <button type="button" className={buttonStyle('plain')} onClick={() => goTo(at - 1)}>
                Back
              </button>
            ) : null}
            {at < steps.length - 1 ? (
              <button
                type="button"
                className={buttonStyle(answer === null ? 'plain' : 'solid')}
                onClick={() => goTo(at + 1)}
              >
                {answer === null ? 'Skip' : 'Next question'}
              </button>
            ) : null}
            <Link href="/" className={`${buttonStyle(at === steps.length - 1 ? 'solid' : 'quiet')} ml-auto`}>
              {at === steps.length - 1 ? 'To the shelf' : 'Leave'}
            </Link>
          </div>
        </section>
        <section aria-label="The ladder" className="flex h-[28rem] min-h-0 min-w-0 flex-col pt-3 lg:h-auto">
          <LookPicture key={at} tripler={tripler} step={step} answered={answer !== null} />
        </section>
      </main>
    </div>
  );
}

/** Which step is shown is kept in the address, so that the back button leads to the one before. */
function useStepInAddress(count: number): { at: number; goTo: (step: number) => void } {
  const asked = Number(useSearchParams().get('step') ?? 1);
  const at = Number.isInteger(asked) && asked >= 1 && asked <= count ? asked - 1 : 0;
  return {
    at,
    goTo: (step) => window.history.pushState(null, '', `?step=${step + 1}`),
  };
}

/** The Climb of a step: still until the question is answered, then it plays. */
function LookPicture({ tripler, step, answered }: { tripler: Design; step: Step; answered: boolean }) {
  const client = useClient(transientClient);
  const still = useReducedMotion();
  const [player] = useState(() => createPlayer());
  const [selected, setSelected] = useState<string | null>(null);
  const { prediction, before } = useMemo(() => picturesOf(tripler, step), [tripler, step]);
  const job = useMemo(
    () => ({ run: () => runOf(client, lookDesigns(tripler)[step.shown], step) }),
    [client, tripler, step],
  );
  const [run] = useLatest(job);
  const result = run.kind === 'ready' ? run.result : null;
  const settled = useMemo(() => (result ? asSettled(prediction, result.transient) : null), [prediction, result]);
  useEffect(() => {
    const { load, play } = player.getState();
    load(result && (answered || !before) ? motionOf(prediction, result.moments, step.plays) : null);
    if (result && answered && !still) play();
  }, [player, prediction, before, result, step, answered, still]);
  useEffect(() => () => player.getState().pause(), [player]);
  const ghost = useMemo(() => (answered && before ? { prediction: before, onHide: null } : null), [answered, before]);
  // Until the reader has said what a change will do, what is there before it.
  const drawn = before && !answered ? before : (settled ?? prediction);
  return (
    <Climb
      prediction={drawn}
      fromTimeDomain={drawn === settled}
      targetVolts={null}
      selected={selected}
      onSelect={setSelected}
      traces={NO_TRACES}
      onTrace={null}
      player={player}
      waiting={
        run.kind === 'failed'
          ? 'The time domain failed.'
          : answered || !before
            ? 'Plays when the time domain is ready.'
            : 'Plays when you have answered.'
      }
      ghost={ghost}
    />
  );
}

/** The settled state of a design, and the moments that a step plays. */
async function runOf(client: TransientClient, design: Design, { plays }: Step) {
  const run = await client.settle(design, () => undefined);
  if (!run) return null;
  const { transient, waveforms } = run;
  if (plays === 'settled') return { transient, moments: waveforms };
  if (plays === 'charge-up') {
    const up = await client.chargeUp(design, transient.terminalMeanVolts, false, () => undefined);
    return up && { transient, moments: up.moments };
  }
  const start = new Map(transient.nodes.map(({ id, meanVolts }) => [id, meanVolts]));
  return { transient, moments: (await client.discharge(design, start, DISCHARGE)).moments };
}
