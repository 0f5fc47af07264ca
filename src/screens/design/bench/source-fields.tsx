'use client';

import { useBenchSettings } from '@/client/bench-store';
import { LOW_SOURCE_NAMES, lowSourceSchema, type LowSource, type LowSourceKind } from '@/core/bench/low-source';
import { PickField } from '@/ui/pick-field';
import { QuantityField } from '@/ui/quantity-field';

const KINDS = Object.entries(LOW_SOURCE_NAMES).map(([value, name]) => ({ value: value as LowSourceKind, name }));

/** What the ladder is tried on. */
export function SourceFields() {
  const {
    settings: { source },
    change,
  } = useBenchSettings();
  const set = (changes: Partial<LowSource>) => change({ source: { ...source, ...changes } as LowSource });
  return (
    <>
      <PickField
        label="Kind"
        value={source.kind}
        options={KINDS}
        onValue={(kind) => change({ source: lowSourceSchema.parse({ kind }) })}
      />
      {source.kind === 'winding' ? (
        <>
          <QuantityField
            label="Its voltage, RMS"
            unit="V"
            value={source.rmsVolts}
            onValue={(value) => set({ rmsVolts: value! })}
          />
          <QuantityField label="Frequency" unit="Hz" value={source.hertz} onValue={(value) => set({ hertz: value! })} />
          <QuantityField
            label="Resistance, with what is in series"
            unit="Ω"
            value={source.ohms}
            onValue={(value) => set({ ohms: value! })}
          />
        </>
      ) : (
        <QuantityField
          label="Of the full supply"
          unit="%"
          value={source.fraction}
          onValue={(value) => set({ fraction: value! })}
          hint="By a bench supply, a variable transformer or fewer cells."
        />
      )}
    </>
  );
}
