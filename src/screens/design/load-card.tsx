'use client';

import type { Load } from '@/core/design/design-schema';
import { loadOfKind } from '@/core/output/load-of-kind';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { Editing } from './editing';

/** What a load draws when nothing yet says how much: a few probes' worth. */
const USUAL_AMPS = 10e-6;

export const LOAD_NAMES: Record<Load['kind'], string> = {
  open: 'open',
  current: 'steady current',
  resistance: 'resistance',
  meter: 'meter',
  corona: 'corona',
  gap: 'spark gap',
};

const capitalised = (words: string) => words[0].toUpperCase() + words.slice(1);

export function LoadLine({ prediction }: Editing) {
  const { amps, watts } = prediction.output;
  if (amps === null) return <>past the closed form</>;
  return amps === 0 ? (
    <>nothing drawn</>
  ) : (
    <>
      <Quantity value={amps} unit="A" /> · <Quantity value={watts} unit="W" />
    </>
  );
}

export function LoadFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { load } = design;
  /** A load of the new kind that draws about what the old one did. */
  const switchTo = (kind: Load['kind']) => {
    if (kind === load.kind) return;
    const { amps, meanVolts, noLoadVolts } = prediction.output;
    const drawn = { amps: amps || design.target?.amps || USUAL_AMPS, volts: meanVolts || noLoadVolts || 1 };
    edit('$.load', loadOfKind(kind, drawn));
  };
  return (
    <>
      <PickField
        label="Kind of load"
        value={load.kind}
        options={(Object.keys(LOAD_NAMES) as Load['kind'][]).map((value) => ({
          value,
          name: capitalised(LOAD_NAMES[value]),
        }))}
        onValue={switchTo}
      />
      {load.kind === 'current' ? (
        <QuantityField
          id="load-amps"
          label="Load current"
          unit="A"
          value={load.amps}
          onValue={(value) => edit('$.load.amps', value)}
        />
      ) : null}
      {load.kind === 'resistance' ? (
        <QuantityField
          id="load-ohms"
          label="Load resistance"
          unit="Ω"
          value={load.ohms}
          onValue={(value) => edit('$.load.ohms', value)}
        />
      ) : null}
      {load.kind === 'meter' ? (
        <QuantityField
          label="Probe resistance"
          unit="Ω"
          value={load.ohms}
          onValue={(value) => edit('$.load.ohms', value)}
          hint="Many meters draw through 10M; a high-voltage probe through 1G or so."
        />
      ) : null}
      {load.kind === 'corona' ? (
        <>
          <QuantityField
            label="Corona starts at"
            unit="V"
            value={load.onsetVolts}
            onValue={(value) => edit('$.load.onsetVolts', value)}
          />
          <QuantityField
            label="Coefficient, A per V²"
            unit=""
            value={load.ampsPerSquareVolt}
            onValue={(value) => edit('$.load.ampsPerSquareVolt', value)}
            hint="Draws coefficient × V × (V − start)."
          />
        </>
      ) : null}
      {load.kind === 'gap' ? (
        <>
          <QuantityField
            label="Gap strikes at"
            unit="V"
            value={load.strikeVolts}
            onValue={(value) => edit('$.load.strikeVolts', value)}
          />
          <QuantityField
            label="Arc resistance"
            unit="Ω"
            value={load.arcOhms}
            onValue={(value) => edit('$.load.arcOhms', value)}
          />
          <QuantityField
            label="Arc goes out under"
            unit="A"
            value={load.quenchAmps}
            onValue={(value) => edit('$.load.quenchAmps', value)}
          />
        </>
      ) : null}
    </>
  );
}
