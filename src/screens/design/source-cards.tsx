'use client';

import { driverOfKind, supplyOfKind } from '@/core/design/driver-of-kind';
import { NEEDS, type DriverKind, type Supply } from '@/core/design/driver-schema';
import type { SourceFigure } from '@/core/drive/drive-result';
import type { Prediction } from '@/core/predict/prediction';
import type { FieldDescription } from '@/core/quantity/field-description';
import { buttonStyle } from '@/ui/button';
import { More } from '@/ui/more';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import { DescribedField } from '@/ui/described-field';
import { DriveShape } from './drive-shape';
import type { Editing } from './editing';
import { FromDrawer } from './from-drawer';
import { MeterSense } from './meter-sense';
import { MeasuredFields } from './measured-fields';
import { DRIVER_FIELDS, DRIVER_NAMES, SUPPLY_FIELDS, SUPPLY_NAMES, TRANSFORMER_FIELDS } from './source-fields';
import type { BenchPage } from './transformer-bench/transformer-bench';

const figure = ({ source }: Prediction, key: string, link?: SourceFigure['link']) =>
  source.figures.find((one) => one.key === key && (!link || one.link === link)) ?? null;

function Shown({ of }: { of: SourceFigure | null }) {
  return of ? <Quantity value={of.value} unit={of.unit} /> : null;
}

export function SupplyLine({ design, prediction }: Editing) {
  const amps = figure(prediction, 'amps', 'supply');
  const { supply } = design;
  if (!supply) return null;
  return (
    <>
      {supply.kind === 'mains' ? (
        <>
          <Shown of={figure(prediction, 'volts', 'supply')} /> RMS · <Quantity value={supply.hertz} unit="Hz" />
        </>
      ) : (
        <>
          <Shown of={figure(prediction, 'volts', 'supply') ?? figure(prediction, 'open-volts')} /> dc
        </>
      )}
      {amps ? (
        <>
          {' '}
          · <Shown of={amps} />
        </>
      ) : null}
    </>
  );
}

/** What leaves the driver, and at the ladder's foot where no transformer follows. */
export function DriverLine({ design, prediction }: Editing) {
  const { drive } = prediction;
  const tank = figure(prediction, 'tank-peak') ?? figure(prediction, 'primary') ?? figure(prediction, 'peak-amps');
  return (
    <>
      {NEEDS[design.driver.kind].transformer ? (
        <>
          {tank ? (
            <>
              <Shown of={tank} /> peak ·{' '}
            </>
          ) : null}
          <Quantity value={drive.frequencyHertz} unit="Hz" />
        </>
      ) : (
        <>
          <FootVolts prediction={prediction} /> · <Quantity value={drive.frequencyHertz} unit="Hz" />
          {drive.waveform === 'sine' ? '' : ` · ${drive.waveform}`}
        </>
      )}
    </>
  );
}

export function TransformerLine({ prediction }: Editing) {
  return (
    <>
      <FootVolts prediction={prediction} />
      {prediction.drive.waveform === 'sine' ? '' : ` · ${prediction.drive.waveform}`}
    </>
  );
}

/** Peaks at the ladder's foot: both where they differ. */
function FootVolts({ prediction: { drive, source } }: { prediction: Prediction }) {
  const { positivePeakVolts, negativePeakVolts } = drive;
  return (
    <>
      <Quantity value={positivePeakVolts} unit="V" />
      {positivePeakVolts === negativePeakVolts ? (
        ' peak'
      ) : (
        <>
          {' '}
          and −<Quantity value={negativePeakVolts} unit="V" /> peak
        </>
      )}
      {source.level < 0.995 ? (
        <>
          , at this load <Quantity value={source.level} unit="%" digits={3} />
        </>
      ) : null}
    </>
  );
}

export function SupplyFields(editing: Editing) {
  const { store, design, prediction } = editing;
  const { supply, driver } = design;
  if (!supply) return null;
  const kinds: readonly Supply['kind'][] = NEEDS[driver.kind].supply;
  const volts = figure(prediction, 'open-volts')?.value ?? 24;
  return (
    <>
      {kinds.length > 1 ? (
        <PickField
          label="Supply"
          value={supply.kind}
          options={kinds.map((value) => ({ value, name: SUPPLY_NAMES[value] }))}
          onValue={(kind) => {
            if (kind !== supply.kind) store.getState().edit('$.supply', supplyOfKind(kind, volts));
          }}
        />
      ) : null}
      <Fields editing={editing} link="supply" fields={SUPPLY_FIELDS[supply.kind]} />
      <Figures prediction={prediction} link="supply" />
    </>
  );
}

