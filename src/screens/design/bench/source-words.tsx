import { LOW_SOURCE_NAMES } from '@/core/bench/low-source';
import type { Session } from '@/core/bench/session';
import { Quantity } from '@/ui/quantity';

/** On what a session was taken, and of which revision. */
export function SourceWords({
  session: { source, meter, revision, note },
  revision: present,
}: {
  session: Session;
  revision: number;
}) {
  return (
    <p className="mt-3 max-w-[75ch] text-[13.5px]" data-bench="session">
      {LOW_SOURCE_NAMES[source.kind]}:{' '}
      {source.kind === 'winding' ? (
        <>
          <Quantity value={source.rmsVolts} unit="V" digits={4} /> RMS, <Quantity value={source.hertz} unit="Hz" />,{' '}
          <Quantity value={source.ohms} unit="Ω" />
        </>
      ) : (
        <>
          <Quantity value={source.fraction} unit="%" /> of the full supply
        </>
      )}
      . Meter: <Quantity value={meter.inputOhms} unit="Ω" />, accuracy ±<Quantity value={meter.accuracy} unit="%" />
      {meter.probeRatio === 1 ? '' : `, through a probe of ${meter.probeRatio} to 1`}. Revision {revision}
      {revision === present ? '' : `, compared with what that was; the one on screen is ${present}`}. {note}
    </p>
  );
}
