'use client';

import Sparkles from 'lucide-react/icons/sparkles';
import type { ReactNode } from 'react';
import { useAir, useCoronaGeometry } from '@/client/air-stores';
import { CORONA_SHAPES, coronaOf, type CoronaGeometry, type CoronaShape } from '@/core/load/air/corona-geometry';
import { rough } from '@/core/load/load-kind';
import { loadAmpsAt, type Load } from '@/core/load/load-kinds';
import { formatQuantity } from '@/core/quantity/format-quantity';
import type { OutputPrediction } from '@/core/predict/prediction';
import type { Unit } from '@/core/quantity/units';
import { PickField } from '@/ui/pick-field';
import { PopoverPanel } from '@/ui/popover-panel';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { AirFields, OutsideLaw } from '../air-fields';

const SHAPE_NAMES: Record<CoronaShape, string> = {
  tube: 'A wire in a tube',
  plates: 'Wires between two plates',
  point: 'Points over a plate, one or a brush',
};

type Entry = { name: Exclude<keyof CoronaGeometry, 'shape' | 'surface'>; label: string; unit?: Unit };

const WIRE: Entry = { name: 'wireMetres', label: 'Wire, diameter' };
const LENGTH: Entry = { name: 'lengthMetres', label: 'Length of all wire' };
const ENTRIES: Record<CoronaShape, readonly Entry[]> = {
  tube: [WIRE, { name: 'tubeMetres', label: 'Tube, inner diameter' }, LENGTH],
  plates: [
    WIRE,
    { name: 'distanceMetres', label: 'Wire to plate' },
    { name: 'pitchMetres', label: 'Wire to next wire' },
    LENGTH,
  ],
  point: [
    { name: 'tipMetres', label: 'Tip, radius' },
    { name: 'distanceMetres', label: 'Point to plate' },
    { name: 'points', label: 'Points', unit: '' },
    { name: 'betweenMetres', label: 'Point to next point' },
  ],
};

/** Where a corona begins and what it draws, from the shape of what glows. */
export function CoronaSense(props: { output: OutputPrediction; onLoad: (load: Load) => void }) {
  return (
    <PopoverPanel icon={Sparkles} words="Corona from its shape…" label="Corona">
      <CoronaPanel {...props} />
    </PopoverPanel>
  );
}

function CoronaPanel({ output, onLoad }: { output: OutputPrediction; onLoad: (load: Load) => void }) {
  const { settings: geometry, change } = useCoronaGeometry();
  const { settings: air } = useAir();
  const law = coronaOf(geometry, air, output.polarity);
  const faultAt = (name: keyof CoronaGeometry): ReactNode =>
    'at' in law && law.at === name ? <OutsideLaw reason={law.reason} /> : null;
  return (
    <>
      <h2 className="mb-1 font-semibold">Corona from its shape</h2>
      <PickField
        label="Shape"
        value={geometry.shape}
        options={CORONA_SHAPES.map((value) => ({ value, name: SHAPE_NAMES[value] }))}
        onValue={(shape) => change({ shape })}
      />
      {ENTRIES[geometry.shape].map(({ name, label, unit = 'm' }) => (
        <div key={name}>
          <QuantityField
            label={label}
            unit={unit}
            value={geometry[name]}
            onValue={(value) => change({ [name]: value! })}
          />
          {faultAt(name)}
        </div>
      ))}
      <QuantityField
        label="Roughness"
        unit=""
        value={geometry.surface}
        onValue={(value) => change({ surface: value! })}
        hint="1 for polished, 0.8 for usual wire, 0.6 for strands or dust."
      />
      <AirFields />
      <div className="mt-2 border-t border-rule pt-2">
        {'at' in law ? (
          <p className="text-[13.5px] text-soft">No figure for this shape.</p>
        ) : (
          <>
            <Figure name="Begins at, peak" id="onset" value={law.onsetVolts} unit="V" within={law.onsetWithin} />
            <Figure
              name="Coefficient"
              id="coefficient"
              value={law.ampsPerSquareVolt}
              unit="A/V²"
              within={law.currentWithin}
            />
            <Draws law={law} meanVolts={output.meanVolts} />
            <button
              type="button"
              className="font-medium text-copper hover:underline"
              onClick={() =>
                onLoad({
                  kind: 'corona',
                  onsetVolts: rough(law.onsetVolts),
                  ampsPerSquareVolt: rough(law.ampsPerSquareVolt),
                })
              }
            >
              Let the load draw so
            </button>
          </>
        )}
      </div>
      <p className="mt-2 text-xs text-soft">
        {geometry.shape === 'point'
          ? 'The most that ions of one sign carry; points that are not all as sharp draw less. '
          : ''}
        In still air, up to where it sparks over. An estimate, never a measurement.
      </p>
    </>
  );
}

function Figure({
  name,
  id,
  value,
  unit,
  within,
}: {
  name: string;
  id: string;
  value: number;
  unit: Unit;
  within: number;
}) {
  return (
    <div className="flex items-baseline justify-between gap-2 py-[1.5px]" data-corona={id}>
      <span className="text-[13.5px] text-soft">{name}</span>
      <span className="whitespace-nowrap">
        <Quantity value={value} unit={unit} digits={3} />
        <span className="text-xs text-soft"> ±{formatQuantity(within, '%', 2)}</span>
      </span>
    </div>
  );
}

/** What it would draw of the output as it stands. */
function Draws({
  law,
  meanVolts,
}: {
  law: Pick<Load & { kind: 'corona' }, 'onsetVolts' | 'ampsPerSquareVolt'>;
  meanVolts: number | null;
}) {
  if (meanVolts === null) return null;
  return (
    <p className="py-[1.5px] text-[13px] text-soft" data-corona="draws">
      At the output as it stands, <Quantity value={meanVolts} unit="V" /> mean,{' '}
      {meanVolts <= law.onsetVolts ? (
        'it does not glow.'
      ) : (
        <>
          it would draw <Quantity value={loadAmpsAt({ ...law, kind: 'corona' }, meanVolts, 0)} unit="A" digits={2} />,
          which brings the output down.
        </>
      )}
    </p>
  );
}
