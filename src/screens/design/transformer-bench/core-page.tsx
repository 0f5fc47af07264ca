'use client';

import { metricWireAtLeast } from '@/core/quantity/preferred-values';
import { calculateCore } from '@/core/winding/bench';
import { awgOfSection, skinDepthMetres } from '@/core/magnetics/wire';
import { FitMark } from '@/ui/fit-mark';
import { DescribedField } from '@/ui/described-field';
import { quantityField } from '@/core/quantity/field-description';
import { FromDrawer } from '../chain/from-drawer';
import type { BenchEditing } from './bench-editing';
import { BenchField, BenchFindings, Empty, Heading, Result, Sheet, Take } from './bench-parts';

const CORE_FIELDS = [
  quantityField('pathMetres', 'Path of the flux', 'm', { optional: true }),
  quantityField('relativePermeability', 'Permeability, relative', ''),
  quantityField('gapMetres', 'Gap in all', 'm'),
  quantityField('workingTesla', 'To work at', 'T'),
  quantityField('windowSquareMetres', 'Window', 'm²', { optional: true }),
];
const AREA = quantityField('coreSquareMetres', 'Area', 'm²', { optional: true });
const WIRE_FIELDS = [
  quantityField('wireMetres', 'Wire, bare', 'm', { optional: true }),
  quantityField('strands', 'Strands in parallel', ''),
];

/** Turns for a core, its inductance and gap, and the primary's wire. */
export function CorePage({ bench }: { bench: BenchEditing }) {
  const { winding, design, store, around, take } = bench;
  const { transformer } = design;
  if (!around || !transformer)
    return <Empty>This driver has no transformer of its own to wind. Ratio and pins work all the same.</Empty>;
  const calculated = calculateCore(winding, around);
  const { wireMetres, strands } = winding.primary;
  return (
    <Sheet
      entered={
        <>
          <Heading>Core</Heading>
          <DescribedField
            field={AREA}
            value={transformer.coreSquareMetres}
            onEdit={(changed) => store.getState().edit('$.transformer.coreSquareMetres', changed)}
          />
          {CORE_FIELDS.map((field) => (
            <BenchField key={field.name} bench={bench} part="core" field={field} />
          ))}
          <Heading>Primary wire</Heading>
          {WIRE_FIELDS.map((field) => (
            <BenchField key={field.name} bench={bench} part="primary" field={field} />
          ))}
          <FromDrawer store={store} design={design} prediction={bench.prediction} place="primary" />
        </>
      }
      follows={
        <>
          <Heading>Turns</Heading>
          {calculated.leastTurns === null ? (
            <Empty>The core’s area tells how many turns it needs for this driver’s frequency and voltage.</Empty>
          ) : (
            <Result
              name={`Whole primary, at least (it has ${transformer.primaryTurns})`}
              testName="least-turns"
              value={calculated.leastTurns}
              unit=""
            >
              <Take onTake={() => take('$.transformer.primaryTurns', calculated.leastTurns!, 'Primary turns')}>
                Use it
              </Take>
            </Result>
          )}
          <Heading>Inductance</Heading>
          {calculated.inductanceFactor === null ? (
            <Empty>Area and path give AL and the primary’s inductance.</Empty>
          ) : (
            <>
              <Result name="AL, a turn squared" testName="al" value={calculated.inductanceFactor} unit="H" />
              <Result name="Primary by it" testName="core-henries" value={calculated.primaryHenries} unit="H">
                <Take
                  onTake={() =>
                    take(
                      '$.transformer.primaryHenries',
                      Number(calculated.primaryHenries!.toPrecision(4)),
                      'Primary inductance',
                    )
                  }
                >
                  Use it
                </Take>
              </Result>
              {transformer.primaryHenries === null ? null : (
                <Result
                  name="Gap for the inductance entered"
                  testName="wanted-gap"
                  value={calculated.wantedGapMetres}
                  unit="m"
                />
              )}
            </>
          )}
          <Heading>Wire</Heading>
          {calculated.primarySquareMetres === null ? (
            <Empty>The primary’s wire gives its current density, its margin and the window it fills.</Empty>
          ) : (
            <Result
              name="Primary copper in all"
              value={calculated.primarySquareMetres}
              unit="m²"
              after={`as one wire AWG ${awgOfSection(calculated.primarySquareMetres)}`}
            />
          )}
          {calculated.primaryAmpsPerSquareMetre === null ? null : (
            <Result
              name="Current density"
              value={calculated.primaryAmpsPerSquareMetre / 1e6}
              unit=""
              after="A/mm² RMS"
            />
          )}
          <Result name="Skin depth at this frequency" value={skinDepthMetres(around.hertz)} unit="m" />
          {calculated.primarySkinFactor === null ? null : (
            <Result
              name="Resistance over that for dc, primary"
              testName="skin-factor"
              value={calculated.primarySkinFactor}
              unit=""
              after="times, at least"
            />
          )}
          {calculated.secondarySkinFactor === null ? null : (
            <Result
              name="Resistance over that for dc, secondary"
              value={calculated.secondarySkinFactor}
              unit=""
              after="times, at least"
            />
          )}
          {wireMetres === null ? null : (
            <Result
              name="Nearest usual wire, bare"
              value={metricWireAtLeast(wireMetres)}
              unit="m"
              after={strands > 1 ? 'each strand' : ''}
            />
          )}
          {calculated.fill === null || calculated.fillWord === null ? null : (
            <Result name="Copper in the window" testName="fill" value={calculated.fill} unit="%" digits={2}>
              <span className="flex items-center gap-1.5 text-[13px] text-soft">
                <FitMark fit={calculated.fillWord} /> {calculated.fillWord}
              </span>
            </Result>
          )}
          <BenchFindings findings={calculated.findings} />
        </>
      }
    />
  );
}
