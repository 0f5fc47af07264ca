'use client';

import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { TOPOLOGY_KINDS } from '@/core/topology/topologies';
import type { NodePrediction, Prediction } from '@/core/predict/prediction';
import { quantityParts, formatQuantity } from '@/core/quantity/format-quantity';
import { fitOf } from '@/core/quantity/margin';
import type { Motion } from '@/core/transient/motion';
import { FitMark } from '@/ui/fit-mark';
import { climbLayout, nodeX, pictureScale, potentialColour, scaleFigure, type ClimbLayout } from './climb-layout';
import { ClimbFarEnd } from './climb-far-end';
import { ClimbMotion } from './climb-motion';
import { ClimbCapacitor, ClimbDiode } from './climb-parts';
import { capacitorPlace, diodePlace, hundredth, nodesById, standing, tenth } from './climb-places';
import { GhostRungs, Rungs } from './climb-rungs';
import { MomentWords, MotionBar } from './motion-bar';
import type { Player } from './player';

type ClimbProps = {
  prediction: Prediction;
  targetVolts: number | null;
  selected: string | null;
  onSelect: (id: string | null) => void;
  /** Whether the figures are those of the settled time domain. */
  fromTimeDomain: boolean;
  /** Nodes and parts whose waveforms are shown. */
  traces: readonly string[];
  /** Takes a node into the waveforms or out of them; null while they are not on screen. */
  onTrace: ((id: string) => void) | null;
  /** Plays what the ladder does, with what it says while there is nothing to play; null where nothing is to be played. */
  player: Player;
  waiting: string | null;
  /** What stood before a change, to be seen behind what stands now, and what hides it; null for none. */
  ghost: { prediction: Prediction; onHide: (() => void) | null; without?: 'the fault' } | null;
  /** Another that is drawn beside it, on the same scale. */
  beside?: Prediction;
};

/** The drawing in which height is potential: what each rung reaches under load, and where it would stand without. */
export const Climb = memo(function Climb(props: ClimbProps) {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize({ width: Math.round(width), height: Math.round(height) });
    });
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);
  const shown = useStore(props.player, (state) => state.shown);
  const sign = isNegative(props.prediction) ? -1 : 1;
  return (
    <figure className="flex min-h-0 flex-1 flex-col" aria-label="The Climb">
      <div ref={frame} className="min-h-0 flex-1 overflow-hidden">
        {size && size.width > 0 && size.height > 0 ? <Drawing {...props} {...size} /> : null}
      </div>
      {props.waiting === null ? null : <MotionBar player={props.player} waiting={props.waiting} sign={sign} />}
      <figcaption className="pane flex min-h-6 flex-wrap justify-center gap-x-4 gap-y-0.5 px-3 pb-1.5 text-xs text-soft">
        {shown ? <MomentWords player={props.player} sign={sign} /> : <Legend {...props} />}
      </figcaption>
    </figure>
  );
});

function Legend({ fromTimeDomain, ghost }: Pick<ClimbProps, 'fromTimeDomain' | 'ghost'>) {
  if (ghost)
    return (
      <>
        <span>outlined rungs: {ghost.without ? `without ${ghost.without}` : 'before the change'}</span>
        {ghost.onHide ? (
          <button type="button" className="text-copper underline" onClick={ghost.onHide}>
            {ghost.without ? `Remove ${ghost.without}` : 'Hide what stood before'}
          </button>
        ) : null}
      </>
    );
  return (
    <>
      {(['fits', 'close', 'over'] as const).map((fit) => (
        <span key={fit} className="inline-flex items-center gap-1">
          <FitMark fit={fit} /> {fit}
        </span>
      ))}
      <span>fill: share of rating used</span>
      <span>tick: no load</span>
      <span data-climb-from={fromTimeDomain ? 'time-domain' : 'closed-form'}>
        {fromTimeDomain ? 'drawn from the time domain' : 'drawn from the closed form'}
      </span>
    </>
  );
}

/** A ladder that climbs both ways stands as it is; only a one-sided one is the mirror of its positive twin. */
const isNegative = ({ output, terminals }: Prediction) =>
  output.polarity === 'negative' && terminals.return === 'ground';

const COLUMNS = ['oscillating', 'smoothing', 'antiphase'] as const;

