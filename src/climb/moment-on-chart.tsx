'use client';

import type { Chart } from 'chart.js';
import { useEffect, useRef, type PointerEvent, type ReactNode, type RefObject } from 'react';
import type { MotionKind } from '@/core/transient/motion';
import { placeAt, valueAt } from '@/core/transient/motion';
import type { Player } from './player';

/** A chart over the time of what is played, with the moment marked on it; dragging over it moves the moment. */
export function MomentOnChart({
  player,
  kind,
  chart,
  secondsPer,
  children,
}: {
  player: Player;
  kind: MotionKind;
  chart: RefObject<Chart<'line'> | null>;
  /** Seconds of one unit of the chart's own axis. */
  secondsPer: number;
  children: ReactNode;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const draw = () => {
      const { motion, shown, position } = player.getState();
      const drawn = chart.current;
      if (!line.current) return;
      if (!drawn || !shown || motion?.kind !== kind) return void (line.current.style.visibility = 'hidden');
      const seconds = valueAt(motion.times, placeAt(motion, position));
      const { left, right, top, bottom } = drawn.chartArea;
      const x = drawn.scales.x.getPixelForValue(seconds / secondsPer);
      line.current.style.visibility = x < left - 1 || x > right + 1 ? 'hidden' : 'visible';
      line.current.style.height = `${bottom - top}px`;
      line.current.style.transform = `translate(${x.toFixed(1)}px, ${top}px)`;
      line.current.dataset.seconds = String(seconds);
    };
    draw();
    const observer = new ResizeObserver(() => requestAnimationFrame(draw));
    observer.observe(frame.current!);
    const end = player.subscribe(draw);
    return () => {
      observer.disconnect();
      end();
    };
  });

  const standAt = (event: PointerEvent<HTMLDivElement>) => {
    const drawn = chart.current;
    if (!drawn || player.getState().motion?.kind !== kind) return;
    const across = event.clientX - frame.current!.getBoundingClientRect().left;
    player.getState().standAtTime(drawn.scales.x.getValueForPixel(across)! * secondsPer);
  };
  return (
    <div
      ref={frame}
      className="relative h-full min-h-0 min-w-0 touch-pan-y"
      onPointerDown={(event) => {
        // With shift, a drag zooms where the chart can.
        if (event.button !== 0 || event.shiftKey) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        standAt(event);
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) standAt(event);
      }}
    >
      {children}
      <div
        ref={line}
        aria-hidden="true"
        data-moment-line={kind}
        className="pointer-events-none invisible absolute top-0 left-0 w-[1.5px] bg-copper will-change-transform"
      />
    </div>
  );
}
