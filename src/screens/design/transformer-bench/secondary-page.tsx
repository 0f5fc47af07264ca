'use client';

import { calculateSecondary } from '@/core/winding/bench';
import { quantityField, type FieldDescription } from '@/core/quantity/field-description';
import type { BenchEditing } from './bench-editing';
import { BenchField, BenchFindings, Empty, Heading, Result, Sheet, Take } from './bench-parts';
import { PotsDrawing } from './pots-drawing';

const FIELDS: readonly FieldDescription[] = [
  quantityField('wireMetres', 'Wire, bare', 'm', { optional: true }),
  quantityField('innerMetres', 'Former, diameter', 'm'),
  quantityField('pots', 'Pots in series', ''),
  quantityField('widthMetres', 'Width of each pot', 'm'),
  quantityField('heightMetres', 'Height for layers', 'm', { optional: true }),
  quantityField('insulationMetres', 'Film between layers', 'm'),
  quantityField('relativePermittivity', 'Permittivity, relative', ''),
  {
    as: 'choice',
    name: 'turning',
    label: 'Layers wound',
    options: [
      { value: 'back-and-forth', name: 'Back and forth' },
      { value: 'same-way', name: 'Each the same way' },
    ],
  },
];

/** The secondary in layers and pots: what stands between them, how much wire, what capacitance. */
export function SecondaryPage({ bench }: { bench: BenchEditing }) {
  const { winding, around, take } = bench;
  if (!around)
    return <Empty>This driver has no transformer of its own to wind. Ratio and pins work all the same.</Empty>;
  const { layers, findings } = calculateSecondary(winding, around);
  const { turns, volts } = { turns: around.transformer.secondaryTurns, volts: around.secondaryPeakVolts };
  return (
    <Sheet
      entered={
        <>
          <Heading>Secondary of {turns} turns</Heading>
          {FIELDS.map((field) => (
            <BenchField key={field.name} bench={bench} part="secondary" field={field} />
          ))}
        </>
      }
      follows={
        winding.secondary.wireMetres === null ? (
          <Empty>The wire’s diameter gives layers, voltages between them, resistance and capacitance.</Empty>
        ) : layers === null ? (
          <p role="alert" className="text-over">
            One turn is wider than a pot. The wire must be thinner than the width.
          </p>
        ) : (
          <>
            <PotsDrawing
              layers={layers}
              pots={winding.secondary.pots}
              peakVolts={volts}
              turning={winding.secondary.turning}
            />
            <Heading>Layers</Heading>
            <Result
              name="Turns a layer, layers a pot"
              testName="layers"
              value={layers.turnsPerLayer}
              unit=""
              digits={4}
              after={`turns, ${layers.layers} ${layers.layers === 1 ? 'layer' : 'layers'}`}
            />
            {winding.secondary.pots > 1 ? (
              <Result name="Over each pot, peak" testName="pot-volts" value={layers.voltsPerPot} unit="V" />
            ) : null}
            <Result name="Over each layer, peak" testName="layer-volts" value={layers.voltsPerLayer} unit="V" />
            <Result
              name="Between two layers, peak"
              testName="between-volts"
              value={layers.betweenLayersVolts}
              unit="V"
            />
            <Result name="Height of all layers" value={layers.heightMetres} unit="m" />
            <Result name="Wire" value={layers.wireMetres} unit="m" />
            <Result name="Resistance, dc" testName="secondary-ohms" value={layers.ohms} unit="Ω">
              <Take
                onTake={() =>
                  take('$.transformer.secondaryOhms', Number(layers.ohms.toPrecision(3)), 'Secondary resistance')
                }
              >
                Use it
              </Take>
            </Result>
            <Result name="Own capacitance, about" testName="secondary-farads" value={layers.farads} unit="F" digits={2}>
              <Take
                onTake={() =>
                  take('$.transformer.secondaryFarads', Number(layers.farads.toPrecision(2)), 'Secondary capacitance')
                }
              >
                Use it
              </Take>
            </Result>
            <BenchFindings findings={findings.filter(({ code }) => code !== 'leakage-rings-near')} />
          </>
        )
      }
    />
  );
}
