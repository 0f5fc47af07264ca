import { scaledDrive, driveAt } from '@/core/drive/drive';
import type { Prediction } from '@/core/predict/prediction';
import { formatQuantity } from '@/core/quantity/format-quantity';

const WIDTH = 250;
const HEIGHT = 74;
const LEFT = 2;
const RIGHT = 62;
const PERIODS = 2;
const POINTS = 480;
/** Peaks nearer to their full height than this are drawn once. */
const WHOLE = 0.995;

/** The voltage at the ladder's input over two periods, without load and, where the drive gives way, at this load. */
export function DriveShape({ prediction: { drive, source } }: { prediction: Prediction }) {
  const top = Math.max(drive.positivePeakVolts, 1e-12);
  const bottom = Math.max(drive.negativePeakVolts, 1e-12);
  const y = (volts: number) => 7 + ((top - volts) / (top + bottom)) * (HEIGHT - 14);
  const line = (of: typeof drive) =>
    Array.from({ length: POINTS + 1 }, (_, point) => {
      const phase = (point / POINTS) * PERIODS;
      const x = LEFT + (point / POINTS) * (WIDTH - LEFT - RIGHT);
      return `${point === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y(driveAt(of, phase % 1)).toFixed(1)}`;
    }).join('');
  const fallen = source.driveScale < WHOLE;
  const label = (volts: number) => formatQuantity(volts, 'V').replace(/^-/, '−');
  return (
    <figure className="mt-2">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full"
        role="img"
        aria-label={`Waveform at the ladder’s input: peaks of ${label(drive.positivePeakVolts)} and −${label(drive.negativePeakVolts)}${fallen ? `, at this load ${formatQuantity(source.driveScale, '%', 3)} of what gives way` : ''}`}
      >
        <line x1={LEFT} x2={WIDTH - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--rule)" />
        <path
          d={line(drive)}
          fill="none"
          stroke={fallen ? 'var(--line)' : 'var(--copper)'}
          strokeWidth={fallen ? 1 : 1.6}
          strokeDasharray={fallen ? '2 2.500' : undefined}
        />
        {fallen ? (
          <path d={line(scaledDrive(drive, source.driveScale))} fill="none" stroke="var(--copper)" strokeWidth="1.6" />
        ) : null}
        <g className="figures" fontSize="10.5" fill="var(--soft)">
          <text x={WIDTH - RIGHT + 6} y={11}>
            {label(drive.positivePeakVolts)}
          </text>
          {y(0) < HEIGHT - 20 && y(0) > 20 ? (
            <text x={WIDTH - RIGHT + 6} y={y(0) + 3.5}>
              0
            </text>
          ) : null}
          <text x={WIDTH - RIGHT + 6} y={HEIGHT - 4}>
            −{label(drive.negativePeakVolts)}
          </text>
        </g>
      </svg>
      <figcaption className="text-xs text-soft">
        At the ladder’s input, two periods{fallen ? ': dashed without load, drawn out at this load' : ''}.
      </figcaption>
    </figure>
  );
}