export function DriverFields({ onBench, ...editing }: Editing & ToBench) {
  const { store, design, prediction } = editing;
  const { driver } = design;
  return (
    <>
      <PickField
        label="Driver"
        value={driver.kind}
        options={(Object.keys(DRIVER_NAMES) as DriverKind[]).map((value) => ({ value, name: DRIVER_NAMES[value] }))}
        onValue={(kind) => {
          if (kind !== driver.kind)
            store.getState().replace({ ...design, ...driverOfKind(kind, design, prediction.drive) });
        }}
      />
      {driver.kind === 'measured' ? (
        <MeasuredFields {...editing} driver={driver} />
      ) : (
        <Fields editing={editing} link="driver" fields={DRIVER_FIELDS[driver.kind]} />
      )}
      {driver.kind === 'mains' && driver.style !== 'direct' ? <FromDrawer {...editing} place="mains" /> : null}
      {driver.kind === 'module' ? <FromDrawer {...editing} place="module" /> : null}
      {'transistorPartId' in driver ? <FromDrawer {...editing} place="transistor" /> : null}
      {driver.kind === 'resonant-push-pull' ? <FromDrawer {...editing} place="tank" /> : null}
      {driver.kind === 'mains' && driver.style !== 'direct' ? (
        <MeterSense
          drive={prediction.drive}
          onTimes={(times) =>
            store.getState().edit('$.driver.secondaryVolts', Number((driver.secondaryVolts * times).toPrecision(7)))
          }
        />
      ) : null}
      {driver.kind === 'module' ? (
        <MeterSense
          drive={prediction.drive}
          onTimes={(times) =>
            store.getState().edit('$.driver.openVolts', Number((driver.openVolts * times).toPrecision(7)))
          }
        />
      ) : null}
      {design.transformer ? null : <DriveShape prediction={prediction} />}
      {driver.kind === 'mains' ? <BenchButton page="ratio" onBench={onBench} /> : null}
      <Figures prediction={prediction} link="driver" />
    </>
  );
}

type ToBench = { onBench: (page: BenchPage) => void };

function BenchButton({ page, onBench }: { page: BenchPage } & ToBench) {
  return (
    <button type="button" className={`${buttonStyle('plain')} mt-1.5 w-full`} onClick={() => onBench(page)}>
      Transformer bench
    </button>
  );
}

export function TransformerFields({ onBench, ...editing }: Editing & ToBench) {
  if (!editing.design.transformer) return null;
  return (
    <>
      <BenchButton page="ratio" onBench={onBench} />
      <FromDrawer {...editing} place="transformer" />
      <FromDrawer {...editing} place="core" />
      <Fields editing={editing} link="transformer" fields={TRANSFORMER_FIELDS} />
      <DriveShape prediction={editing.prediction} />
      <Figures prediction={editing.prediction} link="transformer" />
    </>
  );
}

function Fields({
  editing,
  link,
  fields,
}: {
  editing: Editing;
  link: SourceFigure['link'];
  fields: readonly FieldDescription[];
}) {
  const hidden = fields.filter((field) => field.more);
  const show = (field: FieldDescription) => <Field key={field.name} editing={editing} link={link} field={field} />;
  return (
    <>
      {fields.filter((field) => !field.more).map(show)}
      {hidden.length ? <More>{hidden.map(show)}</More> : null}
    </>
  );
}

function Field({
  editing: { store, design },
  link,
  field,
}: {
  editing: Editing;
  link: SourceFigure['link'];
  field: FieldDescription;
}) {
  return (
    <DescribedField
      field={field}
      value={(design[link] as Record<string, unknown>)[field.name]}
      onEdit={(changed) => store.getState().edit(`$.${link}.${field.name}`, changed)}
    />
  );
}

/** What comes out of a link, computed. */
function Figures({ prediction, link }: { prediction: Prediction; link: SourceFigure['link'] }) {
  const figures = prediction.source.figures.filter((one) => one.link === link);
  if (figures.length === 0) return null;
  return (
    <dl aria-label="Computed" className="mt-2 border-t border-rule pt-1 text-[13px]">
      {figures.map(({ key, label, value, unit }) => (
        <div key={key} className="flex items-baseline justify-between gap-2 py-[1.5px]">
          <dt className="text-soft">{label}</dt>
          <dd className="whitespace-nowrap" data-made={key}>
            <Quantity value={value} unit={unit} digits={4} />
          </dd>
        </div>
      ))}
    </dl>
  );
}
