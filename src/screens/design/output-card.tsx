'use client';

import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { Editing } from './editing';

export function OutputLine({ design, prediction }: Editing) {
  const { seriesOhms, bleederOhms } = design.output;
  return (
    <>
      {seriesOhms === 0 ? (
        'no series resistor'
      ) : (
        <>
          <Quantity value={seriesOhms} unit="Ω" /> takes{' '}
          <Quantity value={prediction.output.droopBySeriesResistorVolts} unit="V" />
        </>
      )}
      {' · '}
      {bleederOhms === null ? (
        'no bleeder'
      ) : (
        <>
          bleeder <Quantity value={prediction.output.bleederAmps} unit="A" />
        </>
      )}
    </>
  );
}

export function OutputFields({ store, design }: Editing) {
  const { edit } = store.getState();
  return (
    <>
      <QuantityField
        label="Series resistor"
        unit="Ω"
        value={design.output.seriesOhms}
        onValue={(value) => edit('$.output.seriesOhms', value)}
        hint="Between the terminal and the load: limits the current of an arc."
      />
      <QuantityField
        label="Bleeder"
        unit="Ω"
        optional
        placeholder="none"
        value={design.output.bleederOhms}
        onValue={(value) => edit('$.output.bleederOhms', value)}
        hint="Across the terminal: discharges the ladder after switch-off."
      />
    </>
  );
}
