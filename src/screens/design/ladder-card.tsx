'use client';

import { GRADINGS, type Grading } from '@/core/ladder/grading';
import type { Topology } from '@/core/ladder/network';
import { TOPOLOGY_KINDS } from '@/core/ladder/topologies';
import type { Prediction } from '@/core/predict/prediction';
import { More } from '@/ui/more';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { Editing } from './editing';
import { FromDrawer } from './from-drawer';

export function LadderLine({ design, prediction }: Editing) {
  return (
    <>
      {TOPOLOGY_KINDS[design.ladder.topology].stages === 'fixed' ? null : (
        <>
          {design.ladder.stages} {design.ladder.stages === 1 ? 'stage' : 'stages'}
          {design.ladder.topology === 'bipolar' ? ' a side' : ''} ·{' '}
        </>
      )}
      <Quantity value={prediction.places.capacitor.farads} unit="F" /> · no load{' '}
      <Quantity value={prediction.output.noLoadVolts} unit="V" />
    </>
  );
}

export function LadderFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { ladder } = design;
  const kind = TOPOLOGY_KINDS[ladder.topology];
  return (
    <>
      <PickField
        label="Topology"
        value={ladder.topology}
        options={(Object.keys(TOPOLOGY_KINDS) as Topology[]).map((value) => ({
          value,
          name: TOPOLOGY_KINDS[value].name,
        }))}
        onValue={(value) => edit('$.ladder.topology', value)}
        hint={`${kind.describe}. ${partsCount(prediction)}`}
      />
      {kind.stages === 'fixed' ? null : (
        <QuantityField
          id="stages"
          label={ladder.topology === 'bipolar' ? 'Stages, each side' : 'Stages'}
          unit=""
          value={ladder.stages}
          onValue={(value) => edit('$.ladder.stages', value)}
          hint={kind.stageHint}
        />
      )}
      <CapacitorFields store={store} design={design} prediction={prediction} />
      <QuantityField
        label="Capacitor rating"
        unit="V"
        optional
        value={ladder.capacitor.ratedVolts}
        onValue={(value) => edit('$.ladder.capacitor.ratedVolts', value)}
      />
      <FromDrawer store={store} design={design} prediction={prediction} place="capacitor" />
      <QuantityField
        label="Diode peak inverse"
        unit="V"
        optional
        value={ladder.diode.peakInverseVolts}
        onValue={(value) => edit('$.ladder.diode.peakInverseVolts', value)}
      />
      <QuantityField
        label="Diode forward drop"
        unit="V"
        value={ladder.diode.forwardVolts}
        onValue={(value) => edit('$.ladder.diode.forwardVolts', value)}
      />
      <QuantityField
        label="Diode recovery"
        unit="s"
        optional
        value={ladder.diode.recoverySeconds}
        onValue={(value) => edit('$.ladder.diode.recoverySeconds', value)}
      />
      <FromDrawer store={store} design={design} prediction={prediction} place="diode" />
      <More>
        <QuantityField
          label="Capacitors in series, each place"
          unit=""
          value={ladder.capacitor.series}
          onValue={(value) => edit('$.ladder.capacitor.series', value)}
        />
        <QuantityField
          label="Such strings side by side"
          unit=""
          value={ladder.capacitor.parallel}
          onValue={(value) => edit('$.ladder.capacitor.parallel', value)}
          hint={<BankHint prediction={prediction} />}
        />
        <QuantityField
          label="Diodes in series, each place"
          unit=""
          value={ladder.diode.series}
          onValue={(value) => edit('$.ladder.diode.series', value)}
          hint={
            ladder.diode.series > 1
              ? 'Drop and rating count as those of the whole string, shared by their junctions.'
              : undefined
          }
        />
        <QuantityField
          label="Diode average"
          unit="A"
          optional
          value={ladder.diode.averageAmps}
          onValue={(value) => edit('$.ladder.diode.averageAmps', value)}
        />
        <QuantityField
          label="Diode surge"
          unit="A"
          optional
          value={ladder.diode.surgeAmps}
          onValue={(value) => edit('$.ladder.diode.surgeAmps', value)}
        />
        <QuantityField
          label="Diode on-resistance"
          unit="Ω"
          value={ladder.diode.onOhms}
          onValue={(value) => edit('$.ladder.diode.onOhms', value)}
        />
        <QuantityField
          label="Diode leakage"
          unit="A"
          value={ladder.diode.leakageAmps}
          onValue={(value) => edit('$.ladder.diode.leakageAmps', value)}
          hint={
            <>
              At its peak inverse voltage. Resistance and leakage count in the time domain.
              <BalanceHint balance={prediction.balancing.diode} />
            </>
          }
        />
        <QuantityField
          label="Diode junction"
          unit="F"
          value={ladder.diode.junctionFarads}
          onValue={(value) => edit('$.ladder.diode.junctionFarads', value)}
        />
        <QuantityField
          label="Stray, each diode"
          unit="F"
          value={ladder.strayFarads}
          onValue={(value) => edit('$.ladder.strayFarads', value)}
        />
        <QuantityField
          label="Capacitor kept at rated voltage"
          unit="%"
          optional
          placeholder="all"
          value={ladder.capacitor.keptAtRating}
          onValue={(value) => edit('$.ladder.capacitor.keptAtRating', value)}
          hint="Class-2 ceramic loses capacitance with voltage: perhaps 30 to 60 % is left."
        />
        <QuantityField
          label="Capacitor rating, ac RMS"
          unit="V"
          optional
          value={ladder.capacitor.ratedAcVolts}
          onValue={(value) => edit('$.ladder.capacitor.ratedAcVolts', value)}
        />
        <QuantityField
          label="Capacitor leakage"
          unit="A"
          value={ladder.capacitor.leakageAmps}
          onValue={(value) => edit('$.ladder.capacitor.leakageAmps', value)}
          hint={<BalanceHint balance={prediction.balancing.capacitor} />}
        />
        <QuantityField
          label="Capacitor tolerance"
          unit="%"
          value={ladder.capacitor.tolerance}
          onValue={(value) => edit('$.ladder.capacitor.tolerance', value)}
        />
      </More>
    </>
  );
}

