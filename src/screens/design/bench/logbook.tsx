'use client';

import { useDeferredValue, useMemo } from 'react';
import type { Design } from '@/core/design/design-schema';
import type { Meter } from '@/core/drive/meter-sense';
import { predict, WITHOUT_OPTIMUM } from '@/core/predict/predict';
import { EntryForm } from './entry-form';
import { EntryList } from './entry-list';
import type { Readings } from './readings';

/** Everything else that a session records: readings of other kinds, failures, pictures, remarks. */
export function Logbook(props: { designId: string; design: Design; meter: Meter; readings: Readings }) {
  const { design } = props;
  // A long list takes a while to draw; what is above it goes first.
  const listed = useDeferredValue<Readings | null>(props.readings, null);
  const prediction = useMemo(() => predict(design, WITHOUT_OPTIMUM), [design]);
  return (
    <div className="grid gap-x-10 gap-y-3 lg:grid-cols-[22rem_minmax(0,1fr)]">
      <EntryForm {...props} prediction={prediction} />
      {listed ? <EntryList designId={props.designId} readings={listed} /> : null}
    </div>
  );
}
