import type { Side } from '@/core/topology/network';
import type { Prediction } from '@/core/predict/prediction';
import { labelsThatFit, potentialColour, scaleFigure, type ClimbLayout } from './climb-layout';
import { standing, tenth } from './climb-places';

/** Width of a picture from which the word beside the voltage of the load is not cut off. */
const ROOM_FOR_LOAD = 600;

/** The rungs under load, thick by their ripple, each with its sag from the tick where it stands at no load. */
export function Rungs({
  prediction,
  layout,
  negative,
}: {
  prediction: Prediction;
  layout: ClimbLayout;
  negative: boolean;
}) {
  const { terminals, output } = prediction;
  const twoSided = terminals.return !== 'ground';
  return (
    <g>
      <SideRungs prediction={prediction} layout={layout} negative={negative} side={1} />
      {twoSided ? <SideRungs prediction={prediction} layout={layout} negative={negative} side={-1} /> : null}
      {twoSided && output.meanVolts !== null ? (
        <text
          x={layout.width - 6}
          y={layout.y(0) - 6}
          textAnchor="end"
          className="figures climb-label fill-ink text-[12.5px] font-semibold"
        >
          across {scaleFigure(output.meanVolts, layout, false)}
        </text>
      ) : null}
    </g>
  );
}

function SideRungs({
  prediction,
  layout,
  negative,
  side,
}: {
  prediction: Prediction;
  layout: ClimbLayout;
  negative: boolean;
  side: Side;
}) {
  const { y } = layout;
  const { terminals, output } = prediction;
  const oneSided = terminals.return === 'ground';
  const terminalId = side === 1 ? terminals.output : terminals.return;
  // The output of a clamp is no smoothing node; it counts as the one rung there is.
  const rungs = prediction.nodes.filter(
    (node) => (node.column === 'smoothing' && node.side === side) || node.id === terminalId,
  );
  const say = (volts: number) => scaleFigure(volts, layout, negative);
  const terminal = rungs[rungs.length - 1];
  const loadVolts = oneSided ? (output.meanVolts ?? standing(terminal)) : standing(terminal);
  const behindResistor = oneSided && (output.droopBySeriesResistorVolts ?? 0) + (output.droopBySmoothingVolts ?? 0) > 0;
  const fits = labelsThatFit(
    rungs.map((node, index) => y(index === rungs.length - 1 ? loadVolts : standing(node))),
    14,
  );
  const topY = y(standing(terminal));
  const noLoadY =
    side === 1 ? Math.min(y(terminal.noLoadVolts), topY - 15) : Math.max(y(terminal.noLoadVolts), topY + 15);
  const ticks = rungs.map((node) => `M${tenth(layout.labels - 7)} ${tenth(y(node.noLoadVolts))}h20`).join('');
  const sags = rungs
    .map((node) => `M${tenth(layout.labels + 3)} ${tenth(y(node.noLoadVolts))}V${tenth(y(standing(node)))}`)
    .join('');
  return (
    <g>
      <path d={ticks} stroke="var(--line)" />
      <path d={sags} stroke="var(--line)" strokeDasharray="1 3" />
      {rungs.map((node, index) => {
        const colour = potentialColour(node.noLoadVolts, layout.topVolts);
        const smooth = node.column === 'smoothing';
        const ripple = node.maxVolts === null ? 0 : tenth(y(node.minVolts!) - y(node.maxVolts));
        const last = index === rungs.length - 1;
        const { smoothing: x } = layout.nodesOf;
        return (
          <g key={node.id} className="climb-rung" style={{ transform: `translateY(${tenth(y(standing(node)))}px)` }}>
            {smooth ? (
              <>
                <path d={`M${tenth(x)} 0H${tenth(layout.capacitorsOf.smoothing)}`} stroke="var(--line)" />
                <rect x={x - 9} y={-ripple / 2} width={18} height={ripple} rx={1.2} fill={colour} opacity={0.38} />
              </>
            ) : null}
            <path
              d={`${smooth ? `M${tenth(x - 9)} 0h18` : ''}M${tenth(layout.labels - 10)} 0h26`}
              stroke={colour}
              strokeWidth={2.5}
            />
            {fits[index] && !last ? (
              <text x={layout.labels + 22} y={4} className="figures climb-label fill-soft text-[11.5px]">
                {say(standing(node))}
              </text>
            ) : null}
          </g>
        );
      })}
      <g className="climb-rung" style={{ transform: `translateY(${y(loadVolts)}px)` }}>
        <title>{behindResistor ? 'At the load, behind the series resistor' : 'At the terminal'}</title>
        <text x={layout.labels + 22} y={4.5} className="figures climb-label fill-ink text-[13px] font-semibold">
          {say(loadVolts)}
          {behindResistor && layout.width > ROOM_FOR_LOAD ? (
            <tspan className="fill-soft text-[11.5px] font-normal"> load</tspan>
          ) : null}
        </text>
      </g>
      {output.droopVolts !== null && output.droopVolts > 0 && (side === 1 || layout.width > 520) ? (
        <text
          x={layout.width - 6}
          y={noLoadY + (side === 1 ? -6 : 14)}
          textAnchor="end"
          className="figures climb-label fill-soft text-[11.5px]"
        >
          no load {say(terminal.noLoadVolts)}
        </text>
      ) : null}
    </g>
  );
}

/** The rungs as they stood before a change: outlines only, the terminal's with its figure. */
export function GhostRungs({
  before,
  layout,
  negative,
}: {
  before: Prediction;
  layout: ClimbLayout;
  negative: boolean;
}) {
  const { y, nodesOf, labels } = layout;
  const terminal = before.nodes.find(({ id }) => id === before.terminals.output)!;
  const rungs = before.nodes.filter(({ column, id }) => column === 'smoothing' || id === terminal.id);
  return (
    <g data-climb-before={before.nodes.length} fill="none" stroke="var(--soft)" strokeWidth={1} strokeDasharray="3 2">
      {rungs.map((node) => {
        const height = tenth(y(standing(node)));
        return (
          <path
            key={node.id}
            d={`M${tenth(nodesOf.smoothing) - 11} ${height - 2.5}h22v5h-22ZM${tenth(labels) - 12} ${height - 2.5}h30v5h-30Z`}
          />
        );
      })}
      <text
        x={labels - 16}
        y={y(standing(terminal)) + 4}
        textAnchor="end"
        stroke="none"
        className="figures climb-label fill-soft text-[11.5px]"
      >
        before {scaleFigure(standing(terminal), layout, negative)}
      </text>
    </g>
  );
}
