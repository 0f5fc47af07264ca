import type { StepUp } from '@/core/bench/steps-up';
import { Quantity } from '@/ui/quantity';
import { ReadingAt } from './reading-at';
import type { Readings } from './readings';

/** What to expect at each fraction of the drive, the load connected, and when to switch off. */
export function StepsUp({
  steps,
  readings,
  mostVolts,
}: {
  steps: readonly StepUp[];
  /** Of the session on screen; null without one. */
  readings: Readings | null;
  /** That the meter is for. */
  mostVolts: number;
}) {
  return (
    <>
      <p className="mb-1 max-w-[75ch] text-[13.5px]">
        Load on, insulation as it will be, hands off, the way to switch off within reach. At each step: look in the dark
        for glow, listen for hiss and ticks, smell for ozone. Then off, made dead and measured, and only then feel for
        what has become warm. Go no higher where the output is under its band, or the supply draws more than its limit
        here (common practice, no source).
      </p>
      <table className="w-full text-left text-[13px]" aria-label="Steps up">
        <thead className="text-soft">
          <tr className="border-b border-rule align-bottom">
            <th className="py-1 pr-3 font-normal">Drive</th>
            <th className="py-1 pr-3 font-normal">Output at the load, mean</th>
            <th className="py-1 pr-3 font-normal">Meter shows</th>
            <th className="py-1 pr-3 font-normal">Supply, mean</th>
            {readings ? <th className="py-1 font-normal">Reading</th> : null}
          </tr>
        </thead>
        <tbody>
          {steps.map((step) => (
            <OneStep key={step.fraction} step={step} readings={readings} mostVolts={mostVolts} />
          ))}
        </tbody>
      </table>
    </>
  );
}

const none = <span className="text-soft">no figure</span>;

function OneStep({ step, readings, mostVolts }: { step: StepUp; readings: Readings | null; mostVolts: number }) {
  const { fraction, outputVolts, supplyAmps, supplyWatts, ladderWatts, stopAmps, shown, refused, stops } = step;
  const words = `${Math.round(100 * fraction)} %`;
  return (
    <tr data-step={fraction} className="border-b border-rule align-baseline">
      <th scope="row" className="py-1 pr-3 font-normal">
        <Quantity value={fraction} unit="%" />
      </th>
      <td className="py-1 pr-3">
        {outputVolts === null ? none : <Quantity value={outputVolts} unit="V" />}
        {stops.map((message) => (
          <p key={message} className="text-over">
            {message}
          </p>
        ))}
      </td>
      <td className="py-1 pr-3">
        {refused ? (
          <span className="text-over">{refused}</span>
        ) : shown === null ? (
          none
        ) : (
          <>
            <Quantity value={shown.value} unit="V" />
            <span className="block text-soft">
              <Quantity value={shown.low} unit="V" /> to <Quantity value={shown.high} unit="V" />
            </span>
          </>
        )}
      </td>
      <td className="py-1 pr-3">
        {supplyAmps === null ? null : (
          <span className="block">
            <Quantity value={supplyAmps} unit="A" />
          </span>
        )}
        {supplyWatts !== null ? (
          <Quantity value={supplyWatts} unit="W" />
        ) : ladderWatts !== null ? (
          <>
            <Quantity value={ladderWatts} unit="W" /> <span className="text-soft">into the ladder alone</span>
          </>
        ) : (
          none
        )}
        {stopAmps === null ? null : (
          <span className="block text-soft">
            off above <Quantity value={stopAmps} unit="A" digits={2} />
          </span>
        )}
      </td>
      {readings ? (
        <td className="grid gap-1 py-1">
          {refused ? null : (
            <ReadingAt
              readings={readings}
              kind="output"
              place={String(fraction)}
              name={`the output at ${words}`}
              expected={shown}
              mostValue={mostVolts}
            />
          )}
          {supplyAmps === null ? null : (
            <ReadingAt
              readings={readings}
              kind="supply-current"
              place={String(fraction)}
              name={`the supply at ${words}`}
              expected={null}
              mostValue={null}
            />
          )}
        </td>
      ) : null}
    </tr>
  );
}
