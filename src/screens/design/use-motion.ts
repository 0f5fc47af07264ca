'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { createPlayer, type Player } from '@/climb/player';
import type { Prediction } from '@/core/predict/prediction';
import type { Moments } from '@/core/transient/moments';
import { motionOf, type MotionKind } from '@/core/transient/motion';
import type { TimeDomain } from './use-transient';

/** Hands over what a chart's run showed moment by moment; null when it is gone. */
export type OnMoments = (kind: Exclude<MotionKind, 'settled'>, moments: Moments | null) => void;

const WAITS: Record<MotionKind, string> = {
  settled: 'Plays when the time domain is ready.',
  'charge-up': 'Plays when the charge-up is ready.',
  discharge: 'Plays when the discharge is ready.',
};

/** Plays what the open chart is about: the charge-up, the discharge, or else the settled period. */
export function useMotion(
  prediction: Prediction,
  timeDomain: TimeDomain,
  tab: string,
): { player: Player; waiting: string; onMoments: OnMoments } {
  const [player] = useState(() => createPlayer());
  const [runs, setRuns] = useState<Partial<Record<MotionKind, Moments | null>>>({});
  const onMoments = useCallback<OnMoments>((kind, moments) => setRuns((now) => ({ ...now, [kind]: moments })), []);
  const kind: MotionKind = tab === 'charge-up' || tab === 'discharge' ? tab : 'settled';
  const settled = timeDomain.kind === 'ready' ? timeDomain.run.waveforms : null;
  const moments = kind === 'settled' ? settled : (runs[kind] ?? null);
  const motion = useMemo(
    () => (moments && !prediction.output.alternating ? motionOf(prediction, moments, kind) : null),
    [prediction, moments, kind],
  );
  useEffect(() => player.getState().load(motion), [player, motion]);
  useEffect(() => () => player.getState().pause(), [player]);
  const waiting = timeDomain.kind === 'failed' ? 'Nothing to play without the time domain.' : WAITS[kind];
  return useMemo(() => ({ player, waiting, onMoments }), [player, waiting, onMoments]);
}
