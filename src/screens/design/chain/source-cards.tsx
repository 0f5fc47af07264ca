'use client';

import { DRIVER_KIND_IDS, DRIVER_KINDS, driverOfKind } from '@/core/drive/driver-kinds';
import { DRIVE_FIGURES, figuresOfLink, type DriveFigureId, type DriveLink } from '@/core/drive/figures';
import { SUPPLY_FIELDS, SUPPLY_NAMES, supplyOfKind, type Supply } from '@/core/drive/supply';
import { TRANSFORMER_FIELDS } from '@/core/magnetics/transformer';
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
import type { BenchPage } from '../transformer-bench/pages';

type Link = Exclude<DriveLink, 'input'>;

/** The first of some figures that this drive has. */
function Shown({ prediction, ids }: { prediction: Prediction; ids: readonly DriveFigureId[] }) {
  const { figures } = prediction.source;
  const id = ids.find((one) => figures[one] !== undefined);
  return id === undefined ? null : <Quantity value={figures[id]!} unit={DRIVE_FIGURES[id].unit} />;
}

export function SupplyLine({ design, prediction }: Editing) {
  const { supplyAmps, mainsAmps } = prediction.source.figures;
  const { supply } = design;
  if (!supply) return null;
  return (
    <>
      {supply.kind === 'mains' ? (
        <>
          <Shown prediction={prediction} ids={['mainsVolts']} /> RMS · <Quantity value={supply.hertz} unit="Hz" />
        </>
      ) : (
        <>
          <Shown prediction={prediction} ids={['supplyVolts', 'supplyOpenVolts']} /> dc
        </>
      )}
      {supplyAmps !== undefined || mainsAmps !== undefined ? (
        <>
          {' '}
          · <Shown prediction={prediction} ids={['supplyAmps', 'mainsAmps']} />
        </>
      ) : null}
    </>
  );
}

/** What of a driver's figures says most in one line. */
const TELLING: readonly DriveFigureId[] = ['tankPeakVolts', 'drivenPrimaryVolts', 'switchPeakAmps'];

/** What leaves the driver, and at the ladder's input where no transformer follows. */
export function DriverLine({ design, prediction }: Editing) {
  const { drive, source } = prediction;
  return (
    <>
      {DRIVER_KINDS[design.driver.kind].needs.transformer ? (
        <>
          {TELLING.some((id) => source.figures[id] !== undefined) ? (
            <>
              <Shown prediction={prediction} ids={TELLING} /> peak ·{' '}
            </>
          ) : null}
          <Quantity value={drive.frequencyHertz} unit="Hz" />
        </>
      ) : (
        <>
          <InputVolts prediction={prediction} /> · <Quantity value={drive.frequencyHertz} unit="Hz" />
          {drive.waveform === 'sine' ? '' : ` · ${drive.waveform}`}
        </>
      )}
    </>
  );
}

export function TransformerLine({ prediction }: Editing) {
  return (
    <>
      <InputVolts prediction={prediction} />
      {prediction.drive.waveform === 'sine' ? '' : ` · ${prediction.drive.waveform}`}
    </>
  );
}

/** Peaks at the ladder's input: both where they differ. */
function InputVolts({ prediction: { drive, source } }: { prediction: Prediction }) {
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
      {source.driveScale < 0.995 ? (
        <>
          , at this load <Quantity value={source.driveScale} unit="%" digits={3} />
        </>
      ) : null}
    </>
  );
}

export function SupplyFields(editing: Editing) {
  const { store, design, prediction } = editing;
  const { supply, driver } = design;
  if (!supply) return null;
  const kinds: readonly Supply['kind'][] = DRIVER_KINDS[driver.kind].needs.supply;
  const volts = prediction.source.figures.supplyOpenVolts ?? 24;
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
        options={DRIVER_KIND_IDS.map((value) => ({ value, name: DRIVER_KINDS[value].name }))}
        onValue={(kind) => {
          if (kind !== driver.kind)
            store
              .getState()
              .replace({ ...design, ...driverOfKind(kind, design, prediction.drive, prediction.source.ladderFarads) });
        }}
      />
      {driver.kind === 'measured' ? (
        <MeasuredFields {...editing} driver={driver} />
      ) : (
        <Fields editing={editing} link="driver" fields={DRIVER_KINDS[driver.kind].fields} />
      )}
      {DRIVER_KINDS[driver.kind].places.map(({ id }) => (
        <FromDrawer key={id} {...editing} place={id} />
      ))}
      {driver.kind === 'mains' ? (
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
      <Figures prediction={prediction} link="driver" last={!design.transformer} />
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
      <Figures prediction={editing.prediction} link="transformer" last />
    </>
  );
}

function Fields({ editing, link, fields }: { editing: Editing; link: Link; fields: readonly FieldDescription[] }) {
  const hidden = fields.filter((field) => field.more);
  const show = (field: FieldDescription) => <Field key={field.name} editing={editing} link={link} field={field} />;
  return (
    <>
      {fields.filter((field) => !field.more).map(show)}
      {hidden.length ? <More>{hidden.map(show)}</More> : null}
    </>
  );
}

function Field({ editing: { store, design }, link, field }: { editing: Editing; link: Link; field: FieldDescription }) {
  return (
    <DescribedField
      field={field}
      value={(design[link] as Record<string, unknown>)[field.name]}
      onEdit={(changed) => store.getState().edit(`$.${link}.${field.name}`, changed)}
    />
  );
}

/** What comes out of a link, computed. */
function Figures({
  prediction,
  link,
  last = false,
}: {
  prediction: Prediction;
  link: Link;
  /** Whether this is the last link before the ladder. */
  last?: boolean;
}) {
  const { figures } = prediction.source;
  const ids = [...figuresOfLink(figures, link), ...(last ? figuresOfLink(figures, 'input') : [])];
  if (ids.length === 0) return null;
  return (
    <dl aria-label="Computed" className="mt-2 border-t border-rule pt-1 text-[13px]">
      {ids.map((id) => (
        <div key={id} className="flex items-baseline justify-between gap-2 py-[1.5px]">
          <dt className="text-soft">{DRIVE_FIGURES[id].label}</dt>
          <dd className="whitespace-nowrap" data-drive-figure={id}>
            <Quantity value={figures[id]!} unit={DRIVE_FIGURES[id].unit} digits={4} />
          </dd>
        </div>
      ))}
    </dl>
  );
}
