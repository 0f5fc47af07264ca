'use client';

import Pause from 'lucide-react/icons/pause';
import Play from 'lucide-react/icons/play';
import SkipBack from 'lucide-react/icons/skip-back';
import SkipForward from 'lucide-react/icons/skip-forward';
import X from 'lucide-react/icons/x';
import { useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { placeAt, valueAt, type Motion } from '@/core/transient/motion';
import { buttonStyle } from '@/ui/button';
import { Pick } from '@/ui/pick';
import { useReducedMotion } from '@/ui/use-media';
import { SPEEDS, type Player, type Speed } from './player';

const SPEED_NAMES: Record<Speed, string> = { 0.125: '1/8', 0.25: '1/4', 0.5: '1/2', 1: '1', 2: '2' };

const SPEED_OPTIONS = SPEEDS.map((one) => ({ value: String(one), name: SPEED_NAMES[one] }));

/** What a moment shows, in words: when, what conducts, where the output stands. */
function momentWords(motion: Motion, position: number, sign: 1 | -1): string {
  const place = placeAt(motion, position);
  const conducting = motion.diodes.filter(({ conducts }) => conducts[place.frame]).map(({ id }) => id);
  const which =
    conducting.length === 0
      ? 'no diode conducts'
      : conducting.length > 4
        ? `${conducting.length} diodes conduct, ${conducting[0]} to ${conducting[conducting.length - 1]}`
        : `${conducting.join(', ')} ${conducting.length === 1 ? 'conducts' : 'conduct'}`;
  const output = formatQuantity(sign * valueAt(motion.output, place), 'V');
  return `${formatQuantity(valueAt(motion.times, place), 's')} · output ${output} · ${which}`;
}

/** Plays, slows, steps and scrubs what the Climb shows. */
export function MotionBar({
  player,
  waiting,
  sign,
}: {
  player: Player;
  /** What is played once it is there. */ waiting: string;
  sign: 1 | -1;
}) {
  const still = useReducedMotion();
  const motion = useStore(player, (state) => state.motion);
  const playing = useStore(player, (state) => state.playing);
  const shown = useStore(player, (state) => state.shown);
  const speed = useStore(player, (state) => state.speed);
  const { play, pause, step, setSpeed, close } = player.getState();
  return (
    <div role="group" aria-label="Motion" className="no-print flex h-8 items-center gap-1 px-3 text-[13px]">
      {still ? null : (
        <button
          type="button"
          className={buttonStyle('quiet')}
          disabled={!motion}
          aria-label={playing ? 'Pause' : 'Play'}
          title={playing ? 'Pause (p)' : 'Play (p)'}
          onClick={playing ? pause : play}
        >
          {playing ? <Pause className="size-4" aria-hidden="true" /> : <Play className="size-4" aria-hidden="true" />}
        </button>
      )}
      {([-1, 1] as const).map((by) => (
        <button
          key={by}
          type="button"
          className={buttonStyle('quiet')}
          disabled={!motion}
          aria-label={
            by > 0 ? 'To the next diode that starts or stops' : 'Back to the diode that started or stopped before'
          }
          title={by > 0 ? 'Next event (x)' : 'Event before (z)'}
          onClick={() => step(by)}
        >
          {by > 0 ? (
            <SkipForward className="size-4" aria-hidden="true" />
          ) : (
            <SkipBack className="size-4" aria-hidden="true" />
          )}
        </button>
      ))}
      {motion ? <Scrubber player={player} motion={motion} sign={sign} /> : <span className="text-soft">{waiting}</span>}
      {still ? (
        <span className="hidden text-xs text-soft sm:inline">
          Motion is off by your system’s setting: step or drag.
        </span>
      ) : (
        <span className="flex items-center gap-1 text-xs text-soft">
          <span aria-hidden="true">Speed</span>
          <Pick
            label="Speed"
            value={String(speed)}
            options={SPEED_OPTIONS}
            onValue={(one) => setSpeed(Number(one) as Speed)}
          />
        </span>
      )}
      {shown ? (
        <button type="button" className={buttonStyle('quiet')} aria-label="Back to the steady picture" onClick={close}>
          <X className="size-4" aria-hidden="true" />
        </button>
      ) : null}
    </div>
  );
}

/** The moment as a place on a line; written frame by frame like the words. */
function Scrubber({ player, motion, sign }: { player: Player; motion: Motion; sign: 1 | -1 }) {
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const write = () => {
      const { position, playing } = player.getState();
      if (!input.current) return;
      input.current.value = String(position);
      // What is read aloud need not keep pace with the picture.
      if (!playing) input.current.setAttribute('aria-valuetext', momentWords(motion, position, sign));
    };
    write();
    return player.subscribe(write);
  }, [player, motion, sign]);
  return (
    <input
      ref={input}
      type="range"
      min={0}
      max={1}
      step={0.001}
      defaultValue={0}
      aria-label="Moment"
      className="mx-1 min-w-16 flex-1 accent-copper"
      onInput={(event) => player.getState().standAt(Number(event.currentTarget.value))}
    />
  );
}

/** The moment in words, written frame by frame without rendering anything anew. */
export function MomentWords({ player, sign }: { player: Player; sign: 1 | -1 }) {
  const words = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const write = () => {
      const { motion, position } = player.getState();
      if (words.current) words.current.textContent = motion ? momentWords(motion, position, sign) : '';
    };
    write();
    return player.subscribe(write);
  }, [player, sign]);
  return <span ref={words} className="figures block h-4 w-full text-center text-ink [contain:strict]" data-moment="" />;
}
