'use client';

import type { Driver } from '@/core/drive/driver-kinds';
import { calculateInductances, calculateSecondary, tankTable } from '@/core/winding/bench';
import { Quantity } from '@/ui/quantity';
import type { BenchEditing } from './bench-editing';
import { BenchField, BenchFindings, Empty, Heading, Result, Sheet, Take } from './bench-parts';

/** Inductance from a measured resonance, tank capacitors to choose from, and where the secondary rings. */
export function ResonancePage({ bench }: { bench: BenchEditing }) {
  const { winding, design, prediction, take, around } = bench;
  const { resonantHenries } = calculateInductances(winding);
  const secondary = around && calculateSecondary(winding, around);
  return (
    <Sheet
      entered={
        <>
          <Heading>Make the primary ring</Heading>
          <p className="mb-1 text-xs text-soft">
            Put a known capacitor across the whole primary, secondary open, and find the frequency at which the voltage
            over it is greatest.
          </p>
          <BenchField
            bench={bench}
            part="inductance"
            field={{ as: 'quantity', name: 'resonanceFarads', label: 'Capacitor across it', unit: 'F', optional: true }}
          />
          <BenchField
            bench={bench}
            part="inductance"
            field={{ as: 'quantity', name: 'resonanceHertz', label: 'Rings at', unit: 'Hz', optional: true }}
          />
          {resonantHenries === null ? null : (
            <Result name="Primary inductance" testName="resonant-henries" value={resonantHenries} unit="H">
              {design.transformer ? (
                <Take
                  onTake={() =>
                    take('$.transformer.primaryHenries', Number(resonantHenries.toPrecision(4)), 'Primary inductance')
                  }
                >
                  Use it
                </Take>
              ) : null}
            </Result>
          )}
        </>
      }
      follows={
        <>
          <Heading>Where the secondary rings</Heading>
          {secondary?.rings ? (
            <>
              <Result name="Drive" value={prediction.drive.frequencyHertz} unit="Hz" />
              <Result name="Secondary alone" testName="rings-open" value={secondary.rings.openHertz} unit="Hz" />
              <Result
                name="With the ladder at its input"
                testName="rings-with-ladder"
                value={secondary.rings.withLadderHertz}
                unit="Hz"
              />
              <Result
                name="Leakage inductance with both"
                testName="rings-leakage"
                value={secondary.rings.leakageHertz}
                unit="Hz"
              />
              <p className="mt-1 text-xs text-soft">
                The ladder’s input counts as <Quantity value={prediction.source.ladderFarads} unit="F" />, the winding
                as its layers give it.
              </p>
              <BenchFindings findings={secondary.findings.filter(({ code }) => code === 'leakage-rings-near')} />
            </>
          ) : (
            <Empty>
              Needs a driver with a transformer of its own, its primary inductance and a secondary whose wire is known
              and fits its pots.
            </Empty>
          )}
          {design.driver.kind === 'resonant-push-pull' && design.transformer ? (
            <TankTable bench={bench} henries={design.transformer.primaryHenries!} driver={design.driver} />
          ) : null}
        </>
      }
    />
  );
}

/** Capacitors one can buy and the frequency each would give, in the bank as it is. */
function TankTable({
  bench,
  henries,
  driver: { tankFarads: now, tankSeries, tankParallel },
}: {
  bench: BenchEditing;
  henries: number;
  driver: Extract<Driver, { kind: 'resonant-push-pull' }>;
}) {
  const { figures } = bench.prediction.source;
  const reflected = figures.reflectedFarads ?? 0;
  const table = tankTable(henries, reflected, { tankSeries, tankParallel });
  return (
    <>
      <Heading>Tank capacitors one can buy{tankSeries * tankParallel > 1 ? ', each of the bank' : ''}</Heading>
      <ul className="grid grid-cols-2 gap-x-6">
        {table.map(({ farads, hertz }) => (
          <li
            key={farads}
            className={`flex items-baseline justify-between gap-2 border-b border-rule py-[3px] ${farads === now ? 'font-semibold' : ''}`}
          >
            <Quantity value={farads} unit="F" />
            <Quantity value={hertz} unit="Hz" />
            {farads === now ? (
              <span className="text-[13px] text-soft">in use</span>
            ) : (
              <Take onTake={() => bench.take('$.driver.tankFarads', farads, 'Tank capacitor')}>Use</Take>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
