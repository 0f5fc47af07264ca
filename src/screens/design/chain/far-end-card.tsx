'use client';

import { LOAD_KIND_IDS, LOAD_KINDS, loadOfKind, type LoadKindId } from '@/core/load/load-kinds';
import { hungOn } from '@/core/output/contact';
import { FIGURES } from '@/core/predict/figures';
import { reachedBy } from '@/core/predict/reached';
import { DescribedField } from '@/ui/described-field';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { ArcSense } from './arc-sense';
import { CoronaSense } from './corona-sense';
import type { Editing } from './editing';
import { ElectrodeSense } from './electrode-sense';
import { GapSense } from './gap-sense';
import { StringSteps } from './string-steps';
import { SparkRows } from './spark-rows';

/** Current of a load when nothing yet says how much: a few probes' worth. */
const USUAL_AMPS = 10e-6;

/** What hangs on the output holds, and how long it takes to fill. */
function HungOn({ design: { output }, prediction }: Pick<Editing, 'design' | 'prediction'>) {
  if (output.electrodeFarads === 0) return null;
  const { joules, coulombs, chargedSeconds } = hungOn(
    output.electrodeFarads,
    prediction.output.noLoadPeakVolts,
    output.seriesOhms,
  );
  return (
    <p className="text-[13px] text-soft" data-load="hung">
      holds <Quantity value={joules} unit="J" digits={3} /> · <Quantity value={coulombs} unit="C" digits={3} />;{' '}
      {chargedSeconds === 0 ? (
        'fills with the ladder'
      ) : (
        <>
          within 5 % of the output after <Quantity value={chargedSeconds} unit="s" digits={2} />
        </>
      )}
    </p>
  );
}

const capitalised = (words: string) => words[0].toUpperCase() + words.slice(1);

export function FarEndLine({ prediction }: Editing) {
  const { alternating } = prediction.output;
  const { amps } = reachedBy(prediction.output);
  if (amps === null) return <>{alternating ? 'by the time domain' : 'past the closed form'}</>;
  return amps === 0 ? (
    <>no load current</>
  ) : (
    <>
      <Quantity value={amps} unit="A" />
      {alternating ? ' RMS' : ''} · <Quantity value={FIGURES.outputWatts.read(prediction)} unit="W" />
    </>
  );
}

export function FarEndFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { load } = design;
  /** A load of the new kind that draws about what the old one did. */
  const switchTo = (kind: LoadKindId) => {
    if (kind === load.kind) return;
    const { noLoadPeakVolts } = prediction.output;
    const { amps, volts } = reachedBy(prediction.output);
    const present = {
      amps: amps || design.target?.amps || USUAL_AMPS,
      volts: volts || noLoadPeakVolts || 1,
    };
    edit('$.load', loadOfKind(kind, present));
  };
  return (
    <>
      <PickField
        label="Kind of load"
        value={load.kind}
        options={LOAD_KIND_IDS.map((value) => ({ value, name: capitalised(LOAD_KINDS[value].name) }))}
        onValue={switchTo}
      />
      {LOAD_KINDS[load.kind].fields.map((field) => (
        <DescribedField
          key={field.name}
          field={field}
          value={(load as Record<string, unknown>)[field.name]}
          onEdit={(value) => edit(`$.load.${field.name}`, value)}
        />
      ))}
      {load.kind === 'corona' ? (
        <CoronaSense output={prediction.output} onLoad={(shaped) => edit('$.load', shaped)} />
      ) : null}
      <GapSense
        outputPeakVolts={prediction.output.noLoadPeakVolts}
        onStrike={load.kind === 'gap' ? (volts) => edit('$.load.strikeVolts', volts) : null}
      />
      <ArcSense design={design} prediction={prediction} />
      <QuantityField
        label="Hangs on the output"
        unit="F"
        value={design.output.electrodeFarads}
        onValue={(value) => edit('$.output.electrodeFarads', value)}
        hint="Capacitance of electrode, wire, grid or plate: its charge stands in front of the series resistor."
      />
      <HungOn design={design} prediction={prediction} />
      <ElectrodeSense onFarads={(farads) => edit('$.output.electrodeFarads', farads)} />
      {load.kind === 'bias-string' ? <StringSteps load={load} output={prediction.output} /> : null}
      {prediction.sparks ? <SparkRows sparks={prediction.sparks} /> : null}
    </>
  );
}
