import { formatQuantity } from '@/core/quantity/format-quantity';
import type { SecondaryLayers } from '@/core/winding/secondary-plan';
import { potentialColour } from '@/climb/climb-layout';

const WIDTH = 560;
const HEIGHT = 92;
const LEFT = 4;
const MOST_DRAWN = 24;

/** The winding cut through: pots side by side, layers on each other, coloured along the ramp of potential. */
export function PotsDrawing({
  layers: { layers },
  pots,
  peakVolts,
  turning,
}: {
  layers: SecondaryLayers;
  pots: number;
  peakVolts: number;
  turning: 'back-and-forth' | 'same-way';
}) {
  const drawnPots = Math.min(pots, MOST_DRAWN);
  const drawnLayers = Math.min(layers, MOST_DRAWN);
  const slot = (WIDTH - 2 * LEFT) / drawnPots;
  const wall = drawnPots > 1 ? Math.min(10, slot * 0.2) : 0;
  const pitch = (HEIGHT - 22) / drawnLayers;
  const thick = pitch * 0.62;
  const bars = Array.from({ length: drawnPots }, (_, pot) =>
    Array.from({ length: drawnLayers }, (_, layer) => {
      const low = ((pot + layer / drawnLayers) / drawnPots) * peakVolts;
      const high = ((pot + (layer + 1) / drawnLayers) / drawnPots) * peakVolts;
      const forward = turning === 'same-way' || layer % 2 === 0;
      return { pot, layer, from: forward ? low : high, to: forward ? high : low };
    }),
  ).flat();
  const words = `${pots} ${pots === 1 ? 'pot' : 'pots'} of ${layers} ${layers === 1 ? 'layer' : 'layers'}, potential rising from the inside of the first to the outside of the last`;
  return (
    <figure className="mb-1">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label={words}>
        <defs>
          {bars.map(({ pot, layer, from, to }) => (
            <linearGradient key={`${pot} ${layer}`} id={`layer-${pot}-${layer}`}>
              <stop offset="0" stopColor={potentialColour(from, peakVolts)} />
              <stop offset="1" stopColor={potentialColour(to, peakVolts)} />
            </linearGradient>
          ))}
        </defs>
        <line x1={LEFT} x2={WIDTH - LEFT} y1={HEIGHT - 16} y2={HEIGHT - 16} stroke="var(--line)" strokeWidth="2.5" />
        {bars.map(({ pot, layer }) => (
          <rect
            key={`${pot} ${layer}`}
            x={LEFT + pot * slot + wall / 2}
            width={slot - wall}
            y={HEIGHT - 19 - (layer + 1) * pitch + (pitch - thick)}
            height={thick}
            rx={Math.min(thick / 2, 3)}
            fill={`url(#layer-${pot}-${layer})`}
          />
        ))}
        <text x={LEFT} y={HEIGHT - 3} fontSize="11" fill="var(--soft)">
          inside, ground end
        </text>
        <text x={WIDTH - LEFT} y={HEIGHT - 3} fontSize="11" textAnchor="end" fill="var(--soft)">
          outside, {formatQuantity(peakVolts, 'V')} peak
        </text>
      </svg>
      {pots > MOST_DRAWN || layers > MOST_DRAWN ? (
        <figcaption className="text-xs text-soft">Drawn with fewer: {words}.</figcaption>
      ) : null}
    </figure>
  );
}
