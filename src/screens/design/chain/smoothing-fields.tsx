'use client';

import X from 'lucide-react/icons/x';
import { MOST_SECTIONS, type Design } from '@/core/design/design-schema';
import { usualSection } from '@/core/output/filter';
import { reachedBy, takenBySection } from '@/core/predict/reached';
import { quantityField } from '@/core/quantity/field-description';
import { DescribedField } from '@/ui/described-field';
import { Quantity } from '@/ui/quantity';
import type { Editing } from './editing';

type Section = Design['output']['smoothing'][number];

const FIELDS = [
  quantityField('ohms', 'Resistance', 'Ω', { hint: 'Of the resistor, or of the choke’s winding.' }),
  quantityField('henries', 'Inductance', 'H'),
  quantityField('farads', 'Capacitor behind it', 'F'),
  quantityField('ratedVolts', 'Capacitor rated', 'V', { optional: true }),
];
const PATH = '$.output.smoothing';
/** What is drawn where nothing yet says how much. */
const USUAL_AMPS = 10e-6;

/** Sections that smooth what leaves the ladder. */
export function SmoothingFields({ store, design, prediction }: Editing) {
  const { edit } = store.getState();
  const { smoothing } = design.output;
  const { output, drive } = prediction;
  const add = () => {
    const { volts, amps } = reachedBy(output);
    const usual = usualSection(volts || output.noLoadVolts || 1, amps || USUAL_AMPS, drive.frequencyHertz);
    edit(PATH, [...smoothing, { ...usual, henries: 0, ratedVolts: null }]);
  };
  return (
    <section aria-label="Smoothing" className="mb-2 border-b border-rule pb-2">
      {smoothing.map((section, index) => (
        <SectionFields
          key={index}
          section={section}
          number={index + 1}
          takes={section.ohms > 0 ? takenBySection(section.ohms, output) : null}
          onField={(name, value) => edit(`${PATH}.${index}.${name}`, value)}
          onAway={() =>
            edit(
              PATH,
              smoothing.filter((_, at) => at !== index),
            )
          }
        />
      ))}
      {smoothing.length > 0 && output.ripplePeakToPeakVolts !== null ? (
        <p className="py-[1.5px] text-[13.5px] text-soft" data-smoothing="ripple">
          Ripple <Quantity value={output.terminalRipplePeakToPeakVolts} unit="V" digits={3} /> at the terminal,{' '}
          <Quantity value={output.ripplePeakToPeakVolts} unit="V" digits={3} /> at the load, peak to peak
        </p>
      ) : null}
      {smoothing.length < MOST_SECTIONS ? (
        <button type="button" className="text-[13px] text-copper hover:underline" onClick={add}>
          {smoothing.length === 0 ? 'Add a smoothing section' : 'Add another section'}
        </button>
      ) : null}
    </section>
  );
}

function SectionFields({
  section,
  number,
  takes,
  onField,
  onAway,
}: {
  section: Section;
  number: number;
  /** Of its resistance; null without one, or where its current is not known. */
  takes: { volts: number; watts: number } | null;
  onField: (name: string, value: unknown) => string | null;
  onAway: () => void;
}) {
  return (
    <fieldset className="mb-1.5 ml-3 border-l border-rule pl-2.5">
      <legend className="float-left text-[13.5px] font-medium">Smoothing section {number}</legend>
      <div className="flex justify-end">
        <button type="button" aria-label={`Take section ${number} away`} className="p-0.5 text-soft" onClick={onAway}>
          <X className="size-4" aria-hidden="true" />
        </button>
      </div>
      <div className="clear-both">
        {FIELDS.map((field) => (
          <DescribedField
            key={field.name}
            field={field}
            value={(section as Record<string, unknown>)[field.name]}
            onEdit={(value) => onField(field.name, value)}
          />
        ))}
      </div>
      {takes ? (
        <p className="text-[13px] text-soft" data-smoothing={`takes-${number}`}>
          takes <Quantity value={takes.volts} unit="V" digits={3} /> ·{' '}
          <Quantity value={takes.watts} unit="W" digits={2} />
        </p>
      ) : null}
    </fieldset>
  );
}
