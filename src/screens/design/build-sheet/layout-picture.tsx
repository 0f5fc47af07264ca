import type { KeyboardEvent } from 'react';
import { potentialColour } from '@/climb/climb-layout';
import type { Conductor, PlacedBody } from '@/core/build/arranged';
import type { Insulation } from '@/core/build/insulation';
import { nodeName } from '@/core/build/node-name';
import type { Layout } from '@/core/build/layout';
import { useJointDrag } from './use-joint-drag';

type Props = {
  layout: Layout;
  insulation: Insulation;
  selected: string | null;
  onSelect: (node: string) => void;
  /** A joint, which of the conductors it is, and how far along the layout it is dragged. */
  onDrag: (node: string, at: number, alongMetres: number) => void;
  onDrop: () => void;
};

const MILLI = 1e3;
/** Of labels, mm. */
const LETTERS = 2.4;
const MARGIN = 6;
/** How much larger a ring is drawn than the joint within it. */
const RING_TO_JOINT = 3;
/** A piece of the picture on paper, at its true size, mm: A4 and Letter have room for it. */
const PIECE = { wide: 180, tall: 225 };
/** Below the layout, for the scale, mm. */
const SCALE_HIGH = 8;

/** What of the picture is shown, mm. */
type Window = { left: number; top: number; width: number; height: number };

/** Bodies, leads and joints of one board, and the box around all, in millimetres. */
type Drawn = { board: number; bodies: PlacedBody[]; conductors: Conductor[] };

function boardsOf({ arranged, spacing, boards }: Layout): Drawn[] {
  const boardAt = (height: number) => (boards > 1 ? Math.min(boards - 1, Math.round(height / spacing.board)) : 0);
  return Array.from({ length: boards }, (_, board) => ({
    board,
    bodies: arranged.bodies.filter(({ from, to }) => boardAt((from[2] + to[2]) / 2) === board),
    // A wire between two boards is a point on both.
    conductors: arranged.conductors.filter(({ from, to }) => boardAt(from[2]) === board || boardAt(to[2]) === board),
  }));
}

/** What all of it takes up, from above, in millimetres. */
function boundsOf({ arranged }: Layout) {
  const all = [...arranged.bodies, ...arranged.conductors];
  const [left, right, low, top] = [
    Math.min(...all.map(({ from, to, radius }) => Math.min(from[0], to[0]) - radius)),
    Math.max(...all.map(({ from, to, radius }) => Math.max(from[0], to[0]) + radius)),
    Math.min(...all.map(({ from, to, radius }) => Math.min(from[1], to[1]) - radius)),
    Math.max(...all.map(({ from, to, radius }) => Math.max(from[1], to[1]) + radius)),
  ].map((metres) => metres * MILLI);
  return { left, low, wide: right - left, high: top - low };
}

/** The layout to scale: on screen as wide as there is room for, on paper piece by piece at its true size. */
export function LayoutPicture(props: Props) {
  const bounds = boundsOf(props.layout);
  const width = bounds.wide + 2 * MARGIN;
  const height = bounds.high + 2 * MARGIN + SCALE_HIGH;
  const whole = { left: 0, top: 0, width, height };
  const [across, down] = [Math.ceil(width / PIECE.wide), Math.ceil(height / PIECE.tall)];
  // All of one size: no sliver is left for the last.
  const piece = { width: width / across, height: height / down };
  const pieces = Array.from({ length: across * down }, (_, at): Window => {
    return { ...piece, left: (at % across) * piece.width, top: Math.floor(at / across) * piece.height };
  });
  return (
    <>
      {boardsOf(props.layout).map((drawn) => (
        <figure key={drawn.board} className="mt-2" data-layout-board={drawn.board}>
          {props.layout.boards > 1 ? (
            <figcaption className="text-[13px] text-soft">Board {drawn.board + 1}</figcaption>
          ) : null}
          <div className="overflow-x-auto print:hidden">
            <Plan {...props} drawn={drawn} window={whole} isTrueSize={false} />
          </div>
          <div className="hidden print:block">
            {pieces.map((window, at) => (
              <div key={at} className="break-inside-avoid">
                {pieces.length > 1 ? (
                  <p className="text-[11px] text-soft">
                    At its true size, piece {at + 1} of {pieces.length}
                    {across > 1 && down > 1 ? `: ${across} beside each other` : ''}
                  </p>
                ) : (
                  <p className="text-[11px] text-soft">At its true size, printed at 100 %</p>
                )}
                <Plan {...props} drawn={drawn} window={window} isTrueSize />
              </div>
            ))}
          </div>
        </figure>
      ))}
    </>
  );
}

