'use client';

import { memo, useEffect, useMemo, useRef, useState } from 'react';
import type { CapacitorPrediction, DiodePrediction, NodePrediction, Prediction } from '@/core/predict/prediction';
import { formatQuantity, sayQuantity } from '@/core/quantity/print-quantity';
import { fitOf } from '@/core/stress/margin';
import { FitMark } from '@/ui/fit-mark';
import { climbLayout, labelsThatFit, potentialColour, type ClimbLayout } from './climb-layout';
import { ClimbCapacitor, ClimbDiode } from './climb-parts';

type ClimbProps = {
  prediction: Prediction;
  targetVolts: number | null;
  selected: string | null;
  onSelect: (id: string | null) => void;
};

/** The drawing in which height is potential: what each rung reaches under load, and where it would stand without. */
export function Climb(props: ClimbProps) {
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
  return (
    <figure className="flex min-h-0 flex-1 flex-col" aria-label="The Climb">
      <div ref={frame} className="min-h-0 flex-1 overflow-hidden">
        {size && size.width > 0 && size.height > 0 ? <Drawing {...props} {...size} /> : null}
      </div>
      <figcaption className="flex flex-wrap justify-center gap-x-4 gap-y-0.5 px-3 pb-1.5 text-xs text-soft">
        {(['fits', 'close', 'over'] as const).map((fit) => (
          <span key={fit} className="inline-flex items-center gap-1">
            <FitMark fit={fit} /> {fit}
          </span>
        ))}
        <span>fill: part of the rating in use</span>
        <span>faint tick: without load</span>
      </figcaption>
    </figure>
  );
}

/** Parts in the order of the chain from the foot, for moving through them by arrow keys. */
function partOrder(prediction: Prediction): string[] {
  return prediction.diodes.flatMap((diode, index) => [diode.id, prediction.capacitors[index].id]);
}

const Drawing = memo(function Drawing({
  prediction,
  targetVolts,
  selected,
  onSelect,
  width,
  height,
}: ClimbProps & { width: number; height: number }) {
  const svg = useRef<SVGSVGElement>(null);
  const layout = useMemo(
    () => climbLayout(prediction, targetVolts, width, height),
    [prediction, targetVolts, width, height],
  );
  const order = useMemo(() => partOrder(prediction), [prediction]);
  const tabStop = selected !== null && order.includes(selected) ? selected : order[0];
  const nodes = useMemo(() => new Map(prediction.nodes.map((node) => [node.id, node])), [prediction]);
  const part = (id: string, label: string) => ({
    id,
    label,
    selected: selected === id,
    tabStop: tabStop === id,
    onSelect: (chosen: string) => onSelect(selected === chosen ? null : chosen),
    onMove: (from: string, by: number) => {
      const next = order[Math.min(order.length - 1, Math.max(0, order.indexOf(from) + by))];
      onSelect(next);
      svg.current?.querySelector<SVGGElement>(`[data-part="${next}"]`)?.focus();
    },
  });
  const negative = prediction.output.polarity === 'negative';
  const { y, plot } = layout;

  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role="group"
      aria-label="Ladder drawn by potential"
      className="block select-none"
    >
      <Scale layout={layout} negative={negative} />
      {targetVolts === null ? null : <TargetLine layout={layout} volts={targetVolts} negative={negative} />}
      <Feet layout={layout} prediction={prediction} />
      <g>
        {prediction.capacitors.map((capacitor) => (
          <StandingCapacitor key={capacitor.id} {...{ capacitor, layout, nodes, part }} />
        ))}
      </g>
      <g>
        {prediction.diodes.map((diode) => (
          <LyingDiode
            key={diode.id}
            {...{ diode, layout, nodes, part, negative }}
            top={prediction.output.noLoadVolts}
          />
        ))}
      </g>
      {prediction.nodes.map((node) =>
        node.column === 'oscillating' || node.column === 'source' ? (
          <Swing key={node.id} node={node} layout={layout} top={prediction.output.noLoadVolts} />
        ) : null,
      )}
      <Rungs prediction={prediction} layout={layout} negative={negative} />
      <g className="figures fill-soft text-[11.5px]" textAnchor="middle">
        <text x={(layout.oscillatingCapacitors + layout.oscillatingNodes) / 2} y={height - 8}>
          oscillating
        </text>
        <text x={(layout.smoothingNodes + layout.smoothingCapacitors) / 2} y={height - 8}>
          smoothing
        </text>
      </g>
      {prediction.output.meanVolts === null ? (
        <text
          x={(plot.left + plot.right) / 2}
          y={y(prediction.output.noLoadVolts) - 10}
          textAnchor="middle"
          className="fill-over text-[13px] font-semibold"
        >
          Past the closed form: drawn without load
        </text>
      ) : null}
    </svg>
  );
});

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

