'use client';

import { useMeter } from '@/client/meter-store';
import { METER_KINDS, type MeterKind } from '@/core/drive/meter-sense';
import { More } from '@/ui/more';
import { PickField } from '@/ui/pick-field';
import { QuantityField } from '@/ui/quantity-field';
import { OwnMeters } from './own-meters';

const KIND_NAMES: Record<MeterKind, string> = {
  'average-responding': 'Average-responding, ac',
  'true-rms': 'True RMS, ac',
  peak: 'Peak-reading',
  dc: 'Dc range',
};

/** The meter on one's own bench, by what its data sheet says. */
export function MeterFields() {
  const { settings: meter, change } = useMeter();
  return (
    <>
      <OwnMeters />
      <PickField
        label="Kind"
        value={meter.kind}
        options={METER_KINDS.map((value) => ({ value, name: KIND_NAMES[value] }))}
        onValue={(kind) => change({ kind })}
      />
      <QuantityField
        label="Probe divides by"
        unit=""
        value={meter.probeRatio}
        onValue={(value) => change({ probeRatio: value! })}
      />
      <QuantityField
        label="Jacks marked for, RMS"
        unit="V"
        value={meter.limitVolts}
        onValue={(value) => change({ limitVolts: value! })}
      />
      <More>
        <QuantityField
          label="Reads 0.71 at (−3 dB)"
          unit="Hz"
          optional
          value={meter.bandHertz}
          onValue={(value) => change({ bandHertz: value })}
          hint="Plain hand meters: 400 Hz to some 20 kHz."
        />
        <QuantityField
          label="Loads with"
          unit="Ω"
          value={meter.inputOhms}
          onValue={(value) => change({ inputOhms: value! })}
        />
        <QuantityField
          label="And capacitance"
          unit="F"
          value={meter.inputFarads}
          onValue={(value) => change({ inputFarads: value! })}
        />
        <QuantityField
          label="Accuracy, ±"
          unit="%"
          value={meter.accuracy}
          onValue={(value) => change({ accuracy: value! })}
        />
      </More>
    </>
  );
}
