'use client';

import { Accordion, Collapsible } from 'radix-ui';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import type { Design, Load } from '@/core/design/design-schema';
import { amplitudeVolts } from '@/core/drive/drive';
import { sinePeakVolts, sineVoltsAs, VOLTAGE_FORMS, type VoltageForm } from '@/core/drive/sine-forms';
import { loadOfKind } from '@/core/output/load-of-kind';
import type { Prediction } from '@/core/predict/prediction';
import { Choice } from '@/ui/choice';
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
      <Card link="ladder" name="Ladder" kind="half-wave" line={<LadderLine {...editing} />} open={open}>
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
    </>
  );
}

function InputFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { driver } = design;
  const symmetric = driver.negativePeakVolts === undefined;
  // RMS and peak-to-peak stand for a peak only while both peaks are alike.
  const form = symmetric ? driver.enteredAs : 'peak';
  const others = VOLTAGE_FORMS.filter((other) => other !== form);
  return (
    <>
      {symmetric ? (
        <Choice
          label="Voltage entered as"
          value={form}
          options={VOLTAGE_FORMS.map((value) => ({ value, name: FORM_NAMES[value] }))}
          onValue={(value) => edit('$.driver.enteredAs', value)}
        />
      ) : null}
      <QuantityField
        id="input-volts"
        label={symmetric ? `Voltage, ${FORM_NAMES[form]}` : 'Positive peak'}
        unit="V"
        shownDigits={form === 'peak' ? undefined : 10}
        value={sineVoltsAs(driver.positivePeakVolts, form)}
        onValue={(value) => edit('$.driver.positivePeakVolts', value === null ? null : sinePeakVolts(value, form))}
        hint={
          symmetric ? (
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
          hint={symmetric ? undefined : 'Counted as a sine with a dc offset. Clear the field for equal peaks.'}
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
      {design.ladder.stages} {design.ladder.stages === 1 ? 'stage' : 'stages'} ·{' '}
      <Quantity value={design.ladder.capacitor.farads} unit="F" /> · no load{' '}
      <Quantity value={prediction.output.noLoadVolts} unit="V" />
    </>
  );
}

function LadderFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { ladder } = design;
  return (
    <>
      <QuantityField
        id="stages"
        label="Stages"
        unit=""
        value={ladder.stages}
        onValue={(value) => edit('$.ladder.stages', value)}
        hint={`${prediction.capacitors.length} capacitors, ${prediction.diodes.length} diodes. A stage is two of each; half a stage one.`}
      />
      <QuantityField
        label="Each capacitor"
        unit="F"
        value={ladder.capacitor.farads}
        onValue={(value) => edit('$.ladder.capacitor.farads', value)}
      />
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

const LOAD_NAMES: Record<Load['kind'], string> = { open: 'open', current: 'steady current', resistance: 'resistance' };

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
      <Choice
        label="Kind of load"
        value={load.kind}
        options={[
          { value: 'open', name: 'Open' },
          { value: 'current', name: 'Current' },
          { value: 'resistance', name: 'Resistance' },
        ]}
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
          hint="A meter is a load too: many draw through 10M."
        />
      ) : null}
    </>
  );
}
