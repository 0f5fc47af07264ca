import type { Prediction } from '@/core/predict/prediction';
import { potentialColour, type ClimbLayout } from './climb-layout';
import { nodesById, standing } from './climb-places';
import { farEndPlaces } from './far-end-places';

/** What stands beyond the terminal: along the way at the height that is left, and across to the return. */
export function ClimbFarEnd({ prediction, layout }: { prediction: Prediction; layout: ClimbLayout }) {
  const nodes = nodesById(prediction);
  const back = nodes.get(prediction.terminals.return);
  const terminalVolts = standing(nodes.get(prediction.terminals.output)!);
  const drawn = farEndPlaces(prediction.farEnd, layout, terminalVolts, back ? standing(back) : 0);
  if (!drawn) return null;
  const { places, stretches, wires } = drawn;
  return (
    <g data-climb-far-end={places.length}>
      <path d={wires} stroke="var(--line)" fill="none" />
      {stretches.map(({ id, from, to, y, underVolts }, index) => (
        <path
          key={id}
          d={`M${from} ${y}H${index === stretches.length - 1 ? layout.labels - 14 : to}`}
          stroke={potentialColour(terminalVolts - underVolts, layout.topVolts)}
          strokeWidth={1.6}
        />
      ))}
      {places.map(({ part, x, y, across }, index) => (
        <g key={index} transform={`translate(${x} ${y})${across ? ' rotate(90)' : ''}`} data-far-end={part.kind}>
          <title>{part.label}</title>
          {/* Room for a pointer to find it. */}
          <rect x={-10} y={-7} width={20} height={14} fill="transparent" />
          <Symbol kind={part.kind} />
        </g>
      ))}
    </g>
  );
}

/** Along a line from left to right: a body, turns, two plates, or a body that is filled for the load. */
function Symbol({ kind }: { kind: Prediction['farEnd']['parts'][number]['kind'] }) {
  switch (kind) {
    case 'capacitor':
      return (
        <>
          <rect x={-2.5} y={-7} width={5} height={14} fill="var(--paper)" />
          <path d="M-2.5 -6v12M2.5 -6v12" stroke="var(--soft)" strokeWidth={1.5} />
        </>
      );
    case 'choke':
      return (
        <>
          <rect x={-7.5} y={-4} width={15} height={8} fill="var(--paper)" />
          <path
            d="M-7.5 0a2.5 2.5 0 0 1 5 0a2.5 2.5 0 0 1 5 0a2.5 2.5 0 0 1 5 0"
            stroke="var(--soft)"
            strokeWidth={1.4}
            fill="none"
          />
        </>
      );
    case 'resistor':
      return <rect x={-7.5} y={-3} width={15} height={6} fill="var(--paper)" stroke="var(--soft)" strokeWidth={1.2} />;
    case 'load':
      return <rect x={-10} y={-4.5} width={20} height={9} rx={4.5} fill="var(--soft)" />;
  }
}
