'use client';

import type { ReactNode } from 'react';
import type { Prediction } from '@/core/predict/prediction';
import { quantityField, type FieldDescription } from '@/core/quantity/field-description';
import { DescribedField } from '@/ui/described-field';
import { TOPOLOGY_KINDS } from '@/core/topology/topologies';
import { More } from '@/ui/more';
import { CountingChoice } from '@/ui/use-counting';
import { Quantity } from '@/ui/quantity';
import type { Editing } from './editing';

const optional = { optional: true };

/** What matters less often of a ladder's parts, each by the part of the ladder it belongs to. */
const FIELDS: readonly (readonly ['capacitor' | 'diode' | null, FieldDescription])[] = [
  ['capacitor', quantityField('series', 'Capacitors in series, each place', '')],
  ['capacitor', quantityField('parallel', 'Such strings in parallel', '')],
  ['diode', quantityField('series', 'Diodes in series, each place', '')],
  [
    'diode',
    quantityField('forwardAmps', 'Diode drop rated at', 'A', {
      ...optional,
      hint: 'Then the drop follows the current: some 0.3 V a junction at microamps. As it stands while this is empty.',
    }),
  ],
  ['diode', quantityField('averageAmps', 'Diode average', 'A', optional)],
  ['diode', quantityField('surgeAmps', 'Diode surge', 'A', optional)],
  ['diode', quantityField('onOhms', 'Diode on-resistance', 'Ω')],
  [
    'diode',
    quantityField('leakageAmps', 'Diode leakage', 'A', {
      hint: 'At its peak inverse voltage. Resistance and leakage count in the time domain.',
    }),
  ],
  ['diode', quantityField('junctionFarads', 'Diode junction', 'F')],
  [
    'diode',
    quantityField('junctionVolts', 'Junction measured at, reverse', 'V', {
      ...optional,
      hint: 'Then it falls with voltage: at kilovolts a data sheet’s value is several times too high.',
    }),
  ],
  [null, quantityField('strayFarads', 'Stray, each diode', 'F')],
  [
    'capacitor',
    quantityField('dcBiasDerating', 'DC-bias derating, left at rated voltage', '%', {
      ...optional,
      hint: 'Class-2 ceramic loses capacitance with voltage: perhaps 30 to 60 % is left.',
    }),
  ],
  ['capacitor', quantityField('ratedAcVolts', 'Capacitor rating, ac RMS', 'V', optional)],
  ['capacitor', quantityField('ratedRmsAmps', 'Capacitor rating, current RMS', 'A', optional)],
  [
    'capacitor',
    quantityField('lossTangent', 'Capacitor loss tangent', '', {
      ...optional,
      hint: 'With the size of its body it tells how much each warms itself.',
    }),
  ],
  ['capacitor', quantityField('lengthMetres', 'Capacitor length', 'm', optional)],
  ['capacitor', quantityField('diameterMetres', 'Capacitor diameter', 'm', optional)],
  ['capacitor', quantityField('leakageAmps', 'Capacitor leakage', 'A')],
  ['capacitor', quantityField('tolerance', 'Capacitor tolerance', '%')],
];

/** The rest of the ladder's card, with what strings and banks come to. */
export function LadderMore({ store, design, prediction }: Editing) {
  const { ladder } = design;
  /** What a field's value brings about, said under it. */
  const follows = (path: string): ReactNode => {
    switch (path) {
      case 'capacitor.parallel':
        return <BankHint prediction={prediction} />;
      case 'diode.series':
        return ladder.diode.series > 1
          ? 'Drop and rating count as those of the whole string, shared by their junctions.'
          : null;
      case 'diode.leakageAmps':
        return <BalanceHint balance={prediction.balancing.diode} />;
      case 'capacitor.leakageAmps':
        return <BalanceHint balance={prediction.balancing.capacitor} />;
      default:
        return null;
    }
  };
  return (
    <More>
      {TOPOLOGY_KINDS[ladder.topology].stages === 'fixed' ? null : <CountingChoice />}
      {FIELDS.map(([of, field]) => {
        const path = of === null ? field.name : `${of}.${field.name}`;
        const holder: Record<string, unknown> = of === null ? ladder : ladder[of];
        return (
          <div key={path}>
            <DescribedField
              field={field}
              value={holder[field.name]}
              onEdit={(value) => store.getState().edit(`$.ladder.${path}`, value)}
            />
            <p className="text-xs text-soft empty:hidden">{follows(path)}</p>
          </div>
        );
      })}
    </More>
  );
}

/** What would balance a string whose parts leak unlike. */
function BalanceHint({ balance }: { balance: Prediction['balancing']['diode'] }) {
  if (!balance) return null;
  return (
    <>
      Across each of the string a resistor of at most <Quantity value={balance.ohms} unit="Ω" /> keeps the one that
      leaks least within its rating; it takes up to <Quantity value={balance.wattsEach} unit="W" />.
    </>
  );
}

/** What a bank is as a whole. */
function BankHint({ prediction: { places } }: { prediction: Prediction }) {
  const { series, parallel, farads, ratedVolts, worstShare, currentShare } = places.capacitor;
  if (series * parallel === 1) return null;
  return (
    <>
      As a whole <Quantity value={farads} unit="F" />
      {ratedVolts === null ? null : (
        <>
          , rated <Quantity value={ratedVolts} unit="V" />
        </>
      )}
      {parallel > 1 ? (
        <>
          ; one of the strings may get <Quantity value={currentShare} unit="%" /> of the current
        </>
      ) : null}
      {series > 1 ? (
        <>
          : within tolerance one of them may get <Quantity value={worstShare} unit="%" /> of the voltage. For long it
          shares by leakage unless resistors balance it, which are not counted.
        </>
      ) : (
        '.'
      )}
    </>
  );
}