/** What would balance a string whose parts leak unlike. */
function BalanceHint({ balance }: { balance: Prediction['balancing']['diode'] }) {
  if (!balance) return null;
  return (
    <>
      {' '}
      Across each of the string a resistor of at most <Quantity value={balance.ohms} unit="Ω" /> keeps the one that
      leaks least within its rating; it takes up to <Quantity value={balance.wattsEach} unit="W" />.
    </>
  );
}

/** What a bank is as a whole. */
function BankHint({ prediction: { places } }: { prediction: Prediction }) {
  const { series, parallel, farads, ratedVolts, worstShare } = places.capacitor;
  if (series * parallel === 1) return null;
  return (
    <>
      As a whole <Quantity value={farads} unit="F" />
      {ratedVolts === null ? null : (
        <>
          , stands <Quantity value={ratedVolts} unit="V" />
        </>
      )}
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

function partsCount({ capacitors, diodes, places }: Prediction): string {
  const count = (number: number, name: string) => `${number} ${name}${number === 1 ? '' : 's'}`;
  const { series, parallel } = places.capacitor;
  return `${count(series * parallel * capacitors.length, 'capacitor')}, ${count(places.diode.series * diodes.length, 'diode')}.`;
}

const LISTED = 'listed';
const GRADING_NAMES: Record<Grading | typeof LISTED, string> = {
  equal: 'All alike',
  'first-doubled': 'First doubled',
  tapered: 'Tapered',
  listed: 'Each by itself',
};

/** Capacitances by rule or one by one. */
function CapacitorFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { ladder } = design;
  const { capacitorFarads } = ladder;
  const grade = (value: Grading | typeof LISTED) =>
    edit('$.ladder', {
      ...ladder,
      ...(value === LISTED
        ? { capacitorFarads: prediction.capacitors.map((part) => part.farads) }
        : { grading: value, capacitorFarads: null }),
    });
  return (
    <>
      <PickField
        label="Capacitors"
        value={capacitorFarads ? LISTED : ladder.grading}
        options={[...GRADINGS, LISTED].map((value) => ({
          value: value as Grading | typeof LISTED,
          name: GRADING_NAMES[value as Grading],
        }))}
        onValue={grade}
      />
      {capacitorFarads ? (
        prediction.capacitors.map((part, index) => (
          <QuantityField
            key={part.id}
            label={`${part.id}, ${part.column}${part.side === -1 ? ', below' : ''} ${part.stage}`}
            unit="F"
            value={capacitorFarads[index] ?? null}
            onValue={(value) =>
              edit(
                '$.ladder.capacitorFarads',
                capacitorFarads.map((farads, at) => (at === index ? value : farads)),
              )
            }
          />
        ))
      ) : (
        <QuantityField
          label={ladder.grading === 'tapered' ? 'Top capacitor' : 'Each capacitor'}
          unit="F"
          value={ladder.capacitor.farads}
          onValue={(value) => edit('$.ladder.capacitor.farads', value)}
        />
      )}
    </>
  );
}
