'use client';

import { useRef, type PointerEvent } from 'react';

/** Less is a hand that shakes, px. */
const LEAST_PIXELS = 3;

type Held = { fromPixels: number; pixelsPerMillimetre: number; at: number; alongMetres: number };

/**
 * Dragging of joints along a picture whose units are millimetres.
 *
 * @param onDrag the joint, which of the conductors it is, and how far along it is dragged, m
 */
export function useJointDrag(onDrag: (node: string, at: number, alongMetres: number) => void, onDrop: () => void) {
  const held = useRef<Held | null>(null);
  const moved = useRef(false);
  const drop = () => {
    held.current = null;
    if (moved.current) onDrop();
  };
  return {
    /** What a joint listens to that stands so far along. */
    of: (node: string, at: number, alongMetres: number) => ({
      onPointerDown: (event: PointerEvent<SVGGElement>) => {
        if (event.button !== 0) return;
        moved.current = false;
        const { a: pixelsPerMillimetre } = event.currentTarget.ownerSVGElement!.getScreenCTM()!;
        held.current = { fromPixels: event.clientX, pixelsPerMillimetre, at, alongMetres };
        event.currentTarget.setPointerCapture(event.pointerId);
      },
      onPointerMove: (event: PointerEvent<SVGGElement>) => {
        if (!held.current) return;
        const { fromPixels, pixelsPerMillimetre, ...from } = held.current;
        const pixels = event.clientX - fromPixels;
        if (!moved.current && Math.abs(pixels) < LEAST_PIXELS) return;
        moved.current = true;
        onDrag(node, from.at, from.alongMetres + pixels / pixelsPerMillimetre / 1e3);
      },
      onPointerUp: drop,
      onPointerCancel: drop,
    }),
    /** Whether the click that has just come ends a drag. */
    wasMoved: () => moved.current,
  };
}