function TargetLine({ layout, volts, negative }: { layout: ClimbLayout; volts: number; negative: boolean }) {
  const { plot, y, perUnit } = layout;
  return (
    <g>
      <line
        x1={plot.left}
        x2={plot.right}
        y1={y(volts)}
        y2={y(volts)}
        stroke="var(--copper)"
        strokeWidth={1.4}
        strokeDasharray="2 3"
      />
      <text x={plot.left + 4} y={y(volts) - 5} className="figures fill-copper text-[11.5px]">
        target {negative ? '−' : ''}
        {String(Number((volts / perUnit).toPrecision(4)))}
      </text>
    </g>
  );
}

/** Ground under the smoothing column and the source under the oscillating one. */
function Feet({ layout, prediction }: { layout: ClimbLayout; prediction: Prediction }) {
  const { y, smoothingNodes, source, oscillatingCapacitors } = layout;
  const foot = y(0);
  const peak = formatQuantity(prediction.drive.positivePeakVolts, 'V');
  return (
    <g>
      <path
        d={`M${smoothingNodes} ${foot}v7M${smoothingNodes - 9} ${foot + 7}h18M${smoothingNodes - 5.5} ${foot + 10.5}h11M${smoothingNodes - 2} ${foot + 14}h4`}
        stroke="var(--soft)"
        strokeWidth={1.3}
      />
      <path d={`M${source} ${foot}H${oscillatingCapacitors}`} stroke="var(--line)" />
      <text x={source + 10} y={y(-prediction.drive.negativePeakVolts) + 3} className="figures fill-soft text-[11.5px]">
        in {peak.digits} {peak.unit} peak
      </text>
    </g>
  );
}

type Drawn = {
  layout: ClimbLayout;
  nodes: Map<string, NodePrediction>;
  part: (
    id: string,
    label: string,
  ) => {
    id: string;
    label: string;
    selected: boolean;
    tabStop: boolean;
    onSelect: (id: string) => void;
    onMove: (id: string, by: number) => void;
  };
};

const standing = (node: NodePrediction) => node.meanVolts ?? node.noLoadVolts;

function partLabel(id: string, kind: string, volts: number, rated: number | null, margin: number | null): string {
  const fit = fitOf(margin);
  return `${kind} ${id}, ${sayQuantity(volts, 'V')}${rated === null ? '' : ` of ${sayQuantity(rated, 'V')}`}, ${fit}`;
}

function StandingCapacitor({ capacitor, layout, nodes, part }: Drawn & { capacitor: CapacitorPrediction }) {
  const oscillating = capacitor.column === 'oscillating';
  const x = oscillating ? layout.oscillatingCapacitors : layout.smoothingCapacitors;
  const node = oscillating ? layout.oscillatingNodes : layout.smoothingNodes;
  const upper = nodes.get(capacitor.upper)!;
  const lower = nodes.get(capacitor.lower)!;
  const top = layout.y(standing(upper));
  const bottom = layout.y(standing(lower));
  const fit = fitOf(capacitor.margin);
  return (
    <>
      <path d={`M${x} ${top}H${node}`} stroke="var(--line)" fill="none" />
      {lower.column === 'ground' ? <path d={`M${x} ${bottom}H${node}`} stroke="var(--line)" fill="none" /> : null}
      <ClimbCapacitor
        {...part(
          capacitor.id,
          partLabel(capacitor.id, 'Capacitor', capacitor.workingVolts, capacitor.ratedVolts, capacitor.margin),
        )}
        x={x}
        bottom={bottom}
        top={top}
        size={Math.max(5, Math.min(14, Math.abs(bottom - top) * 0.5))}
        fit={fit}
        fill={capacitor.ratedVolts === null ? null : capacitor.workingVolts / capacitor.ratedVolts}
        markSide={oscillating ? -1 : 1}
      />
    </>
  );
}

function LyingDiode({
  diode,
  layout,
  nodes,
  part,
  negative,
  top,
}: Drawn & { diode: DiodePrediction; negative: boolean; top: number }) {
  const intoSmoothing = nodes.get(diode.cathode)!.column === 'smoothing';
  const smoothing = nodes.get(intoSmoothing ? diode.cathode : diode.anode)!;
  // Two diodes meet every smoothing node, one from below and one above: set apart so that both can be read.
  const room = layout.roomAt.get(smoothing.id) ?? layout.stagePixels;
  const apart = Math.max(2, Math.min(8, room * 0.22));
  const meeting = (intoSmoothing ? smoothing.maxVolts : smoothing.minVolts) ?? smoothing.noLoadVolts;
  const y = layout.y(meeting) + (intoSmoothing ? apart : -apart);
  const zone = layout.smoothingNodes - layout.oscillatingNodes;
  const fit = fitOf(diode.margin);
  return (
    <ClimbDiode
      {...part(diode.id, partLabel(diode.id, 'Diode', diode.reverseVolts, diode.ratedVolts, diode.margin))}
      from={(diode.anode === 'source' ? layout.source : layout.oscillatingNodes) + 6}
      to={layout.smoothingNodes - 9}
      y={y}
      at={layout.oscillatingNodes + zone * (intoSmoothing ? 0.66 : 0.36)}
      pointsRight={intoSmoothing !== negative}
      size={Math.max(4, Math.min(13, room * 0.4))}
      colour={potentialColour(meeting / top)}
      fit={fit}
      fill={diode.ratedVolts === null ? null : diode.reverseVolts / diode.ratedVolts}
    />
  );
}

