'use client';

import { Accordion, Collapsible } from 'radix-ui';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import type { Design, Load } from '@/core/design/design-schema';
import { amplitudeVolts } from '@/core/drive/drive';
import { sinePeakVolts, sineVoltsAs, VOLTAGE_FORMS, type VoltageForm } from '@/core/drive/sine-forms';
import { GRADINGS, type Grading } from '@/core/ladder/grading';
import type { Topology } from '@/core/ladder/network';
import { TOPOLOGY_KINDS } from '@/core/ladder/topologies';
import { loadOfKind } from '@/core/output/load-of-kind';
import type { Prediction } from '@/core/predict/prediction';
import { Choice } from '@/ui/choice';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { EditorStore } from './editor-store';

export const LINKS = ['input', 'ladder', 'output', 'load'] as const;
export type Link = (typeof LINKS)[number];

type Editing = { store: EditorStore; design: Design; prediction: Prediction };

/** The chain: one card a link in the order of energy, one of them open. */
export function Chain({
  store,
  prediction,
  open,
  onOpen,
}: {
  store: EditorStore;
  prediction: Prediction;
  open: Link | '';
  onOpen: (link: Link | '') => void;
}) {
  const design = useStore(store, (state) => state.design);
  const editing = { store, design, prediction };
  return (
    <Accordion.Root
      type="single"
      collapsible
      value={open}
      onValueChange={(link) => onOpen(link as Link | '')}
      className="relative before:absolute before:inset-y-0 before:left-[5px] before:w-px before:bg-copper/60"
    >
      <Card link="input" name="Input" kind="measured" line={<InputLine {...editing} />} open={open}>
        <InputFields {...editing} />
      </Card>
      <Card
        link="ladder"
        name="Ladder"
        kind={TOPOLOGY_KINDS[design.ladder.topology].name.toLowerCase()}
        line={<LadderLine {...editing} />}
        open={open}
      >
        <LadderFields {...editing} />
      </Card>
      <Card link="output" name="Output" kind="series resistor, bleeder" line={<OutputLine {...editing} />} open={open}>
        <OutputFields {...editing} />
      </Card>
      <Card link="load" name="Load" kind={LOAD_NAMES[design.load.kind]} line={<LoadLine {...editing} />} open={open}>
        <LoadFields {...editing} />
      </Card>
    </Accordion.Root>
  );
}

function Card({
  link,
  name,
  kind,
  line,
  open,
  children,
}: {
  link: Link;
  name: string;
  kind: string;
  line: ReactNode;
  open: Link | '';
  children: ReactNode;
}) {
  return (
    <Accordion.Item value={link} className="relative pl-5">
      <span
        aria-hidden="true"
        className={`absolute top-[15px] left-0 size-[11px] rounded-full border-[1.5px] border-copper ${open === link ? 'bg-copper' : 'bg-paper'}`}
      />
      <div className="border-b border-rule py-2.5">
        <Accordion.Header>
          <Accordion.Trigger className="block w-full rounded text-left" data-link={link}>
            <span className="flex items-baseline justify-between gap-2">
              <span className="font-semibold">{name}</span>
              <span className="text-[12.5px] text-soft">{kind}</span>
            </span>
            <span className="block text-[13px] text-soft">{line}</span>
          </Accordion.Trigger>
        </Accordion.Header>
        <Accordion.Content className="pt-2">{children}</Accordion.Content>
      </div>
    </Accordion.Item>
  );
}

