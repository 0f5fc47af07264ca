'use client';

import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

/** How far an arrow key moves it, pixels. */
const KEY_STEP = 16;

type SplitterProps = {
  label: string;
  /** Size of the pane it belongs to, pixels. */
  size: number;
  least: number;
  most: number;
  /** Where that pane lies, seen from the splitter. */
  pane: 'left' | 'right' | 'below';
  onSize: (size: number) => void;
  /** Back to where it stood before anybody moved it. */
  onReset: () => void;
};

/** A border that can be dragged, or moved by arrow keys; a double click puts it back. */
export function Splitter({ label, size, least, most, pane, onSize, onReset }: SplitterProps) {
  const start = useRef<{ at: number; size: number } | null>(null);
  const upright = pane !== 'below';
  const grows = pane === 'left' ? 1 : -1;
  const set = (next: number) => onSize(Math.round(Math.min(most, Math.max(least, next))));
  const place = (event: PointerEvent) => (upright ? event.clientX : event.clientY);
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by === undefined || upright !== /Right|Left/.test(event.key)) return;
    event.preventDefault();
    set(size + by * grows * KEY_STEP);
  };
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation={upright ? 'vertical' : 'horizontal'}
      aria-valuenow={size}
      aria-valuemin={least}
      aria-valuemax={most}
      title="Drag to resize; double-click to reset"
      className={`no-print relative z-10 hidden touch-none bg-rule hover:bg-copper focus-visible:bg-copper lg:block ${
        upright
          ? 'w-px cursor-col-resize before:absolute before:inset-y-0 before:-left-1 before:w-2.5'
          : 'h-px cursor-row-resize before:absolute before:inset-x-0 before:-top-1 before:h-2.5'
      } before:content-['']`}
      onKeyDown={keys}
      onDoubleClick={onReset}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = { at: place(event), size };
      }}
      onPointerMove={(event) => {
        if (start.current) set(start.current.size + grows * (place(event) - start.current.at));
      }}
      onPointerUp={() => (start.current = null)}
      onPointerCancel={() => (start.current = null)}
    />
  );
}
