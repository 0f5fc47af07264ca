'use client';

import { memo, type KeyboardEvent, type ReactNode } from 'react';
import type { Fit } from '@/core/quantity/margin';

const FIT_STROKE: Record<Fit, string> = {
  fits: 'var(--fits)',
  close: 'var(--close)',
  over: 'var(--over)',
  unrated: 'var(--line)',
};
export const FIT_FILL: Record<Fit, string> = {
  fits: 'var(--fits-fill)',
  close: 'var(--close-fill)',
  over: 'var(--over-fill)',
  unrated: 'transparent',
};

/** What every part of the Climb needs to be chosen; the two functions must keep their identity. */
type PartProps = {
  id: string;
  label: string;
  selected: boolean;
  /** Only one part at a time is a tab stop; arrows move on from it. */
  tabStop: boolean;
  onSelect: (id: string) => void;
  onMove: (id: string, by: number) => void;
};

/**
 * A part that can be chosen by pointer and keyboard, drawn around its own
 * origin: when the ladder sags only the place changes, not the shape.
 */
function Selectable({
  id,
  label,
  selected,
  tabStop,
  onSelect,
  onMove,
  x,
  y,
  children,
}: PartProps & { x: number; y: number; children: ReactNode }) {
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Enter' || event.key === ' ') onSelect(id);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowRight') onMove(id, 1);
    else if (event.key === 'ArrowDown' || event.key === 'ArrowLeft') onMove(id, -1);
    else return;
    event.preventDefault();
  };
  return (
    <g
      role="button"
      tabIndex={tabStop ? 0 : -1}
      aria-label={label}
      aria-pressed={selected}
      data-part={id}
      transform={`translate(${x} ${y})`}
      onClick={() => onSelect(id)}
      onKeyDown={keys}
    >
      {children}
    </g>
  );
}

/** The shape that says close or over; a part that fits carries none, so that trouble stands out. */
function TroubleMark({ x, fit }: { x: number; fit: Fit }) {
  if (fit === 'close') return <path d={`M${x} -4.500l4.800 8.600h-9.600Z`} fill="var(--close)" />;
  if (fit === 'over') return <rect x={x - 4} y={-4} width={8} height={8} fill="var(--over)" />;
  return null;
}

type CapacitorProps = PartProps & {
  x: number;
  y: number;
  size: number;
  fit: Fit;
  fill: number | null;
  markSide: 1 | -1;
};

/** A capacitor standing in a column, filled to the part of its rating that it works at. */
export const ClimbCapacitor = memo(function ClimbCapacitor({ size, fit, fill, markSide, ...part }: CapacitorProps) {
  const width = size * 1.6;
  return (
    <Selectable {...part}>
      <rect
        x={-width / 2}
        y={-size / 2}
        width={width}
        height={size}
        rx={2}
        fill="var(--sheet)"
        stroke={part.selected ? 'var(--copper)' : FIT_STROKE[fit]}
        strokeWidth={part.selected ? 2.4 : 1.2}
      />
      {fill === null ? null : (
        <rect
          x={-width / 2 + 1.2}
          y={-size / 2 + 1.2}
          width={Math.max(0, (width - 2.4) * Math.min(1, fill))}
          height={Math.max(0, size - 2.4)}
          rx={1}
          fill={FIT_FILL[fit]}
        />
      )}
      <TroubleMark x={markSide * (width / 2 + 8)} fit={fit} />
    </Selectable>
  );
});

type DiodeProps = PartProps & {
  x: number;
  y: number;
  pointsRight: boolean;
  size: number;
  colour: string;
  fit: Fit;
  fill: number | null;
};

/** A diode lying at the height where its two ends meet at the peak; its stress fills the triangle from the base. */
export const ClimbDiode = memo(function ClimbDiode({ pointsRight, size, colour, fit, fill, ...part }: DiodeProps) {
  const half = size / 2;
  const tip = pointsRight ? half : -half;
  const tail = -tip;
  const filled = fill === null ? 0 : Math.min(1, fill);
  const edge = tail + (tip - tail) * filled;
  const edgeHalf = half * (1 - filled);
  return (
    <Selectable {...part}>
      <path
        d={`M${tail} ${-half}L${tip} 0L${tail} ${half}ZM${tip} ${-half}V${half}`}
        fill="var(--sheet)"
        stroke={part.selected ? 'var(--copper)' : colour}
        strokeWidth={part.selected ? 2.6 : 1.5}
        strokeLinejoin="round"
      />
      {filled > 0 ? (
        <path
          d={`M${tail} ${-half}L${edge} ${-edgeHalf}V${edgeHalf}L${tail} ${half}Z`}
          fill={FIT_FILL[fit]}
          pointerEvents="none"
        />
      ) : null}
      <rect x={-half - 3} y={-half - 2} width={size + 6} height={size + 4} fill="transparent" />
      <TroubleMark x={(pointsRight ? -1 : 1) * (half + 9)} fit={fit} />
    </Selectable>
  );
});
