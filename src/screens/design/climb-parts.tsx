'use client';

import type { KeyboardEvent, ReactNode } from 'react';
import type { Fit } from '@/core/stress/margin';

const FIT_STROKE: Record<Fit, string> = {
  fits: 'var(--fits)',
  close: 'var(--close)',
  over: 'var(--over)',
  unrated: 'var(--line)',
};
const FIT_FILL: Record<Fit, string> = {
  fits: 'var(--fits-fill)',
  close: 'var(--close-fill)',
  over: 'var(--over-fill)',
  unrated: 'transparent',
};

export type PartProps = {
  id: string;
  label: string;
  selected: boolean;
  /** Only one part at a time is a tab stop; arrows move on from it. */
  tabStop: boolean;
  onSelect: (id: string) => void;
  onMove: (id: string, by: number) => void;
};

/** A part that can be chosen by pointer and keyboard. */
function Selectable({ id, label, selected, tabStop, onSelect, onMove, children }: PartProps & { children: ReactNode }) {
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
      onClick={() => onSelect(id)}
      onKeyDown={keys}
      className="outline-none [&:focus-visible_.focus-ring]:opacity-100"
    >
      <title>{label}</title>
      {children}
    </g>
  );
}

/** The shape that says close or over; a part that fits carries none, so that trouble stands out. */
function TroubleMark({ x, y, fit }: { x: number; y: number; fit: Fit }) {
  if (fit === 'close') return <path d={`M${x} ${y - 4.5}l4.800 8.600h-9.600Z`} fill="var(--close)" />;
  if (fit === 'over') return <rect x={x - 4} y={y - 4} width={8} height={8} fill="var(--over)" />;
  return null;
}

/** A capacitor standing in a column, filled to the part of its rating that it works at. */
export function ClimbCapacitor({
  x,
  bottom,
  top,
  size,
  fit,
  fill,
  markSide,
  ...part
}: PartProps & {
  x: number;
  bottom: number;
  top: number;
  size: number;
  fit: Fit;
  fill: number | null;
  markSide: 1 | -1;
}) {
  const middle = (bottom + top) / 2;
  const width = size * 1.6;
  const height = size;
  const left = x - width / 2;
  return (
    <Selectable {...part}>
      <path
        d={`M${x} ${bottom}V${middle + height / 2}M${x} ${middle - height / 2}V${top}`}
        stroke="var(--line)"
        fill="none"
      />
      <rect
        x={left}
        y={middle - height / 2}
        width={width}
        height={height}
        rx={2}
        fill="var(--sheet)"
        stroke={part.selected ? 'var(--copper)' : FIT_STROKE[fit]}
        strokeWidth={part.selected ? 2 : 1.2}
      />
      {fill === null ? null : (
        <rect
          x={left + 1.2}
          y={middle - height / 2 + 1.2}
          width={Math.max(0, (width - 2.4) * Math.min(1, fill))}
          height={Math.max(0, height - 2.4)}
          rx={1}
          fill={FIT_FILL[fit]}
        />
      )}
      <TroubleMark x={x + markSide * (width / 2 + 8)} y={middle} fit={fit} />
      <rect
        x={left - 3}
        y={middle - height / 2 - 3}
        width={width + 6}
        height={height + 6}
        rx={4}
        fill="transparent"
        stroke="var(--copper)"
        strokeWidth={1.5}
        className="focus-ring opacity-0"
      />
    </Selectable>
  );
}

/** A diode lying at the height where its two ends meet at the peak. */
export function ClimbDiode({
  from,
  to,
  y,
  at,
  pointsRight,
  size,
  colour,
  fit,
  fill,
  ...part
}: PartProps & {
  from: number;
  to: number;
  y: number;
  /** Where along the wire the symbol stands. */
  at: number;
  pointsRight: boolean;
  size: number;
  colour: string;
  fit: Fit;
  fill: number | null;
}) {
  const half = size / 2;
  const tip = pointsRight ? at + half : at - half;
  const tail = pointsRight ? at - half : at + half;
  const filled = fill === null ? 0 : Math.min(1, fill);
  // The stress fills the triangle from its base.
  const edge = tail + (tip - tail) * filled;
  const edgeHalf = half * (1 - filled);
  return (
    <Selectable {...part}>
      <path
        d={`M${from} ${y}H${Math.min(tip, tail)}M${Math.max(tip, tail)} ${y}H${to}`}
        stroke="var(--line)"
        fill="none"
      />
      <path d={`M${tail} ${y - half}L${tip} ${y}L${tail} ${y + half}Z`} fill="var(--sheet)" />
      {filled > 0 ? (
        <path
          d={`M${tail} ${y - half}L${edge} ${y - edgeHalf}V${y + edgeHalf}L${tail} ${y + half}Z`}
          fill={FIT_FILL[fit]}
        />
      ) : null}
      <path
        d={`M${tail} ${y - half}L${tip} ${y}L${tail} ${y + half}ZM${tip} ${y - half}V${y + half}`}
        fill="none"
        stroke={part.selected ? 'var(--copper)' : colour}
        strokeWidth={part.selected ? 2.2 : 1.5}
        strokeLinejoin="round"
      />
      <TroubleMark x={at + (pointsRight ? -1 : 1) * (half + 9)} y={y} fit={fit} />
      <rect
        x={at - half - 5}
        y={y - half - 3}
        width={size + 10}
        height={size + 6}
        rx={4}
        fill="transparent"
        stroke="var(--copper)"
        strokeWidth={1.5}
        className="focus-ring opacity-0"
      />
    </Selectable>
  );
}
