'use client';

import type { ReactNode } from 'react';
import { DIVIDER_KELVINS, USUAL_DIVIDER, type DividerFigures } from '@/core/output/divider';
import { quantityField, type FieldDescription } from '@/core/quantity/field-description';
import { formatQuantity } from '@/core/quantity/format-quantity';
import { signedVolts, type Polarity } from '@/core/quantity/polarity';
import { buttonStyle } from '@/ui/button';
import { DescribedField } from '@/ui/described-field';
import { More } from '@/ui/more';
import { Quantity } from '@/ui/quantity';
import type { Editing } from './editing';
import { FromDrawer } from './from-drawer';

const FIELDS: readonly FieldDescription[] = [
  quantityField('topOhms', 'String, in all', 'Ω'),
  quantityField('topCount', 'Made of, in series', ''),
  quantityField('footOhms', 'Foot', 'Ω'),
  quantityField('meterOhms', 'Meter across it', 'Ω', { optional: true, absent: 'draws none' }),
  quantityField('meterVolts', 'Meter takes at most', 'V', { optional: true }),
  quantityField('clampVolts', 'Clamp across the foot', 'V', { optional: true, absent: 'none' }),
];

const MORE: readonly FieldDescription[] = [
  quantityField('topRatedVolts', 'Voltage rating of each', 'V', { optional: true }),
  quantityField('topWatts', 'Each rated', 'W', { optional: true }),
  quantityField('topTolerance', 'String within', '%'),
  quantityField('footTolerance', 'Foot within', '%'),
  quantityField('meterTolerance', 'Meter within', '%'),
  quantityField('perVolt', 'Changes for each volt', '%', { optional: true, hint: 'Of each resistor of the string.' }),
  quantityField('perKelvin', 'Changes for each kelvin', '%', {
    optional: true,
    hint: `Counted over ${DIVIDER_KELVINS} K between string and foot.`,
  }),
  quantityField('footFarads', 'Across foot and meter', 'F'),
  quantityField('topFarads', 'Across the string', 'F', { hint: 'Of all its capacitors in series.' }),
];

export function DividerLine({ prediction: { divider, output } }: Editing) {
  if (!divider) return <>nothing measures the output</>;
  return (
    <>
      <Quantity value={divider.ratio} unit="" digits={4} /> to 1 ·{' '}
      {divider.shownVolts === null ? (
        'no figure for the meter'
      ) : (
        <>
          meter shows <Quantity value={signedVolts(divider.shownVolts, output.polarity)} unit="V" digits={4} />
        </>
      )}
    </>
  );
}

export function DividerFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { divider } = design.output;
  if (!divider)
    return (
      <button type="button" className={buttonStyle('plain')} onClick={() => edit('$.output.divider', USUAL_DIVIDER)}>
        Add a measuring divider
      </button>
    );
  const field = (description: FieldDescription) => (
    <DescribedField
      key={description.name}
      field={description}
      value={(divider as Record<string, unknown>)[description.name]}
      onEdit={(value) => edit(`$.output.divider.${description.name}`, value)}
    />
  );
  return (
    <>
      {FIELDS.map(field)}
      <FromDrawer store={store} design={design} prediction={prediction} place="divider" />
      <More>{MORE.map(field)}</More>
      {prediction.divider ? <Figures of={prediction.divider} polarity={prediction.output.polarity} /> : null}
      <button
        type="button"
        className="mt-1 text-[13px] text-copper hover:underline"
        onClick={() => edit('$.output.divider', null)}
      >
        Take the divider away
      </button>
    </>
  );
}

function Figures({ of, polarity }: { of: DividerFigures; polarity: Polarity }) {
  const { errors } = of;
  const parts = [
    ['resistors', errors.tolerance],
    ['their voltage', errors.perVolt],
    ['warmth', errors.perKelvin],
    ['meter', errors.meter],
  ] as const;
  const counted = parts.flatMap(([name, part]) => (part === null ? [] : `${name} ${formatQuantity(part, '%', 2)}`));
  const unknown = parts.flatMap(([name, part]) => (part === null ? [name] : []));
  return (
    <dl aria-label="The divider" className="mt-2 border-t border-rule pt-2 text-[13.5px]">
      <Row name="Meter shows, mean" id="shown">
        <Quantity value={of.shownVolts === null ? null : signedVolts(of.shownVolts, polarity)} unit="V" digits={4} />
      </Row>
      <Row name="Off at worst" id="off">
        ±<Quantity value={errors.atWorst} unit="%" digits={2} />
      </Row>
      <dd className="text-xs text-soft">
        {counted.join(', ')}
        {unknown.length > 0 ? `; not known and not counted: ${unknown.join(', ')}` : ''}
      </dd>
      <Row name="Draws" id="draws">
        <Quantity value={of.amps} unit="A" />
      </Row>
      <Row name="Most on the meter, peak" id="most">
        <Quantity value={of.mostShownVolts} unit="V" />
      </Row>
      <Row name="Should the foot open" id="open">
        <Quantity value={of.openFootVolts} unit="V" />
      </Row>
      <Row name="On each of the string, peak" id="each">
        <Quantity value={of.voltsEach} unit="V" /> · <Quantity value={of.wattsEach} unit="W" />
      </Row>
      <Row name="Shows ripple up to (−3 dB)" id="band">
        {of.bandHertz === null ? 'any frequency' : <Quantity value={of.bandHertz} unit="Hz" />}
      </Row>
      <dd className="text-xs text-soft">
        <Quantity value={of.levelFarads} unit="F" /> across the whole string would show every frequency alike.
      </dd>
    </dl>
  );
}

function Row({ name, id, children }: { name: string; id: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-2 py-[1.5px]" data-divider={id}>
      <dt className="text-soft">{name}</dt>
      <dd className="text-right whitespace-nowrap">{children}</dd>
    </div>
  );
}
