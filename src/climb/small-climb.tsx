import type { SmallClimb as Rungs } from '@/core/predict/shelf-row';
import { potentialColour } from './climb-layout';
import { tenth } from './climb-places';

const WIDTH = 46;
const HEIGHT = 40;
const INSET = 3;
/** Where the oscillating column stands, and each rung ends. */
const [OSCILLATING, SMOOTHING] = [9, 37];

/** The Climb at the size of a thumbnail: its rungs under load, where they would stand without, and the target. */
export function SmallClimb({ rungs, highest, lowest, targetVolts }: Rungs) {
  const span = Math.max(highest - lowest, 1e-9);
  const y = (volts: number) => tenth(HEIGHT - INSET - ((volts - lowest) / span) * (HEIGHT - 2 * INSET));
  const top = Math.max(highest, -lowest);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} aria-hidden="true" className="shrink-0">
      <path d={`M4 ${y(0)}H42`} stroke="var(--rule)" strokeWidth={1.2} />
      {rungs.map(({ volts, noLoadVolts, column }, index) => {
        const x = column === 'smoothing' ? SMOOTHING : column === 'antiphase' ? SMOOTHING + 6 : OSCILLATING;
        const before = rungs.slice(0, index).findLast((rung) => rung.column !== column);
        const from = before ? (before.column === 'smoothing' ? SMOOTHING : OSCILLATING) : x;
        return (
          <g key={index}>
            <path
              d={`M${from} ${y(before?.volts ?? 0)}L${x} ${y(volts)}`}
              stroke="var(--line)"
              strokeWidth={0.7}
              opacity={0.7}
            />
            <path d={`M${x - 4} ${y(volts)}h8`} stroke={potentialColour(noLoadVolts, top)} strokeWidth={1.8} />
            {column === 'smoothing' ? (
              <path d={`M${x + 5} ${y(noLoadVolts)}h3`} stroke="var(--line)" strokeWidth={0.8} />
            ) : null}
          </g>
        );
      })}
      {targetVolts === null ? null : (
        <path d={`M2 ${y(targetVolts)}H44`} stroke="var(--copper)" strokeWidth={0.9} strokeDasharray="1.500 2" />
      )}
    </svg>
  );
}
