'use client';

import Plus from 'lucide-react/icons/plus';
import X from 'lucide-react/icons/x';
import { useMeter } from '@/client/meter-store';
import { readingDoubts } from '@/core/drive/meter-sense';
import { calculateInductances } from '@/core/winding/bench';
import { readRatioTest, type SectionWord } from '@/core/winding/ratio-test';
import { FitMark, type FitWord } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { BenchEditing } from './bench-editing';
import { BenchField, BenchFindings, Empty, Heading, Result, Sheet, Take } from './bench-parts';

const MARKS: Record<SectionWord, { fit: FitWord; word: string }> = {
  fits: { fit: 'fits', word: 'like its neighbours' },
  low: { fit: 'over', word: 'low' },
  high: { fit: 'close', word: 'high' },
  none: { fit: 'over', word: 'nothing' },
};

/** Takes a ratio into the design; null where the design has nothing that a ratio gives. */
function takesRatio({ design, take }: BenchEditing): ((ratio: number) => void) | null {
  const { transformer, driver, supply } = design;
  if (transformer)
    return (ratio) =>
      take(
        '$.transformer.secondaryTurns',
        Number((ratio * transformer.primaryTurns).toPrecision(4)),
        'Secondary turns of this ratio',
      );
  if (driver.kind === 'mains' && supply?.kind === 'mains')
    return (ratio) =>
      take('$.driver.secondaryVolts', Number((ratio * supply.volts).toPrecision(4)), 'Secondary voltage');
  return null;
}

/** Turns ratio from a low-voltage test or from inductances. */
export function RatioPage({ bench }: { bench: BenchEditing }) {
  return (
    <Sheet
      entered={
        <>
          <Heading>Low-voltage test</Heading>
          <TestFields bench={bench} />
          <Heading>By inductance</Heading>
          {(
            [
              ['primaryHenries', 'Primary, secondary open'],
              ['secondaryHenries', 'Secondary, primary open'],
              ['shortedHenries', 'Secondary, primary shorted'],
            ] as const
          ).map(([name, label]) => (
            <BenchField
              key={name}
              bench={bench}
              part="inductance"
              field={{ as: 'quantity', name, label, unit: 'H', optional: true }}
            />
          ))}
        </>
      }
      follows={
        <>
          <Heading>What the test says</Heading>
          <TestSays bench={bench} />
          <Heading>What the inductances say</Heading>
          <InductancesSay bench={bench} />
        </>
      }
    />
  );
}

function TestFields({ bench }: { bench: BenchEditing }) {
  const { readings } = bench.winding.ratio;
  const setReadings = (changed: readonly number[]) => bench.set('ratio.readings', changed);
  return (
    <>
      <p className="mb-1 text-xs text-soft">
        Feed the primary a volt or two at a frequency its core is made for, read each secondary section, then all in
        series. The ratio steps up whatever you feed: read before you touch.
      </p>
      <BenchField
        bench={bench}
        part="ratio"
        field={{ as: 'quantity', name: 'fedVolts', label: 'Fed into the primary, RMS', unit: 'V', optional: true }}
      />
      {readings.map((volts, at) => (
        <div key={at} className="grid grid-cols-[minmax(0,1fr)_1.5rem] items-center">
          <QuantityField
            label={`Section ${at + 1} reads, RMS`}
            unit="V"
            value={volts}
            onValue={(value) => setReadings(readings.map((old, other) => (other === at ? value! : old)))}
          />
          <button
            type="button"
            aria-label={`Remove section ${at + 1}`}
            // Tab leads from reading to reading; by keyboard the last is removed by the button below.
            tabIndex={-1}
            className="justify-self-end text-soft hover:text-ink"
            onClick={() => setReadings(readings.filter((_, other) => other !== at))}
          >
            <X className="size-3.5" aria-hidden="true" />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="my-1 inline-flex items-center gap-1 text-[13px] text-copper hover:underline"
        onClick={() => setReadings([...readings, readings.at(-1) ?? 10])}
      >
        <Plus className="size-3.5" aria-hidden="true" /> Add a section
      </button>
      {readings.length > 0 ? (
        <button
          type="button"
          className="my-1 ml-4 text-[13px] text-soft hover:text-ink hover:underline"
          onClick={() => setReadings(readings.slice(0, -1))}
        >
          Remove the last
        </button>
      ) : null}
      <BenchField
        bench={bench}
        part="ratio"
        field={{ as: 'quantity', name: 'seriesVolts', label: 'All in series, RMS', unit: 'V', optional: true }}
      />
      <BenchField
        bench={bench}
        part="ratio"
        field={{ as: 'quantity', name: 'hertz', label: 'At a frequency of', unit: 'Hz', optional: true }}
      />
    </>
  );
}

function TestSays({ bench }: { bench: BenchEditing }) {
  const { ratio: test } = bench.winding;
  const { settings: meter } = useMeter();
  const takeRatio = takesRatio(bench);
  const reading = readRatioTest({ ...test, fedVolts: test.fedVolts ?? 0 });
  if (!reading) return <Empty>Enter what you feed and at least one reading.</Empty>;
  const doubts =
    test.hertz === null
      ? []
      : readingDoubts({ volts: Math.max(test.seriesVolts ?? 0, ...test.readings), hertz: test.hertz }, meter);
  return (
    <>
      <Result name="Turns ratio by the test, 1 to" testName="ratio" value={reading.ratio} unit="" digits={4}>
        {takeRatio ? <Take onTake={() => takeRatio(reading.ratio)}>Use it</Take> : null}
      </Result>
      <Result name="Sections together, RMS" value={reading.sumVolts} unit="V" />
      {reading.sections.map((section, at) => (
        <div key={at} className="flex items-baseline justify-between gap-3 border-b border-rule py-[3.5px]">
          <span className="text-soft">Section {at + 1}, 1 to</span>
          <span className="flex items-baseline gap-2" data-section={section.word}>
            <Quantity value={section.ratio} unit="" digits={4} />
            <FitMark fit={MARKS[section.word].fit} />
            <span className="w-32 text-[13px] text-soft">{MARKS[section.word].word}</span>
          </span>
        </div>
      ))}
      <BenchFindings findings={[...reading.findings, ...doubts]} />
    </>
  );
}

function InductancesSay({ bench }: { bench: BenchEditing }) {
  const { ratio, coupling, shortedTooHigh } = calculateInductances(bench.winding);
  const takeRatio = takesRatio(bench);
  if (ratio === null && coupling === null && !shortedTooHigh)
    return <Empty>Two inductances give the ratio; the third one the coupling.</Empty>;
  return (
    <>
      {ratio === null ? null : (
        <Result name="Turns ratio by inductance, 1 to" testName="ratio-by-inductance" value={ratio} unit="" digits={4}>
          {takeRatio ? <Take onTake={() => takeRatio(ratio)}>Use it</Take> : null}
        </Result>
      )}
      {coupling === null ? null : (
        <Result name="Coupling" testName="coupling" value={coupling} unit="%" digits={4}>
          {bench.design.transformer ? (
            <Take onTake={() => bench.take('$.transformer.coupling', Number(coupling.toPrecision(4)), 'Coupling')}>
              Use it
            </Take>
          ) : null}
        </Result>
      )}
      {shortedTooHigh ? (
        <p role="alert" className="mt-1 text-[13px] text-over">
          With the primary shorted the secondary reads no lower than open. It must read lower: check the short, and that
          both were read at the same frequency.
        </p>
      ) : null}
    </>
  );
}
