import type { Tap } from '@/core/bench/proving';
import { Quantity } from '@/ui/quantity';
import { ReadingAt } from './reading-at';
import type { Readings } from './readings';

/** Tap by tap: what the meter shows where nothing is wrong, and what stands there at full drive. */
export function TapsTable({
  taps,
  readings,
  mostVolts,
}: {
  taps: readonly Tap[];
  /** Of the session on screen; null without one. */
  readings: Readings | null;
  /** That the meter is for. */
  mostVolts: number;
}) {
  if (taps.length === 0) return null;
  return (
    <table className="w-full text-left text-[13px]" aria-label="Expected readings">
      <thead className="text-soft">
        <tr className="border-b border-rule align-bottom">
          <th className="py-1 pr-3 font-normal">Tap</th>
          <th className="py-1 pr-3 font-normal">Meter shows, dc</th>
          {readings ? <th className="py-1 pr-3 font-normal">Reading</th> : null}
          <th className="hidden py-1 pr-3 text-right font-normal sm:table-cell">Unloaded, mean</th>
          <th className={`py-1 text-right font-normal ${readings ? 'hidden sm:table-cell' : ''}`}>
            At full drive, no load
          </th>
        </tr>
      </thead>
      <tbody>
        {taps.map(({ node, reading, bareVolts, isOverMeter, fullVolts }) => (
          <tr key={node} data-tap={node} className="border-b border-rule align-baseline">
            <th scope="row" className="py-1 pr-3 font-normal">
              {node}
            </th>
            <td className="py-1 pr-3">
              {reading ? (
                <>
                  <span className="mr-2 text-[14.5px] font-semibold">
                    <Quantity value={reading.value} unit="V" />
                  </span>{' '}
                  <span className="whitespace-nowrap text-soft">
                    <Quantity value={reading.low} unit="V" /> to <Quantity value={reading.high} unit="V" />
                  </span>
                </>
              ) : (
                <span className={isOverMeter ? 'text-over' : 'text-soft'}>
                  {isOverMeter ? 'more than the meter takes' : 'no figure'}
                </span>
              )}
            </td>
            {readings ? (
              <td className="py-1 pr-3">
                {isOverMeter ? null : (
                  <ReadingAt
                    readings={readings}
                    kind="tap"
                    place={node}
                    name={node}
                    expected={reading}
                    mostValue={mostVolts}
                  />
                )}
              </td>
            ) : null}
            <td className="hidden py-1 pr-3 text-right sm:table-cell">
              <Quantity value={bareVolts} unit="V" />
            </td>
            <td className={`py-1 text-right ${readings ? 'hidden sm:table-cell' : ''}`}>
              <Quantity value={fullVolts} unit="V" />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