function Plan({
  layout,
  insulation: { potentials, highest, isTurned, nodes },
  selected,
  onSelect,
  onDrag,
  onDrop,
  drawn: { bodies, conductors },
  window: { left: from, top, width, height },
  isTrueSize,
}: Props & { drawn: Drawn; window: Window; isTrueSize: boolean }) {
  const { left, low, high } = boundsOf(layout);
  const tooNear = new Set(layout.breaches.flatMap(({ between }) => between));
  // Across grows upwards, as the oscillating column stands above the smoothing one.
  const x = (metres: number) => metres * MILLI - left + MARGIN;
  const y = (metres: number) => high - (metres * MILLI - low) + MARGIN;
  const colour = (node: string) => potentialColour(potentials.toGround(node), highest.volts);
  const rings = new Set(nodes.flatMap(({ id, rounding }) => (rounding?.kind === 'ring' ? id : [])));
  const drag = useJointDrag(onDrag, onDrop);
  return (
    <svg
      viewBox={`${from} ${top} ${width} ${height}`}
      {...(isTrueSize
        ? { width: `${width}mm`, height: `${height}mm` }
        : { className: 'w-full', style: { minWidth: `${width}mm`, maxWidth: `${2.5 * width}mm`, maxHeight: '70vh' } })}
      role="img"
      aria-label="Layout to scale"
      data-layout={isTrueSize ? 'paper' : 'screen'}
      fontSize={LETTERS}
    >
      {conductors
        .filter(({ kind }) => kind === 'lead')
        .map(({ node, from: start, to, radius }, at) => (
          <line
            key={at}
            x1={x(start[0])}
            y1={y(start[1])}
            x2={x(to[0])}
            y2={y(to[1])}
            stroke={colour(node)}
            strokeWidth={2 * radius * MILLI}
            strokeLinecap="round"
          />
        ))}
      {bodies.map((body) => (
        <Body key={body.id} body={body} x={x} y={y} isTurned={isTurned} isTooNear={tooNear.has(body.id)} />
      ))}
      {conductors
        .filter(({ kind }) => kind === 'joint')
        .map((joint) => ({ joint, node: joint.node, point: joint.from, radius: joint.radius }))
        .map(({ joint, node, point, radius }, at) => (
          <g
            key={at}
            className="cursor-pointer touch-none outline-none [&:focus-visible>circle+circle]:stroke-copper [&:focus-visible>circle+circle]:[stroke-width:0.8]"
            data-joint={node}
            {...(isTrueSize
              ? {}
              : {
                  ...drag.of(node, layout.arranged.conductors.indexOf(joint), point[0]),
                  onClick: () => {
                    if (!drag.wasMoved()) onSelect(node);
                  },
                  role: 'button',
                  tabIndex: 0,
                  'aria-label': `Distances of ${nodeName(node)}`,
                  'aria-pressed': node === selected,
                  onKeyDown: (event: KeyboardEvent) => {
                    if (event.key !== 'Enter' && event.key !== ' ') return;
                    event.preventDefault();
                    onSelect(node);
                  },
                })}
          >
            <circle cx={x(point[0])} cy={y(point[1])} r={Math.max(radius * MILLI, 2.5)} className="fill-transparent" />
            <circle
              cx={x(point[0])}
              cy={y(point[1])}
              r={(rings.has(node) ? radius / RING_TO_JOINT : radius) * MILLI}
              fill={colour(node)}
              className={node === selected ? 'stroke-copper' : tooNear.has(node) ? 'stroke-over' : 'stroke-sheet'}
              strokeWidth={node === selected || tooNear.has(node) ? 0.8 : 0.2}
            />
            {rings.has(node) ? (
              <circle
                cx={x(point[0])}
                cy={y(point[1])}
                r={radius * MILLI}
                className="fill-none"
                stroke={colour(node)}
                strokeWidth={0.5}
                data-ring={node}
              />
            ) : null}
            <text
              x={x(point[0])}
              y={y(point[1]) + (point[1] > 0 ? -radius * MILLI - 1 : radius * MILLI + LETTERS)}
              textAnchor="middle"
              className="fill-ink"
            >
              {nodeName(node)}
            </text>
          </g>
        ))}
      <g transform={`translate(${MARGIN} ${high + MARGIN + 3})`}>
        <path d="M0 0 v2 M0 1 h50 M50 0 v2 M10 0.4 v1.2" className="fill-none stroke-ink" strokeWidth={0.25} />
        <text x={51} y={2} className="fill-soft">
          50 mm, the first mark 10 mm
        </text>
      </g>
    </svg>
  );
}

function Body({
  body: { id, kind, from, to, radius },
  x,
  y,
  isTurned,
  isTooNear,
}: {
  body: PlacedBody;
  x: (metres: number) => number;
  y: (metres: number) => number;
  isTurned: boolean;
  isTooNear: boolean;
}) {
  const [x1, y1, x2, y2] = [x(from[0]), y(from[1]), x(to[0]), y(to[1])];
  const length = Math.hypot(x2 - x1, y2 - y1);
  const across = 2 * radius * MILLI;
  const turn = (Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI;
  // Written the way one reads.
  const isUpsideDown = Math.abs(turn) > 90;
  const band = kind === 'diode' ? Math.min(length / 5, 2) : 0;
  // Beside the band, and no wider than what that leaves.
  const aside = (isTurned ? band : -band) * (isUpsideDown ? -1 : 1);
  const letters = Math.min(LETTERS, Math.max(1.2, across - 0.4), (length - 2 * band) / (0.62 * id.length));
  return (
    <g transform={`translate(${(x1 + x2) / 2} ${(y1 + y2) / 2}) rotate(${turn})`} data-body={id}>
      <rect
        x={-length / 2}
        y={-across / 2}
        width={length}
        height={across}
        rx={Math.min(1, across / 4)}
        className={`fill-sheet ${isTooNear ? 'stroke-over' : 'stroke-ink'}`}
        strokeWidth={isTooNear ? 0.6 : 0.25}
      />
      {kind === 'diode' ? (
        <rect
          x={isTurned ? -length / 2 + band / 2 : length / 2 - 1.5 * band}
          y={-across / 2}
          width={band}
          height={across}
          className="fill-ink"
          data-band={id}
        />
      ) : null}
      <text
        transform={isUpsideDown ? 'rotate(180)' : undefined}
        x={aside}
        textAnchor="middle"
        dominantBaseline="central"
        className="fill-ink"
        fontSize={kind === 'diode' ? letters : Math.min(LETTERS, Math.max(1.2, across - 0.4))}
      >
        {id}
      </text>
    </g>
  );
}
