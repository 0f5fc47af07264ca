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

/** Turns ratio from a low-voltage test or from inductances. */
export function RatioPage({ bench }: { bench: BenchEditing }) {
  const { winding, design, set, take } = bench;
  const { ratio: test } = winding;
  const reading = readRatioTest({ ...test, fedVolts: test.fedVolts ?? 0 });
  const inductances = calculateInductances(winding);
  const { meter } = useMeter();
  const meterFindings =
    test.hertz === null
      ? []
      : readingDoubts({ volts: Math.max(test.seriesVolts ?? 0, ...test.readings), hertz: test.hertz }, meter);
  const setReadings = (readings: readonly number[]) => set('ratio.readings', readings);
  const takeRatio = (ratio: number) => {
    if (design.transformer)
      take(
        '$.transformer.secondaryTurns',
        Number((ratio * design.transformer.primaryTurns).toPrecision(4)),
        'Secondary turns of this ratio',
      );
    else if (design.driver.kind === 'mains' && design.supply?.kind === 'mains')
      take('$.driver.secondaryVolts', Number((ratio * design.supply.volts).toPrecision(4)), 'Secondary voltage');
  };
  const takes = Boolean(design.transformer) || design.driver.kind === 'mains';
  return (
    <Sheet
      entered={
        <>
          <Heading>Low-voltage test</Heading>
          <p className="mb-1 text-xs text-soft">
            Feed the primary a volt or two at a frequency its core is made for, read each secondary section, then all in
            series. The ratio steps up whatever you feed: read before you touch.
          </p>
          <BenchField
            bench={bench}
            part="ratio"
            field={{ as: 'quantity', name: 'fedVolts', label: 'Fed into the primary, RMS', unit: 'V', optional: true }}
          />
          {test.readings.map((volts, at) => (
            <div key={at} className="grid grid-cols-[minmax(0,1fr)_1.5rem] items-center">
              <QuantityField
                label={`Section ${at + 1} reads, RMS`}
                unit="V"
                value={volts}
                onValue={(value) => setReadings(test.readings.map((old, other) => (other === at ? value! : old)))}
              />
              <button
                type="button"
                aria-label={`Remove section ${at + 1}`}
                className="justify-self-end text-soft hover:text-ink"
                onClick={() => setReadings(test.readings.filter((_, other) => other !== at))}
              >
                <X className="size-3.5" aria-hidden="true" />
              </button>
            </div>
          ))}
          <button
            type="button"
            className="my-1 inline-flex items-center gap-1 text-[13px] text-copper hover:underline"
            onClick={() => setReadings([...test.readings, test.readings.at(-1) ?? 10])}
          >
            <Plus className="size-3.5" aria-hidden="true" /> Add a section
          </button>
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
          {reading ? (
            <>
              <Result name="Turns ratio by the test, 1 to" testName="ratio" value={reading.ratio} unit="" digits={4}>
                {takes ? <Take onTake={() => takeRatio(reading.ratio)}>Use it</Take> : null}
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
              <BenchFindings findings={[...reading.findings, ...meterFindings]} />
            </>
          ) : (
            <Empty>Enter what you feed and at least one reading.</Empty>
          )}
          <Heading>What the inductances say</Heading>
          {inductances.ratio === null && inductances.coupling === null && !inductances.shortedTooHigh ? (
            <Empty>Two inductances give the ratio; the third one the coupling.</Empty>
          ) : (
            <>
              {inductances.ratio === null ? null : (
                <Result
                  name="Turns ratio by inductance, 1 to"
                  testName="ratio-by-inductance"
                  value={inductances.ratio}
                  unit=""
                  digits={4}
                >
                  {takes ? <Take onTake={() => takeRatio(inductances.ratio!)}>Use it</Take> : null}
                </Result>
              )}
              {inductances.coupling === null ? null : (
                <Result name="Coupling" testName="coupling" value={inductances.coupling} unit="%" digits={4}>
                  {design.transformer ? (
                    <Take
                      onTake={() =>
                        take('$.transformer.coupling', Number(inductances.coupling!.toPrecision(4)), 'Coupling')
                      }
                    >
                      Use it
                    </Take>
                  ) : null}
                </Result>
              )}
              {inductances.shortedTooHigh ? (
                <p role="alert" className="mt-1 text-[13px] text-over">
                  With the primary shorted the secondary reads no lower than open. It must read lower: check the short,
                  and that both were read at the same frequency.
                </p>
              ) : null}
            </>
          )}
        </>
      }
    />
  );
}
