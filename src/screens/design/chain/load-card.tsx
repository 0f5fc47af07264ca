'use client';

import { LOAD_KIND_IDS, LOAD_KINDS, loadOfKind, type LoadKindId } from '@/core/load/load-kinds';
import { DescribedField } from '@/ui/described-field';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import type { Editing } from './editing';

/** Current of a load when nothing yet says how much: a few probes' worth. */
const USUAL_AMPS = 10e-6;

const capitalised = (words: string) => words[0].toUpperCase() + words.slice(1);

export function LoadLine({ prediction }: Editing) {
  const { alternating } = prediction.output;
  const { amps, watts } = alternating ? { amps: alternating.rmsAmps, watts: alternating.watts } : prediction.output;
  if (amps === null) return <>{alternating ? 'by the time domain' : 'past the closed form'}</>;
  return amps === 0 ? (
    <>no load current</>
  ) : (
    <>
      <Quantity value={amps} unit="A" />
      {alternating ? ' RMS' : ''} · <Quantity value={watts} unit="W" />
    </>
  );
}

export function LoadFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { load } = design;
  /** A load of the new kind that draws about what the old one did. */
  const switchTo = (kind: LoadKindId) => {
    if (kind === load.kind) return;
    const { amps, meanVolts, noLoadVolts, alternating } = prediction.output;
    const present = {
      amps: (alternating ? alternating.rmsAmps : amps) || design.target?.amps || USUAL_AMPS,
      volts: (alternating ? (alternating.rmsVolts ?? alternating.noLoadPeakVolts) : meanVolts) || noLoadVolts || 1,
    };
    edit('$.load', loadOfKind(kind, present));
  };
  return (
    <>
      <PickField
        label="Kind of load"
        value={load.kind}
        options={LOAD_KIND_IDS.map((value) => ({ value, name: capitalised(LOAD_KINDS[value].name) }))}
        onValue={switchTo}
      />
      {LOAD_KINDS[load.kind].fields.map((field) => (
        <DescribedField
          key={field.name}
          field={field}
          value={(load as Record<string, unknown>)[field.name]}
          onEdit={(value) => edit(`$.load.${field.name}`, value)}
        />
      ))}
    </>
  );
}
