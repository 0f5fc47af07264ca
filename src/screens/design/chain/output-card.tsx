'use client';

import { FIGURES } from '@/core/predict/figures';
import { quantityField } from '@/core/quantity/field-description';
import { DescribedField } from '@/ui/described-field';
import { Quantity } from '@/ui/quantity';
import { QuantityField } from '@/ui/quantity-field';
import type { Editing } from './editing';
import { FromDrawer } from './from-drawer';
import { SmoothingFields } from './smoothing-fields';

export function OutputLine({ design, prediction }: Editing) {
  const { seriesOhms, bleederOhms } = design.output;
  if (prediction.output.alternating)
    return (
      <>
        {seriesOhms === 0 ? 'no series resistor' : <Quantity value={seriesOhms} unit="Ω" />}
        {bleederOhms === null ? '' : ' · bleeder across it'}
      </>
    );
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

export function OutputFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  return (
    <>
      <SmoothingFields store={store} design={design} prediction={prediction} />
      <QuantityField
        label="Series resistor"
        printed
        unit="Ω"
        value={design.output.seriesOhms}
        onValue={(value) => edit('$.output.seriesOhms', value)}
        hint="Between the terminal and the load: limits the current of an arc."
      />
      <FromDrawer store={store} design={design} prediction={prediction} place="series" />
      {design.output.seriesOhms > 0 ? <Ratings store={store} design={design} of="series" /> : null}
      <QuantityField
        label="Bleeder"
        printed
        unit="Ω"
        optional
        placeholder="none"
        value={design.output.bleederOhms}
        onValue={(value) => edit('$.output.bleederOhms', value)}
        hint="Across the terminal: discharges the ladder after switch-off."
      />
      <FromDrawer store={store} design={design} prediction={prediction} place="bleeder" />
      {design.output.bleederOhms === null ? null : <Ratings store={store} design={design} of="bleeder" />}
      <Touched prediction={prediction} />
    </>
  );
}

/** What stands on each resistor of the series string. */
function StringEach({ prediction }: Pick<Editing, 'prediction'>) {
  const { shortVoltsEach, loadVoltsEach, loadWattsEach } = prediction.contact;
  if (shortVoltsEach === null) return null;
  return (
    <>
      <div className="flex items-baseline justify-between gap-2 py-[1.5px]" data-string="shorted">
        <dt className="text-soft">On each of the string, shorted</dt>
        <dd>
          <Quantity value={shortVoltsEach} unit="V" />
        </dd>
      </div>
      <div className="flex items-baseline justify-between gap-2 py-[1.5px]" data-string="loaded">
        <dt className="text-soft">and at the load</dt>
        <dd className="text-right">
          <Quantity value={loadVoltsEach} unit="V" /> · <Quantity value={loadWattsEach} unit="W" />
        </dd>
      </div>
    </>
  );
}

const FRONT = ['frontAmps', 'frontSeconds', 'frontJoules', 'frontCoulombs'] as const;
const TOUCHED = ['mostBodyAmps', 'leastBodyAmps', 'bodyJoules', 'shortAmps'] as const;

/** What comes out where the output is touched or shorted: what a series resistor is for. */
function Touched({ prediction }: Pick<Editing, 'prediction'>) {
  const noneLimits = prediction.contact.shortAmps === null;
  return (
    <section aria-label="Touched or shorted" className="mt-2 border-t border-rule pt-2 text-[13.5px]">
      <h3 className="font-medium">Touched or shorted</h3>
      <dl>
        {(prediction.contact.front ? [...FRONT, ...TOUCHED] : TOUCHED).map((id) => (
          <div key={id} className="flex items-baseline justify-between gap-2 py-[1.5px]" data-figure={id}>
            <dt className="text-soft">{FIGURES[id].label}</dt>
            <dd className="text-right">
              {id === 'shortAmps' && noneLimits ? (
                'no resistor limits it'
              ) : (
                <Quantity value={FIGURES[id].read(prediction)} unit={FIGURES[id].unit} />
              )}
            </dd>
          </div>
        ))}
        <StringEach prediction={prediction} />
      </dl>
      <p className="mt-1 text-xs text-soft">
        Of the highest voltage without load (body: IEC 60479-1, from memory). What hangs on the output comes first and
        without the series resistor, and without one the last smoothing capacitor with it; the drive goes on giving
        after all of it.
      </p>
    </section>
  );
}

const RATING_FIELDS = [
  quantityField('count', 'Made of, in series', ''),
  quantityField('watts', 'Each rated', 'W', { optional: true }),
  quantityField('ratedVolts', 'Voltage rating of each', 'V', { optional: true }),
];
const PULSE_FIELD = quantityField('pulseJoules', 'Each takes a pulse of', 'J', { optional: true });
const NAMES = { series: 'Series resistor', bleeder: 'Bleeder' } as const;

/** What a resistor is made of: a string of like ones with ratings of their own. */
function Ratings({ store, design, of }: Pick<Editing, 'store' | 'design'> & { of: 'series' | 'bleeder' }) {
  return (
    <fieldset className="ml-3 border-l border-rule pl-2.5">
      <legend className="sr-only">{NAMES[of]}</legend>
      {(of === 'series' ? [...RATING_FIELDS, PULSE_FIELD] : RATING_FIELDS).map((field) => (
        <DescribedField
          key={field.name}
          field={field}
          value={(design.resistors[of] as Record<string, unknown>)[field.name]}
          onEdit={(value) => store.getState().edit(`$.resistors.${of}.${field.name}`, value)}
        />
      ))}
    </fieldset>
  );
}