/** The range through which an oscillating node swings each cycle, with its mean. */
function Swing({ node, layout, top }: { node: NodePrediction; layout: ClimbLayout; top: number }) {
  const { y } = layout;
  const x = node.column === 'source' ? layout.source : layout.oscillatingNodes;
  if (node.minVolts === null || node.maxVolts === null) {
    return <circle cx={x} cy={y(node.noLoadVolts)} r={2.6} fill="var(--line)" />;
  }
  const inset = Math.min(4, layout.stagePixels * 0.12);
  const high = y(node.maxVolts) + inset;
  const low = y(node.minVolts) - inset;
  const colour = potentialColour(standing(node) / top);
  const half = Math.min(5, Math.max(3, layout.stagePixels * 0.12));
  return (
    <g>
      <title>
        {node.column === 'source' ? 'Source' : `Oscillating node of stage ${node.stage}`} swings from{' '}
        {sayQuantity(node.minVolts, 'V')} to {sayQuantity(node.maxVolts, 'V')} each cycle
      </title>
      <rect
        className="climb-swing"
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

/** The rungs under load, thick by their ripple, each with its sag from the faint tick where it stands without load. */
function Rungs({ prediction, layout, negative }: { prediction: Prediction; layout: ClimbLayout; negative: boolean }) {
  const { y, perUnit } = layout;
  const rungs = prediction.nodes.filter((node) => node.column === 'smoothing');
  const top = prediction.output.noLoadVolts;
  const say = (volts: number) => {
    const digits = formatQuantity(volts / perUnit, '', 3).digits;
    return `${negative ? '−' : ''}${Math.abs(volts / perUnit) < 1 ? String(Number((volts / perUnit).toPrecision(3))) : digits}`;
  };
  const terminal = rungs[rungs.length - 1];
  const loadVolts = prediction.output.meanVolts ?? standing(terminal);
  const behindResistor = (prediction.output.droopBySeriesResistorVolts ?? 0) > 0;
  const fits = labelsThatFit(
    rungs.map((node, index) => y(index === rungs.length - 1 ? loadVolts : standing(node))),
    14,
  );
  const topY = y(standing(terminal));
  const noLoadY = Math.min(y(terminal.noLoadVolts), topY - 15);
  return (
    <g>
      {rungs.map((node, index) => {
        const height = y(standing(node));
        const colour = potentialColour(node.noLoadVolts / top);
        const ripple = node.maxVolts === null ? 0 : y(node.minVolts!) - y(node.maxVolts);
        const last = index === rungs.length - 1;
        return (
          <g key={node.id}>
            <path d={`M${layout.labels - 7} ${y(node.noLoadVolts)}h20`} stroke="var(--line)" strokeWidth={1} />
            <path
              d={`M${layout.labels + 3} ${y(node.noLoadVolts)}V${height}`}
              stroke="var(--line)"
              strokeDasharray="1 3"
            />
            <g className="climb-rung" style={{ transform: `translateY(${height}px)` }}>
              <path d={`M${layout.smoothingNodes} 0H${layout.smoothingCapacitors}`} stroke="var(--line)" />
              <rect
                x={layout.smoothingNodes - 9}
                y={-ripple / 2}
                width={18}
                height={ripple}
                rx={1.2}
                fill={colour}
                opacity={0.38}
              />
              <rect x={layout.smoothingNodes - 9} y={-1.3} width={18} height={2.6} rx={1.2} fill={colour} />
              <rect x={layout.labels - 10} y={-1.2} width={26} height={2.4} rx={1.2} fill={colour} />
              {fits[index] && !last ? (
                <text x={layout.labels + 22} y={4} className="figures fill-soft text-[11.5px]">
                  {say(standing(node))}
                </text>
              ) : null}
            </g>
          </g>
        );
      })}
      <g className="climb-rung" style={{ transform: `translateY(${y(loadVolts)}px)` }}>
        <title>{behindResistor ? 'At the load, behind the series resistor' : 'At the terminal'}</title>
        <text x={layout.labels + 22} y={4.5} className="figures fill-ink text-[13px] font-semibold">
          {say(loadVolts)}
          {behindResistor && layout.width > 520 ? (
            <tspan className="fill-soft text-[11.5px] font-normal"> load</tspan>
          ) : null}
        </text>
      </g>
      {prediction.output.droopVolts !== null && prediction.output.droopVolts > 0 ? (
        <text x={layout.width - 6} y={noLoadY - 6} textAnchor="end" className="figures fill-soft text-[11.5px]">
          no load {say(terminal.noLoadVolts)}
        </text>
      ) : null}
    </g>
  );
}
