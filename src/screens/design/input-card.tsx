'use client';

import { amplitudeVolts } from '@/core/drive/drive';
import { sinePeakVolts, sineVoltsAs, VOLTAGE_FORMS, type VoltageForm } from '@/core/drive/sine-forms';
import { Choice } from '@/ui/choice';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { Editing } from './editing';

const FORM_NAMES: Record<VoltageForm, string> = { rms: 'RMS', peak: 'Peak', 'peak-to-peak': 'Peak-to-peak' };

export function InputLine({ prediction }: Editing) {
  const { drive } = prediction;
  return (
    <>
      <Quantity value={drive.positivePeakVolts} unit="V" /> peak · <Quantity value={drive.frequencyHertz} unit="Hz" />
      {drive.waveform === 'sine' ? '' : ` · ${drive.waveform}`}
    </>
  );
}

export function InputFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { driver } = design;
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
        ]}
        onValue={(value) => edit('$.driver.waveform', value)}
      />
      {inForms ? (
        <Choice
          label="Voltage entered as"
          value={form}
          options={VOLTAGE_FORMS.map((value) => ({ value, name: FORM_NAMES[value] }))}
          onValue={(value) => edit('$.driver.enteredAs', value)}
        />
      ) : null}
      <QuantityField
        id="input-volts"
        label={`${symmetric ? `Voltage, ${FORM_NAMES[form]}` : 'Positive peak'}${perWinding}`}
        unit="V"
        shownDigits={form === 'peak' ? undefined : 10}
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
      </More>
    </>
  );
}
