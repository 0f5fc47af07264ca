'use client';

import { MOST_STAGES } from '@/core/design/design-schema';
import { GRADINGS, type Grading } from '@/core/topology/grading';
import type { Topology } from '@/core/topology/network';
import { countOf, stagesOf } from '@/core/quantity/counting';
import { countFault, stageHint, stagesInWords } from '@/core/topology/stage-words';
import { inParts, partsOf, TOPOLOGY_KINDS } from '@/core/topology/topologies';
import { shownFigure } from '@/core/predict/figures';
import { inAPlace } from '@/core/predict/prediction';
import { quantityField, type FieldDescription } from '@/core/quantity/field-description';
import { withUsualDiode } from '@/core/drawer/usual-diode';
import { directRating } from '@/core/parts/bank';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { DIODE_KIND, DIODE_KINDS, kindOfDiode, type DiodeKind } from '@/core/parts/diode-kinds';
import { DescribedField } from '@/ui/described-field';
import { PickField } from '@/ui/pick-field';
import { PolarityChoice } from '@/ui/polarity-choice';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import { useCounting } from '@/ui/use-counting';
import type { Editing } from './editing';
import { FromDrawer } from './from-drawer';
import { LadderMore } from './ladder-more';

export function LadderLine({ design, prediction }: Editing) {
  const { counting } = useCounting();
  if (prediction.output.alternating)
    return (
      <>
        no load <Quantity value={prediction.output.noLoadPeakVolts} unit="V" /> peak
      </>
    );
  return (
    <>
      {TOPOLOGY_KINDS[design.ladder.topology].stages === 'fixed' ? null : (
        <>{stagesInWords(design.ladder.topology, design.ladder.stages, counting)} · </>
      )}
      <Quantity value={prediction.places.capacitor.farads} unit="F" /> · no load{' '}
      <Quantity value={shownFigure('noLoadVolts', prediction)} unit="V" />
    </>
  );
}

export function LadderFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { ladder } = design;
  const kind = TOPOLOGY_KINDS[ladder.topology];
  const { counting } = useCounting();
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
        hint={`${kind.describe}.${prediction.output.alternating ? '' : ` ${inParts(partsOf(ladder.topology, ladder.stages, inAPlace(prediction.places)))}.`}`}
      />
      {kind.floats || prediction.output.alternating ? null : (
        <PolarityChoice value={ladder.polarity} onValue={(polarity) => edit('$.ladder.polarity', polarity)} />
      )}
      {kind.stages === 'fixed' ? null : (
        <QuantityField
          id="stages"
          label={kind.stagesEach ? 'Stages, each side' : 'Stages'}
          unit=""
          value={countOf(ladder.stages, counting)}
          onValue={(count) =>
            countFault(count ?? NaN, ladder.topology, counting, MOST_STAGES) ??
            edit('$.ladder.stages', stagesOf(count ?? NaN, counting))
          }
          hint={stageHint(ladder.topology, counting)}
        />
      )}
      {prediction.output.alternating ? null : (
        <>
          <CapacitorFields store={store} design={design} prediction={prediction} />
          <CapacitorRating store={store} design={design} />
          <FromDrawer store={store} design={design} prediction={prediction} place="capacitor" />
          <UsualDiode store={store} design={design} prediction={prediction} />
          <Described store={store} design={design} of="diode" fields={DIODE_FIELDS} />
          <FromDrawer store={store} design={design} prediction={prediction} place="diode" />
          <LadderMore store={store} design={design} prediction={prediction} />
        </>
      )}
    </>
  );
}

const CAPACITOR_RATING = quantityField('ratedVolts', 'Capacitor rating', 'V', { optional: true });
const DIODE_FIELDS = [
  quantityField('peakInverseVolts', 'Diode peak inverse', 'V', { optional: true }),
  quantityField('forwardVolts', 'Diode forward drop', 'V'),
  quantityField('recoverySeconds', 'Diode recovery', 's', { optional: true }),
];

/** Fields of the capacitors or diodes by their descriptions. */
function Described({
  store,
  design,
  of,
  fields,
}: Pick<Editing, 'store' | 'design'> & { of: 'capacitor' | 'diode'; fields: readonly FieldDescription[] }) {
  const holder: Record<string, unknown> = design.ladder[of];
  return fields.map((field) => (
    <DescribedField
      key={field.name}
      field={field}
      value={holder[field.name]}
      onEdit={(value) => store.getState().edit(`$.ladder.${of}.${field.name}`, value)}
    />
  ));
}

/** The capacitors' direct voltage; "2100 VAC" typed here is kept as what it is, and its crest counts. */
function CapacitorRating({ store, design }: Pick<Editing, 'store' | 'design'>) {
  const { capacitor } = design.ladder;
  const { edit } = store.getState();
  const set = (values: Partial<typeof capacitor>) => edit('$.ladder.capacitor', { ...capacitor, ...values });
  const crest = capacitor.ratedVolts === null ? directRating(capacitor) : null;
  return (
    <DescribedField
      field={CAPACITOR_RATING}
      value={capacitor.ratedVolts}
      onEdit={(ratedVolts) => edit('$.ladder.capacitor.ratedVolts', ratedVolts)}
      onAlternating={(ratedAcVolts) => set({ ratedVolts: null, ratedAcVolts })}
      hint={
        crest === null
          ? undefined
          : `Rated ${formatQuantity(capacitor.ratedAcVolts!, 'V')} AC RMS: its crest, ${formatQuantity(crest, 'V')}, is taken as direct.`
      }
    />
  );
}

const AS_ENTERED = 'entered';

/** What is usual of a kind of diode, filled in at once; the kind itself is not kept. */
function UsualDiode({ store, design, prediction }: Editing) {
  const kind = kindOfDiode(design.ladder.diode);
  const names = DIODE_KINDS.map((value) => ({ value, name: DIODE_KIND[value].name }));
  return (
    <PickField<DiodeKind | typeof AS_ENTERED>
      label="Diodes"
      value={kind ?? AS_ENTERED}
      options={kind === null ? [{ value: AS_ENTERED, name: 'As entered' }, ...names] : names}
      onValue={(value) => {
        if (value !== AS_ENTERED) store.getState().edit('$.ladder.diode', withUsualDiode(design, value, prediction));
      }}
      hint={
        kind === null
          ? undefined
          : `${DIODE_KIND[kind].describe}. Usual values, by no data sheet: enter those of yours where you know them.`
      }
    />
  );
}

const LISTED = 'listed';
const GRADING_NAMES: Record<Grading | typeof LISTED, string> = {
  equal: 'Equal',
  'first-doubled': 'First doubled',
  tapered: 'Tapered',
  listed: 'Individual values',
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
            label={`${part.id}, ${part.count > 1 ? `each of ${part.count}, ` : ''}${part.column}${part.side === -1 ? ', below' : ''} ${part.stage}`}
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
