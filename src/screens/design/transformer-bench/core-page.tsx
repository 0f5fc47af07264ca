'use client';

import { metricWireAtLeast } from '@/core/quantity/preferred-values';
import { reckonCore } from '@/core/winding/bench';
import { awgOfSection, skinDepthMetres } from '@/core/magnetics/wire';
import { FitMark } from '@/ui/fit-mark';
import { DescribedField } from '@/ui/described-field';
import type { FieldDescription } from '@/core/quantity/field-description';
import { FromDrawer } from '../from-drawer';
import type { BenchEditing } from './bench-editing';
import { BenchField, BenchFindings, Empty, Heading, Result, Sheet, Take } from './bench-parts';

const number = (
  name: string,
  label: string,
  extra: Partial<FieldDescription> & { shownIn?: number; optional?: boolean },
) => ({ as: 'quantity', name, label, unit: '', ...extra }) as FieldDescription;

const CORE_FIELDS = [
  number('pathMetres', 'Path of the flux, mm', { shownIn: 1e-3, optional: true }),
  number('relativePermeability', 'Permeability, relative', {}),
  number('gapMetres', 'Gap in all, mm', { shownIn: 1e-3 }),
  number('workingTesla', 'To work at, mT', { shownIn: 1e-3 }),
  number('windowSquareMetres', 'Window, mm²', { shownIn: 1e-6, optional: true }),
];
const AREA = number('coreSquareMetres', 'Area, mm²', { shownIn: 1e-6, optional: true });
const WIRE_FIELDS = [
  number('wireMetres', 'Wire, bare, mm', { shownIn: 1e-3, optional: true }),
  number('strands', 'Strands side by side', {}),
];

/** Turns for a core, its inductance and gap, and the primary's wire. */
export function CorePage({ bench }: { bench: BenchEditing }) {
  const { winding, design, store, around, take } = bench;
  const { transformer } = design;
  if (!around || !transformer)
    return <Empty>This driver has no transformer of its own to wind. Ratio and pins work all the same.</Empty>;
  const reckoned = reckonCore(winding, around);
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
          {reckoned.leastTurns === null ? (
            <Empty>The core’s area tells how many turns it needs for this driver’s frequency and voltage.</Empty>
          ) : (
            <Result
              name={`Whole primary, at least (it has ${transformer.primaryTurns})`}
              testName="least-turns"
              value={reckoned.leastTurns}
              unit=""
            >
              <Take onTake={() => take('$.transformer.primaryTurns', reckoned.leastTurns!, 'Primary turns')}>
                Use it
              </Take>
            </Result>
          )}
          <Heading>Inductance</Heading>
          {reckoned.inductanceFactor === null ? (
            <Empty>Area and path give AL and the primary’s inductance.</Empty>
          ) : (
            <>
              <Result name="AL, a turn squared" testName="al" value={reckoned.inductanceFactor} unit="H" />
              <Result name="Primary by it" testName="core-henries" value={reckoned.primaryHenries} unit="H">
                <Take
                  onTake={() =>
                    take(
                      '$.transformer.primaryHenries',
                      Number(reckoned.primaryHenries!.toPrecision(4)),
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
                  value={reckoned.wantedGapMetres === null ? null : reckoned.wantedGapMetres * 1e3}
                  unit=""
                  after="mm"
                />
              )}
            </>
          )}
          <Heading>Wire</Heading>
          {reckoned.primarySquareMetres === null ? (
            <Empty>The primary’s wire gives its current density, its margin and the window it fills.</Empty>
          ) : (
            <Result
              name="Primary copper in all"
              value={reckoned.primarySquareMetres * 1e6}
              unit=""
              after={`mm², as one wire AWG ${awgOfSection(reckoned.primarySquareMetres)}`}
            />
          )}
          {reckoned.primaryAmpsPerSquareMetre === null ? null : (
            <Result name="Current density" value={reckoned.primaryAmpsPerSquareMetre / 1e6} unit="" after="A/mm² RMS" />
          )}
          <Result name="Skin depth at this frequency" value={skinDepthMetres(around.hertz) * 1e3} unit="" after="mm" />
          {reckoned.primarySkinFactor === null ? null : (
            <Result
              name="Resistance over that for dc, primary"
              testName="skin-factor"
              value={reckoned.primarySkinFactor}
              unit=""
              after="times, at least"
            />
          )}
          {reckoned.secondarySkinFactor === null ? null : (
            <Result name="The same, secondary" value={reckoned.secondarySkinFactor} unit="" after="times, at least" />
          )}
          {wireMetres === null ? null : (
            <Result
              name="Nearest usual wire, bare"
              value={metricWireAtLeast(wireMetres) * 1e3}
              unit=""
              after={strands > 1 ? 'mm, each strand' : 'mm'}
            />
          )}
          {reckoned.fill === null || reckoned.fillWord === null ? null : (
            <Result name="Copper in the window" testName="fill" value={reckoned.fill} unit="%" digits={2}>
              <span className="flex items-center gap-1.5 text-[13px] text-soft">
                <FitMark fit={reckoned.fillWord} /> {reckoned.fillWord}
              </span>
            </Result>
          )}
          <BenchFindings findings={reckoned.findings} />
        </>
      }
    />
  );
}