/** Parts in the order of the chain from the foot, for moving through them by arrow keys. */
function partOrder(prediction: Prediction): string[] {
  const { diodes, capacitors } = prediction;
  const longer = Math.max(diodes.length, capacitors.length);
  return Array.from({ length: longer }, (_, index) => [diodes[index]?.id, capacitors[index]?.id])
    .flat()
    .filter((id) => id !== undefined);
}

const Drawing = memo(function Drawing({
  prediction,
  targetVolts,
  selected,
  onSelect,
  traces,
  onTrace,
  player,
  ghost,
  beside,
  width: shownWidth,
  height: shownHeight,
}: ClimbProps & { width: number; height: number }) {
  // On a large screen everything grows with the picture: parts, labels and lines alike.
  const scale = pictureScale(shownWidth, shownHeight);
  const [width, height] = [shownWidth / scale, shownHeight / scale];
  const box = { width: shownWidth, height: shownHeight, viewBox: `0 0 ${width} ${height}` };
  const svg = useRef<SVGSVGElement>(null);
  const layout = useMemo(
    () => climbLayout(prediction, targetVolts, width, height, ghost?.prediction, beside),
    [prediction, targetVolts, width, height, ghost, beside],
  );
  const motion = useStore(player, (state) =>
    state.shown && state.motion && isOf(prediction, state.motion) ? state.motion : null,
  );
  const order = useMemo(() => partOrder(prediction), [prediction]);
  const tabStop = selected !== null && order.includes(selected) ? selected : order[0];
  const nodes = useMemo(() => nodesById(prediction), [prediction]);
  const latest = useRef({ order, selected });
  useEffect(() => {
    latest.current = { order, selected };
  });
  const select = useCallback(
    (chosen: string) => onSelect(latest.current.selected === chosen ? null : chosen),
    [onSelect],
  );
  const move = useCallback(
    (from: string, by: number) => {
      const { order: ids } = latest.current;
      const next = ids[Math.min(ids.length - 1, Math.max(0, ids.indexOf(from) + by))];
      onSelect(next);
      svg.current?.querySelector<SVGGElement>(`[data-part="${next}"]`)?.focus();
    },
    [onSelect],
  );
  const chosen = (id: string) => ({
    id,
    selected: selected === id,
    tabStop: tabStop === id,
    onSelect: select,
    onMove: move,
  });
  const negative = isNegative(prediction);
  const top = layout.topVolts;
  const capacitors = prediction.capacitors.map((part) => ({ part, place: capacitorPlace(part, layout, nodes) }));
  const diodes = prediction.diodes.map((part) => ({ part, place: diodePlace(part, layout, nodes) }));

  return (
    <div data-climb="" className="relative" style={{ width: shownWidth, height: shownHeight }}>
      <svg ref={svg} {...box} role="group" aria-label="Ladder drawn by potential" className="pane block select-none">
        <Scale layout={layout} negative={negative} />
        {targetVolts === null ? null : (
          <TargetLine
            layout={layout}
            volts={targetVolts}
            negative={negative}
            twoSided={prediction.terminals.return !== 'ground'}
          />
        )}
        {ghost ? <GhostRungs before={ghost.prediction} layout={layout} negative={negative} /> : null}
        <Feet layout={layout} prediction={prediction} />
        <g opacity={motion ? 0.16 : 1}>
          <path
            d={[...capacitors, ...diodes].map(({ place }) => place.wires).join('')}
            stroke="var(--line)"
            fill="none"
          />
          {capacitors.map(({ part, place }) => (
            <ClimbCapacitor
              key={part.id}
              {...chosen(part.id)}
              label={partLabel(part.id, 'Capacitor', part.workingVolts, part.ratedVolts, part.margin)}
              x={place.x}
              y={place.y}
              size={place.size}
              fit={fitOf(part.margin)}
              fill={part.ratedVolts === null ? null : hundredth(part.workingVolts / part.ratedVolts)}
              markSide={part.column === 'oscillating' ? -1 : 1}
            />
          ))}
          {diodes.map(({ part, place }) => (
            <ClimbDiode
              key={part.id}
              {...chosen(part.id)}
              label={partLabel(part.id, 'Diode', part.reverseVolts, part.ratedVolts, part.margin)}
              x={place.x}
              y={place.y}
              size={place.size}
              pointsRight={place.cathodeIsRight !== negative}
              colour={potentialColour(place.meetingVolts, top)}
              fit={fitOf(part.margin)}
              fill={part.ratedVolts === null ? null : hundredth(part.reverseVolts / part.ratedVolts)}
            />
          ))}
          {prediction.nodes.map((node) =>
            node.column === 'smoothing' || node.column === 'ground' ? null : (
              <Swing key={node.id} node={node} layout={layout} top={top} />
            ),
          )}
        </g>
        <g opacity={motion && motion.kind !== 'settled' ? 0.3 : 1}>
          <ClimbFarEnd prediction={prediction} layout={layout} />
          <Rungs prediction={prediction} layout={layout} negative={negative} />
        </g>
        <g className="figures fill-soft text-[11.5px]" textAnchor="middle">
          {COLUMNS.filter((column) => prediction.capacitors.some((part) => part.column === column)).map((column) => (
            <text
              key={column}
              x={(layout.capacitorsOf[column] + layout.nodesOf[column]) / 2}
              y={height - 8}
              className={width < 460 && column !== 'smoothing' ? 'hidden' : undefined}
            >
              {column}
            </text>
          ))}
          {layout.farEnd ? (
            <text x={(layout.farEnd.left + layout.farEnd.right) / 2} y={height - 8}>
              far end
            </text>
          ) : null}
        </g>
        {onTrace && !motion ? (
          <Probes prediction={prediction} layout={layout} traces={traces} onTrace={onTrace} />
        ) : null}
        {prediction.output.meanVolts === null ? (
          <text
            x={(layout.plot.left + layout.plot.right) / 2}
            y={layout.y(top) - 10}
            textAnchor="middle"
            className="fill-over text-[13px] font-semibold"
          >
            No closed-form figure: drawn without load
          </text>
        ) : null}
      </svg>
      {motion ? (
        // A picture of its own, so that the still one beneath is not painted anew with each frame.
        <svg {...box} aria-hidden="true" className="pointer-events-none absolute inset-0 will-change-transform">
          <ClimbMotion prediction={prediction} layout={layout} motion={motion} player={player} negative={negative} />
        </svg>
      ) : null}
    </div>
  );
});

