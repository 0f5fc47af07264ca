import { createStore } from 'zustand';
import { eventBeside, positionAt, type Motion, type MotionKind } from '@/core/transient/motion';

/** How fast, against the usual. */
export const SPEEDS = [0.125, 0.25, 0.5, 1, 2] as const;
export type Speed = (typeof SPEEDS)[number];

/** What one cycle, a charge-up and a discharge take at the usual speed, ms. */
const USUAL_MILLISECONDS: Record<MotionKind, number> = { settled: 4000, 'charge-up': 14_000, discharge: 8000 };
/** Cycles that are given their whole time; more of them go by faster. */
const MOST_CYCLES = 15;

type PlayerState = {
  motion: Motion | null;
  /** Whether the Climb shows a moment; else it shows the steady picture. */
  shown: boolean;
  playing: boolean;
  /** From 0 to 1 along the motion's pace. */
  position: number;
  speed: Speed;
};

type PlayerActions = {
  /** Takes another motion, or none for now; one of the same kind goes on where the last one stood. */
  load: (motion: Motion | null) => void;
  play: () => void;
  pause: () => void;
  /** Stands at a position, or at a time of the run, s. */
  standAt: (position: number) => void;
  standAtTime: (seconds: number) => void;
  /** To the next moment at which a diode starts or stops, or the one before. */
  step: (by: 1 | -1) => void;
  setSpeed: (speed: Speed) => void;
  /** Back to the steady picture. */
  close: () => void;
};

export type Player = ReturnType<typeof createPlayer>;

/** How long a motion plays at the usual speed, ms. */
function usualMilliseconds({ kind, cycles }: Motion): number {
  return USUAL_MILLISECONDS[kind] * (kind === 'settled' ? Math.min(MOST_CYCLES, cycles) : 1);
}

/**
 * Plays a motion, frame after frame of the display.
 *
 * @param nextFrame asks for the next frame of the display; gives what takes that back
 */
export function createPlayer(nextFrame: (run: (now: number) => void) => () => void = displayFrame) {
  let cancel = () => {};
  let before: number | null = null;
  /** Of the motion loaded last; while the next is computed there is none. */
  let kind: MotionKind | null = null;
  return createStore<PlayerState & PlayerActions>((set, get) => {
    const stop = () => {
      cancel();
      cancel = () => {};
      before = null;
    };
    const run = (now: number) => {
      const { motion, position, speed, playing } = get();
      if (!motion || !playing) return stop();
      const gone = before === null ? 0 : (now - before) / (usualMilliseconds(motion) / speed);
      before = now;
      const at = position + gone;
      if (motion.kind !== 'settled' && at >= 1) {
        stop();
        set({ position: 1, playing: false });
        return;
      }
      set({ position: at % 1 });
      cancel = nextFrame(run);
    };
    const stand = (position: number) => {
      stop();
      set({ position: Math.min(1, Math.max(0, position)), playing: false, shown: true });
    };
    return {
      motion: null,
      shown: false,
      playing: false,
      position: 0,
      speed: 1,
      load: (motion) => {
        stop();
        if (motion && motion.kind !== kind) {
          kind = motion.kind;
          set({ motion, position: 0, playing: false });
        } else set({ motion });
        if (motion && get().playing) cancel = nextFrame(run);
      },
      play: () => {
        const { motion, position } = get();
        if (!motion) return;
        stop();
        set({ playing: true, shown: true, position: motion.kind !== 'settled' && position >= 1 ? 0 : position });
        cancel = nextFrame(run);
      },
      pause: () => {
        stop();
        set({ playing: false });
      },
      standAt: stand,
      standAtTime: (seconds) => {
        const { motion } = get();
        if (motion) stand(positionAt(motion, seconds));
      },
      step: (by) => {
        const { motion, position, shown } = get();
        if (motion) stand(eventBeside(motion, shown || by < 0 ? position : -1, by));
      },
      setSpeed: (speed) => set({ speed }),
      close: () => {
        stop();
        set({ playing: false, shown: false, position: 0 });
      },
    };
  });
}

function displayFrame(run: (now: number) => void): () => void {
  const id = requestAnimationFrame(run);
  return () => cancelAnimationFrame(id);
}