/** What matters less often, folded away. */
function More({ children }: { children: ReactNode }) {
  return (
    <Collapsible.Root>
      <Collapsible.Trigger className="group mt-1 text-[13px] text-copper hover:underline">
        <span className="group-data-[state=open]:hidden">More</span>
        <span className="hidden group-data-[state=open]:inline">Less</span>
      </Collapsible.Trigger>
      <Collapsible.Content>{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}

const FORM_NAMES: Record<VoltageForm, string> = { rms: 'RMS', peak: 'Peak', 'peak-to-peak': 'Peak-to-peak' };

function InputLine({ prediction }: Editing) {
  const { drive } = prediction;
  return (
    <>
      <Quantity value={drive.positivePeakVolts} unit="V" /> peak · <Quantity value={drive.frequencyHertz} unit="Hz" />
      {drive.waveform === 'sine' ? '' : ` · ${drive.waveform}`}
    </>
  );
}

function InputFields({ store, design, prediction }: Editing) {
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

function LadderLine({ design, prediction }: Editing) {
  return (
    <>
      {TOPOLOGY_KINDS[design.ladder.topology].stages === 'fixed' ? null : (
        <>
          {design.ladder.stages} {design.ladder.stages === 1 ? 'stage' : 'stages'}
          {design.ladder.topology === 'bipolar' ? ' a side' : ''} ·{' '}
        </>
      )}
      <Quantity value={design.ladder.capacitor.farads} unit="F" /> · no load{' '}
      <Quantity value={prediction.output.noLoadVolts} unit="V" />
    </>
  );
}

function LadderFields({ store, design, prediction }: Editing) {
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
      <More>
        <QuantityField
          label="Diode average"
          unit="A"
          optional
          value={ladder.diode.averageAmps}
          onValue={(value) => edit('$.ladder.diode.averageAmps', value)}
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
          hint="At its peak inverse voltage. Resistance and leakage count in the time domain."
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
          label="Capacitor tolerance"
          unit="%"
          value={ladder.capacitor.tolerance}
          onValue={(value) => edit('$.ladder.capacitor.tolerance', value)}
        />
      </More>
    </>
  );
}

function partsCount({ capacitors, diodes }: Prediction): string {
  const count = (number: number, name: string) => `${number} ${name}${number === 1 ? '' : 's'}`;
  return `${count(capacitors.length, 'capacitor')}, ${count(diodes.length, 'diode')}.`;
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

function OutputLine({ design, prediction }: Editing) {
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

function OutputFields({ store, design }: Editing) {
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

/** What a load draws when nothing yet says how much: a few probes' worth. */
const USUAL_AMPS = 10e-6;

const LOAD_NAMES: Record<Load['kind'], string> = {
  open: 'open',
  current: 'steady current',
  resistance: 'resistance',
  meter: 'meter',
  corona: 'corona',
  gap: 'spark gap',
};

const capitalised = (words: string) => words[0].toUpperCase() + words.slice(1);

function LoadLine({ prediction }: Editing) {
  const { amps, watts } = prediction.output;
  if (amps === null) return <>past the closed form</>;
  return amps === 0 ? (
    <>nothing drawn</>
  ) : (
    <>
      <Quantity value={amps} unit="A" /> · <Quantity value={watts} unit="W" />
    </>
  );
}

function LoadFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { load } = design;
  /** A load of the new kind that draws about what the old one did. */
  const switchTo = (kind: Load['kind']) => {
    if (kind === load.kind) return;
    const { amps, meanVolts, noLoadVolts } = prediction.output;
    const drawn = { amps: amps || design.target?.amps || USUAL_AMPS, volts: meanVolts || noLoadVolts || 1 };
    edit('$.load', loadOfKind(kind, drawn));
  };
  return (
    <>
      <PickField
        label="Kind of load"
        value={load.kind}
        options={(Object.keys(LOAD_NAMES) as Load['kind'][]).map((value) => ({
          value,
          name: capitalised(LOAD_NAMES[value]),
        }))}
        onValue={switchTo}
      />
      {load.kind === 'current' ? (
        <QuantityField
          id="load-amps"
          label="Load current"
          unit="A"
          value={load.amps}
          onValue={(value) => edit('$.load.amps', value)}
        />
      ) : null}
      {load.kind === 'resistance' ? (
        <QuantityField
          id="load-ohms"
          label="Load resistance"
          unit="Ω"
          value={load.ohms}
          onValue={(value) => edit('$.load.ohms', value)}
        />
      ) : null}
      {load.kind === 'meter' ? (
        <QuantityField
          label="Probe resistance"
          unit="Ω"
          value={load.ohms}
          onValue={(value) => edit('$.load.ohms', value)}
          hint="Many meters draw through 10M; a high-voltage probe through 1G or so."
        />
      ) : null}
      {load.kind === 'corona' ? (
        <>
          <QuantityField
            label="Corona starts at"
            unit="V"
            value={load.onsetVolts}
            onValue={(value) => edit('$.load.onsetVolts', value)}
          />
          <QuantityField
            label="Coefficient, A per V²"
            unit=""
            value={load.ampsPerSquareVolt}
            onValue={(value) => edit('$.load.ampsPerSquareVolt', value)}
            hint="Draws coefficient × V × (V − start)."
          />
        </>
      ) : null}
      {load.kind === 'gap' ? (
        <>
          <QuantityField
            label="Gap strikes at"
            unit="V"
            value={load.strikeVolts}
            onValue={(value) => edit('$.load.strikeVolts', value)}
          />
          <QuantityField
            label="Arc resistance"
            unit="Ω"
            value={load.arcOhms}
            onValue={(value) => edit('$.load.arcOhms', value)}
          />
          <QuantityField
            label="Arc goes out under"
            unit="A"
            value={load.quenchAmps}
            onValue={(value) => edit('$.load.quenchAmps', value)}
          />
        </>
      ) : null}
    </>
  );
}