/** Whether a motion is of this ladder: for a moment after a change it may still be of the one before. */
const isOf = ({ nodes, capacitors, diodes }: Prediction, motion: Motion) =>
  nodes.every(({ id }) => motion.nodes.has(id)) &&
  capacitors.length === motion.capacitors.length &&
  diodes.length === motion.diodes.length;

function Scale({ layout, negative }: { layout: ClimbLayout; negative: boolean }) {
  const { plot, ticks, y, perUnit, unit } = layout;
  const sign = (volts: number) => (volts === 0 ? 0 : negative ? -volts : volts) / perUnit;
  return (
    <g className="figures fill-soft text-[11.5px]">
      <text x={plot.left - 10} y={14} textAnchor="end">
        {unit}
      </text>
      {ticks.map((tick) => (
        <g key={tick}>
          <line
            x1={plot.left}
            x2={layout.labels + 22}
            y1={y(tick)}
            y2={y(tick)}
            stroke="var(--rule)"
            strokeWidth={tick === 0 ? 1.4 : 0.8}
          />
          <text x={plot.left - 10} y={y(tick) + 4} textAnchor="end">
            {String(Number(sign(tick).toPrecision(6))).replace('-', '−')}
          </text>
        </g>
      ))}
    </g>
  );
}

function TargetLine({
  layout,
  volts,
  negative,
  twoSided,
}: {
  layout: ClimbLayout;
  volts: number;
  negative: boolean;
  /** Whether it is asked for across both sides, each of which then stands for half. */
  twoSided: boolean;
}) {
  const { plot, y } = layout;
  const levels = twoSided ? [volts / 2, -volts / 2] : [volts];
  return (
    <g>
      {levels.map((level) => (
        <line
          key={level}
          x1={plot.left}
          x2={plot.right}
          y1={y(level)}
          y2={y(level)}
          stroke="var(--copper)"
          strokeWidth={1.4}
          strokeDasharray="2 3"
        />
      ))}
      <text x={plot.left + 4} y={y(levels[0]) - 5} className="figures climb-label fill-copper text-[11.5px]">
        target {scaleFigure(volts, layout, negative)}
        {twoSided ? ' across both' : ''}
      </text>
    </g>
  );
}

