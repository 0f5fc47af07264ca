'use client';

import Ruler from 'lucide-react/icons/ruler';
import { useElectrode } from '@/client/air-stores';
import { electrodeFarads, ELECTRODE_LAWS, ELECTRODE_SHAPES, type Electrode } from '@/core/load/air/electrode';
import type { Unit } from '@/core/quantity/units';
import { PickField } from '@/ui/pick-field';
import { PopoverPanel } from '@/ui/popover-panel';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { OutsideLaw } from '../air-fields';

const FIELDS: Readonly<Partial<Record<keyof Electrode, { label: string; unit: Unit }>>> = {
  sphereMetres: { label: 'Diameter', unit: 'm' },
  wireMetres: { label: 'Diameter of the wire', unit: 'm' },
  areaSquareMetres: { label: 'Area of one side', unit: 'm²' },
  lengthMetres: { label: 'Length', unit: 'm' },
  distanceMetres: { label: 'From it to ground', unit: 'm' },
  outerMetres: { label: 'Tube, inside', unit: 'm' },
};

/** The capacitance of what hangs on the output, from its shape. */
export function ElectrodeSense({ onFarads }: { onFarads: (farads: number) => void }) {
  return (
    <PopoverPanel icon={Ruler} words="Capacitance from its shape…" label="What hangs on the output">
      <ElectrodePanel onFarads={onFarads} />
    </PopoverPanel>
  );
}

function ElectrodePanel({ onFarads }: { onFarads: (farads: number) => void }) {
  const { settings, change } = useElectrode();
  const { entries, source } = ELECTRODE_LAWS[settings.shape];
  const farads = electrodeFarads(settings);
  return (
    <>
      <h2 className="mb-1 font-semibold">What hangs on the output</h2>
      <PickField
        label="Shape"
        value={settings.shape}
        options={ELECTRODE_SHAPES.map((value) => ({ value, name: ELECTRODE_LAWS[value].name }))}
        onValue={(shape) => change({ shape })}
      />
      {entries.map((entry) => {
        const { label, unit } = FIELDS[entry]!;
        return (
          <div key={entry}>
            <QuantityField
              label={label}
              unit={unit}
              value={settings[entry] as number}
              onValue={(value) => change({ [entry]: value! })}
            />
            {typeof farads !== 'number' && farads.at === entry ? <OutsideLaw reason={farads.reason} /> : null}
          </div>
        );
      })}
      <div className="mt-2 border-t border-rule pt-2 text-[13.5px]">
        {typeof farads === 'number' ? (
          <>
            <p data-electrode="farads">
              <Quantity value={farads} unit="F" />
              <span className="text-soft"> · {source}</span>
            </p>
            <button
              type="button"
              className="mt-1 font-medium text-copper hover:underline"
              onClick={() => onFarads(Number(farads.toPrecision(3)))}
            >
              Let that hang on the output
            </button>
          </>
        ) : (
          <p className="text-soft">No figure for this shape.</p>
        )}
      </div>
    </>
  );
}
