'use client';

import { useMemo, useState } from 'react';
import type { Entry } from '@/core/bench/entries';
import { inPhase } from '@/core/bench/measured-curves';
import { onLowSource } from '@/core/bench/low-source';
import type { Session } from '@/core/bench/session';
import type { Design } from '@/core/design/design-schema';
import { predict, WITHOUT_OPTIMUM } from '@/core/predict/predict';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { Traces } from '@/core/transient/traces';
import { PickField } from '@/ui/pick-field';
import { useLatest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';
import { OverlayChart } from './read-charts';

const DRIVES = [
  { value: 'test', name: 'this session’s source' },
  { value: 'full', name: 'full drive, loaded' },
] as const;
type Drive = (typeof DRIVES)[number]['value'];

/** The last scope record of a session over what the time domain has there. */
export function ScopeOverlay({
  design,
  source,
  records,
  client,
}: {
  design: Design;
  source: Session['source'];
  records: readonly Extract<Entry, { kind: 'scope' }>[];
  client: TransientClient;
}) {
  const [drive, setDrive] = useState<Drive>('test');
  const tested = useMemo(() => (drive === 'full' ? design : onLowSource(design, source)), [design, source, drive]);
  const job = useMemo(
    () => (tested ? { run: () => client.overlay(tested), cancel: () => client.cancel('overlay') } : null),
    [tested, client],
  );
  const [latest] = useLatest(job);
  const record = records.at(-1)!;
  const found = useMemo(() => {
    if (latest.kind !== 'ready' || !tested) return null;
    const traces = new Traces(predict(tested, WITHOUT_OPTIMUM), latest.result.waveforms);
    const trace = traces.of(record.at);
    return (
      trace && {
        hertz: 1 / traces.times[traces.times.length - 1],
        overlay: inPhase(record.samples, traces.times, trace.values),
      }
    );
  }, [latest, tested, record]);
  return (
    <div className="max-w-3xl">
      <div className="no-print max-w-md">
        <PickField label="Computed on" value={drive} options={DRIVES} onValue={setDrive} />
      </div>
      {latest.kind === 'failed' || job === null ? (
        <p className="text-[13.5px] text-soft">The time domain has no steady state to compare with.</p>
      ) : latest.kind !== 'ready' ? (
        <p className="text-[13.5px] text-soft" role="status">
          Computing the waveform…
        </p>
      ) : found ? (
        <>
          <p className="text-[13.5px]" data-bench="overlay">
            Recorded at {record.at} with {formatQuantity(record.frequencyHertz, 'Hz')}, computed with{' '}
            {formatQuantity(found.hertz, 'Hz')}; the record is turned in phase to where the two go together most.
          </p>
          <OverlayChart designName={design.name} overlay={found.overlay} at={record.at} />
        </>
      ) : (
        <p className="text-[13.5px] text-soft">This revision has no {record.at}.</p>
      )}
    </div>
  );
}