/** Ground under the smoothing column and the source under the oscillating one. */
function Feet({ layout, prediction }: { layout: ClimbLayout; prediction: Prediction }) {
  const { y, nodesOf, capacitorsOf, antisource } = layout;
  const foot = y(0);
  const twoSided = prediction.terminals.return !== 'ground';
  const threeColumns = prediction.topology === 'full-wave';
  const coupled = prediction.capacitors.some((part) => part.column === 'oscillating');
  const sourceLow =
    prediction.nodes.find((node) => node.id === 'source')?.minVolts ?? -prediction.drive.negativePeakVolts;
  const peak = quantityParts(prediction.drive.positivePeakVolts, 'V');
  return (
    <g>
      {TOPOLOGY_KINDS[prediction.topology].floats ? null : (
        <path
          d={`M${nodesOf.smoothing} ${foot}v7M${nodesOf.smoothing - 9} ${foot + 7}h18M${nodesOf.smoothing - 5.5} ${foot + 10.5}h11M${nodesOf.smoothing - 2} ${foot + 14}h4`}
          stroke="var(--soft)"
          strokeWidth={1.3}
        />
      )}
      {coupled ? (
        <path
          d={`M${nodesOf.source} ${foot}H${capacitorsOf.oscillating}${threeColumns ? `M${antisource} ${foot}H${capacitorsOf.antiphase}` : ''}`}
          stroke="var(--line)"
        />
      ) : null}
      <text
        x={twoSided ? layout.plot.left - 34 : nodesOf.source + 10}
        y={twoSided ? layout.height - 8 : y(sourceLow) + 3}
        className="figures fill-soft text-[11.5px]"
      >
        in {peak.digits} {peak.unit} peak{threeColumns ? ', each half' : ''}
      </text>
    </g>
  );
}

function partLabel(id: string, kind: string, volts: number, rated: number | null, margin: number | null): string {
  const fit = fitOf(margin);
  return `${kind} ${id}, ${formatQuantity(volts, 'V')}${rated === null ? '' : ` of ${formatQuantity(rated, 'V')}`}, ${fit}`;
}

/** The range through which an oscillating node swings each cycle, with its mean. */
function Swing({ node, layout, top }: { node: NodePrediction; layout: ClimbLayout; top: number }) {
  const { y } = layout;
  const x = nodeX(layout, node);
  if (node.minVolts === null || node.maxVolts === null) {
    return <circle cx={x} cy={y(node.noLoadVolts)} r={2.6} fill="var(--line)" />;
  }
  const inset = Math.min(4, layout.stagePixels * 0.12);
  const high = tenth(y(node.maxVolts) + inset);
  const low = tenth(y(node.minVolts) - inset);
  const colour = potentialColour(standing(node), top);
  const half = Math.min(5, Math.max(3, layout.stagePixels * 0.12));
  return (
    <g>
      <title>
        {node.column === 'source' ? 'Source' : `Oscillating node ${node.id}`} swings from{' '}
        {formatQuantity(node.minVolts, 'V')} to {formatQuantity(node.maxVolts, 'V')} each cycle
      </title>
      <rect
        x={x - half}
        y={high}
        width={2 * half}
        height={Math.max(1, low - high)}
        rx={half}
        fill={colour}
        opacity={node.column === 'source' ? 0.22 : 0.36}
      />
      <circle cx={x} cy={y(standing(node))} r={Math.min(3, half * 0.7)} fill={colour} />
    </g>
  );
}

/** Every node as a place to take a waveform from. */
function Probes({
  prediction,
  layout,
  traces,
  onTrace,
}: {
  prediction: Prediction;
  layout: ClimbLayout;
  traces: readonly string[];
  onTrace: (id: string) => void;
}) {
  return (
    <g>
      {prediction.nodes
        .filter((node) => node.column !== 'ground')
        .map((node) => {
          const taken = traces.includes(node.id);
          return (
            <circle
              key={node.id}
              role="button"
              tabIndex={0}
              data-node={node.id}
              aria-label={`Waveform of node ${node.id}`}
              aria-pressed={taken}
              cx={nodeX(layout, node)}
              cy={layout.y(standing(node))}
              r={Math.max(3.5, Math.min(6, layout.stagePixels * 0.12))}
              fill={taken ? 'var(--copper)' : 'var(--sheet)'}
              stroke="var(--copper)"
              strokeWidth={1.4}
              className="cursor-pointer"
              onClick={() => onTrace(node.id)}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' && event.key !== ' ') return;
                event.preventDefault();
                onTrace(node.id);
              }}
            >
              <title>Waveform of {node.id}</title>
            </circle>
          );
        })}
    </g>
  );
}
