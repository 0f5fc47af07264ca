'use client';

import { useId, useState } from 'react';
import { toast } from 'sonner';
import { readScopeFile } from '@/client/scope-file';
import type { MeasuredDesign } from '@/core/design/design-schema';
import { DRIVER_KINDS } from '@/core/drive/driver-kinds';
import { withHeight, withoutRecord, withRecord } from '@/core/drive/recorded-driver';
import { amplitudeVolts } from '@/core/drive/drive';
import { sinePeakVolts, sineVoltsAs, VOLTAGE_FORMS, type VoltageForm } from '@/core/quantity/voltage-forms';
import { Choice } from '@/ui/choice';
import { DescribedField } from '@/ui/described-field';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { Editing } from './editing';
import { MeterSense } from './meter-sense';

type Measured = MeasuredDesign['driver'];

const FORM_NAMES: Record<VoltageForm, string> = { rms: 'RMS', peak: 'Peak', 'peak-to-peak': 'Peak-to-peak' };

/** The waveform at the ladder's input, as it was measured. */
export function MeasuredFields({ store, design, prediction, driver }: Editing & { driver: Measured }) {
  const { edit } = store.getState();
  const symmetric = driver.negativePeakVolts === undefined;
  // RMS and peak-to-peak stand for the peak of a sine only, and only while both peaks are alike.
  const inForms = symmetric && driver.waveform === 'sine';
  const form = inForms ? driver.enteredAs : 'peak';
  const perWinding = design.ladder.topology === 'full-wave' ? ', each half winding' : '';
  const others = VOLTAGE_FORMS.filter((other) => other !== form);
  return (
    <>
      <Choice
        label="Waveform"
        value={driver.waveform}
        options={[
          { value: 'sine', name: 'Sine' },
          { value: 'square', name: 'Square' },
          { value: 'pulse', name: 'Pulse' },
          ...(driver.samples ? [{ value: 'sampled' as const, name: 'Recorded' }] : []),
        ]}
        onValue={(waveform) => {
          if (driver.samples && waveform !== 'sampled')
            store.getState().replace({ ...design, driver: withoutRecord(driver, waveform) });
          else edit('$.driver.waveform', waveform);
        }}
      />
      <ScopeImport store={store} design={design} driver={driver} />
      {inForms ? (
        <Choice
          label="Voltage entered as"
          value={form}
          options={VOLTAGE_FORMS.map((value) => ({ value, name: FORM_NAMES[value] }))}
          onValue={(value) => edit('$.driver.enteredAs', value)}
        />
      ) : null}
      {driver.samples ? null : (
        <QuantityField
          id="input-volts"
          label={`${symmetric ? `Voltage, ${FORM_NAMES[form]}` : 'Positive peak'}${perWinding}`}
          unit="V"
          shownDigits={7}
          value={sineVoltsAs(driver.positivePeakVolts, form)}
          onValue={(value) => edit('$.driver.positivePeakVolts', value === null ? null : sinePeakVolts(value, form))}
          hint={
            inForms ? (
              others.map((other, index) => (
                <span key={other}>
                  {index > 0 ? ' · ' : '= '}
                  <Quantity value={sineVoltsAs(driver.positivePeakVolts, other)} unit="V" digits={4} />{' '}
                  {FORM_NAMES[other].toLowerCase().replace('rms', 'RMS')}
                </span>
              ))
            ) : (
              <>
                = <Quantity value={2 * amplitudeVolts(prediction.drive)} unit="V" digits={4} /> peak-to-peak, both peaks
                together
              </>
            )
          }
        />
      )}
      <MeterSense drive={prediction.drive} onTimes={(times) => edit('$.driver', withHeight(driver, times))} />
      {driver.waveform === 'pulse' ? (
        <QuantityField
          label="Duty at the positive peak"
          unit="%"
          value={driver.duty}
          onValue={(value) => edit('$.driver.duty', value)}
        />
      ) : null}
      <QuantityField
        label="Frequency"
        unit="Hz"
        value={driver.frequencyHertz}
        onValue={(value) => edit('$.driver.frequencyHertz', value)}
      />
      <QuantityField
        label="Source resistance"
        unit="Ω"
        value={driver.seriesOhms}
        onValue={(value) => edit('$.driver.seriesOhms', value)}
        hint={
          driver.seriesOhms === 0
            ? 'Zero is a perfectly stiff source: real windings have hundreds of ohms to tens of kilohms.'
            : undefined
        }
      />
      <More>
        {driver.samples ? null : (
          <QuantityField
            label="Negative peak"
            unit="V"
            optional
            placeholder="like the positive"
            value={driver.negativePeakVolts ?? null}
            onValue={(value) => edit('$.driver.negativePeakVolts', value ?? undefined)}
            hint={
              symmetric
                ? undefined
                : `${driver.waveform === 'sine' ? 'Counted as a sine with a dc offset. ' : ''}Clear the field for equal peaks.`
            }
          />
        )}
        <QuantityField
          label="Leakage inductance"
          unit="H"
          value={driver.seriesHenries}
          onValue={(value) => edit('$.driver.seriesHenries', value)}
          hint="In series with the winding; counted in the time domain."
        />
        <QuantityField
          label="Most power"
          unit="W"
          optional
          value={driver.maxWatts}
          onValue={(value) => edit('$.driver.maxWatts', value)}
        />
        <QuantityField
          label="Most current, RMS"
          unit="A"
          optional
          value={driver.maxAmps}
          onValue={(value) => edit('$.driver.maxAmps', value)}
        />
        {DRIVER_KINDS.measured.fields.map((field) => (
          <DescribedField
            key={field.name}
            field={field}
            value={(driver as Record<string, unknown>)[field.name]}
            onEdit={(changed) => edit(`$.driver.${field.name}`, changed)}
          />
        ))}
      </More>
    </>
  );
}

/** Takes one period of an oscilloscope's record for the waveform. */
function ScopeImport({ store, design, driver }: Pick<Editing, 'store' | 'design'> & { driver: Measured }) {
  const id = useId();
  const [fault, setFault] = useState<string | null>(null);
  const take = async (file: File) => {
    const read = await readScopeFile(file);
    setFault(read.ok ? null : read.reason);
    if (!read.ok) return;
    const { periods } = read;
    store.getState().replace({ ...design, driver: withRecord(driver, read) });
    toast(`Recorded waveform taken: ${periods} ${periods === 1 ? 'period' : 'periods'} averaged.`);
  };
  return (
    <div className="py-[3px] text-[13px]">
      <label htmlFor={id} className="cursor-pointer text-copper focus-within:underline hover:underline">
        {driver.samples ? 'Replace the scope record…' : 'Take it from a scope record (CSV)…'}
        <input
          id={id}
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = '';
            if (file) void take(file);
          }}
        />
      </label>
      {fault ? (
        <p role="alert" className="text-over">
          {fault}
        </p>
      ) : null}
    </div>
  );
}
