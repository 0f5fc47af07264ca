'use client';

import type { ComponentProps } from 'react';
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
  quantityField('relativePermeability', 'Permeability, relative', ''),
  quantityField('gapMetres', 'Gap in all', 'm'),
  quantityField('workingTesla', 'To work at', 'T'),
  quantityField('windowSquareMetres', 'Window', 'm²', { optional: true }),
];
const OF_TRANSFORMER = [
  quantityField('coreSquareMetres', 'Area', 'm²', { optional: true }),
  quantityField('corePathMetres', 'Path of the flux', 'm', { optional: true }),
];
const WIRE_FIELDS = [
  quantityField('wireMetres', 'Wire, bare', 'm', { optional: true }),
  quantityField('strands', 'Strands in parallel', ''),
];

/** Turns for a core, its inductance and gap, and the primary's wire. */
export function CorePage({ bench }: { bench: BenchEditing }) {
  const { winding, design, store, around } = bench;
  const { transformer } = design;
  if (!around || !transformer)
    return <Empty>This driver has no transformer of its own to wind. Ratio and pins work all the same.</Empty>;
  const calculated = calculateCore(winding, around);
  return (
    <Sheet
      entered={
        <>
          <Heading>Core</Heading>
          {OF_TRANSFORMER.map((field) => (
            <DescribedField
              key={field.name}
              field={field}
              value={transformer[field.name as 'coreSquareMetres' | 'corePathMetres']}
              onEdit={(changed) => store.getState().edit(`$.transformer.${field.name}`, changed)}
            />
          ))}
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
          <Turns bench={bench} calculated={calculated} />
          <Heading>Inductance</Heading>
          <Inductance bench={bench} calculated={calculated} />
          <Heading>Wire</Heading>
          <Wire calculated={calculated} hertz={around.hertz} {...winding.primary} />
          <BenchFindings findings={calculated.findings} />
        </>
      }
    />
  );
}

type Calculated = ReturnType<typeof calculateCore>;

function Turns({ bench, calculated: { leastTurns } }: { bench: BenchEditing; calculated: Calculated }) {
  if (leastTurns === null)
    return <Empty>The core’s area tells how many turns it needs for this driver’s frequency and voltage.</Empty>;
  return (
    <Result
      name={`Whole primary, at least (it has ${bench.design.transformer!.primaryTurns})`}
      testName="least-turns"
      value={leastTurns}
      unit=""
    >
      <Take onTake={() => bench.take('$.transformer.primaryTurns', leastTurns, 'Primary turns')}>Use it</Take>
    </Result>
  );
}

function Inductance({ bench, calculated }: { bench: BenchEditing; calculated: Calculated }) {
  const { inductanceFactor, primaryHenries, wantedGapMetres } = calculated;
  if (inductanceFactor === null) return <Empty>Area and path give AL and the primary’s inductance.</Empty>;
  const take = () =>
    bench.take('$.transformer.primaryHenries', Number(primaryHenries!.toPrecision(4)), 'Primary inductance');
  return (
    <>
      <Result name="AL, a turn squared" testName="al" value={inductanceFactor} unit="H" />
      <Result name="Primary by it" testName="core-henries" value={primaryHenries} unit="H">
        <Take onTake={take}>Use it</Take>
      </Result>
      {bench.design.transformer!.primaryHenries === null ? null : (
        <Result name="Gap for the inductance entered" testName="wanted-gap" value={wantedGapMetres} unit="m" />
      )}
    </>
  );
}

/** A result that is there or not, as a row or none. */
function Known({ value, ...row }: Omit<ComponentProps<typeof Result>, 'value'> & { value: number | null }) {
  return value === null ? null : <Result {...row} value={value} />;
}

function Wire({
  calculated,
  hertz,
  wireMetres,
  strands,
}: {
  calculated: Calculated;
  hertz: number;
  wireMetres: number | null;
  strands: number;
}) {
  const { primarySquareMetres, primaryAmpsPerSquareMetre, fill, fillWord } = calculated;
  return (
    <>
      {primarySquareMetres === null ? (
        <Empty>The primary’s wire gives its current density, its margin and the window it fills.</Empty>
      ) : (
        <Result
          name="Primary copper in all"
          value={primarySquareMetres}
          unit="m²"
          after={`as one wire AWG ${awgOfSection(primarySquareMetres)}`}
        />
      )}
      <Known
        name="Current density"
        value={primaryAmpsPerSquareMetre === null ? null : primaryAmpsPerSquareMetre / 1e6}
        unit=""
        after="A/mm² RMS"
      />
      <Result name="Skin depth at this frequency" value={skinDepthMetres(hertz)} unit="m" />
      <Known
        name="Resistance over that for dc, primary"
        testName="skin-factor"
        value={calculated.primarySkinFactor}
        unit=""
        after="times, at least"
      />
      <Known
        name="Resistance over that for dc, secondary"
        value={calculated.secondarySkinFactor}
        unit=""
        after="times, at least"
      />
      <Known
        name="Nearest usual wire, bare"
        value={wireMetres === null ? null : metricWireAtLeast(wireMetres)}
        unit="m"
        after={strands > 1 ? 'each strand' : ''}
      />
      {fill === null || fillWord === null ? null : (
        <Result name="Copper in the window" testName="fill" value={fill} unit="%" digits={2}>
          <span className="flex items-center gap-1.5 text-[13px] text-soft">
            <FitMark fit={fillWord} /> {fillWord}
          </span>
        </Result>
      )}
    </>
  );
}
