'use client';

import { useState, type ReactNode } from 'react';
import { CHOOSABLE, type Requirements, type PART_SOURCES } from '@/core/choose/requirements';
import { MOST_STAGES, type Design } from '@/core/design/design-schema';
import { countOf, stagesOf } from '@/core/quantity/counting';
import { countFault } from '@/core/topology/stage-words';
import { TOPOLOGY_KINDS } from '@/core/topology/topologies';
import { driveOf } from '@/core/operating/ladder-of-design';
import { amplitudeVolts, hasLoadedForm } from '@/core/drive/drive';
import { quantityField } from '@/core/quantity/field-description';
import { CheckField } from '@/ui/check-field';
import { Choice } from '@/ui/choice';
import { DescribedField } from '@/ui/described-field';
import { PickField } from '@/ui/pick-field';
import { Quantity } from '@/ui/quantity';
import { TARGET_FORMS } from '@/core/design/design-schema';
import { TARGET_FORM_NAMES } from '@/core/predict/target';
import { signedVolts } from '@/core/quantity/polarity';
import { PolarityChoice } from '@/ui/polarity-choice';
import { QuantityField } from '@/ui/quantity-field';
import { CountingChoice, useCounting } from '@/ui/use-counting';

const SOURCE_NAMES: Record<(typeof PART_SOURCES)[number], string> = {
  drawer: 'Free now',
  'drawer-or-buy': 'All listed',
  any: 'Any value',
};

const SOURCE_WORDS: Record<(typeof PART_SOURCES)[number], string> = {
  drawer: 'What lies free in the drawer, and what one purchase would add.',
  'drawer-or-buy': 'Every part the drawer lists, as many as it takes.',
  any: 'E6 values at usual ratings; their prices are not known.',
};

type Asked = { requirements: Requirements; edit: (path: string, value: unknown) => string | null };
type Driven = {
  designs: readonly { id: string; name: string }[];
  from: { id: string; design: Design } | null;
  onFrom: (id: string) => void;
  base: Design;
};

/** What is wanted, what drives it, and what may vary. */
export function RequirementsForm({ requirements, edit, ...driven }: Asked & Driven) {
  const asked = { requirements, edit };
  return (
    <>
      <Target {...asked} />
      <DrivenBy {...asked} {...driven} />
      <BuiltFrom {...asked} />
      <Ladders {...asked} />
    </>
  );
}

function Target({ requirements: { target }, edit }: Asked) {
  return (
    <Group name="Target">
      <QuantityField
        label={`Output, ${TARGET_FORM_NAMES[target.of].toLowerCase()}`}
        unit="V"
        value={signedVolts(target.volts, target.polarity)}
        onValue={(value) => {
          const refused = edit('$.target.volts', value === null ? null : Math.abs(value));
          if (refused === null && value! < 0) edit('$.target.polarity', 'negative');
          return refused;
        }}
      />
      <Choice
        label="What is to reach it"
        value={target.of}
        options={TARGET_FORMS.map((value) => ({ value, name: TARGET_FORM_NAMES[value] }))}
        onValue={(value) => edit('$.target.of', value)}
      />
      <QuantityField
        label="Current"
        unit="A"
        value={target.amps}
        onValue={(value) => edit('$.target.amps', value)}
        hint={
          target.amps === 0
            ? 'At no load almost any capacitor will do: enter what the load, or the meter on it, takes.'
            : undefined
        }
      />
      <QuantityField
        label="Ripple, p-p, at most"
        unit="%"
        optional
        placeholder="any"
        value={target.ripplePeakToPeakFraction}
        onValue={(value) => edit('$.target.ripplePeakToPeakFraction', value)}
      />
      <PolarityChoice value={target.polarity} onValue={(value) => edit('$.target.polarity', value)} />
    </Group>
  );
}

const DRIVE_FIELDS = [
  quantityField('peakVolts', 'Peak', 'V'),
  quantityField('frequencyHertz', 'Frequency', 'Hz'),
  quantityField('seriesOhms', 'Source resistance', 'Ω'),
  quantityField('maxWatts', 'Power limit', 'W', { optional: true }),
];

function DrivenBy({ requirements, edit, designs, from, onFrom, base }: Asked & Driven) {
  return (
    <Group name="Driven by">
      <PickField
        label="Drive"
        value={from?.id ?? ''}
        options={[
          { value: '', name: 'Entered here' },
          ...designs.map(({ id, name }) => ({ value: id, name: `That of ${name}` })),
        ]}
        onValue={onFrom}
      />
      {from ? (
        <DriveInShort design={base} />
      ) : (
        DRIVE_FIELDS.map((field) => (
          <DescribedField
            key={field.name}
            field={field}
            value={(requirements.drive as Record<string, unknown>)[field.name]}
            onEdit={(value) => edit(`$.drive.${field.name}`, value)}
          />
        ))
      )}
      <CheckField
        label="May be turned down, to half"
        checked={requirements.turnDown}
        onChecked={(value) => edit('$.turnDown', value)}
      />
      <CheckField
        label="Frequency may be halved to doubled"
        checked={requirements.otherFrequency}
        onChecked={(value) => edit('$.otherFrequency', value)}
      />
    </Group>
  );
}

function BuiltFrom({ requirements, edit }: Asked) {
  return (
    <Group name="Built from">
      <Choice
        label="Parts"
        value={requirements.parts}
        options={(Object.keys(SOURCE_NAMES) as (typeof PART_SOURCES)[number][]).map((value) => ({
          value,
          name: SOURCE_NAMES[value],
        }))}
        onValue={(value) => edit('$.parts', value)}
      />
      <p className="text-xs text-soft">{SOURCE_WORDS[requirements.parts]}</p>
      <QuantityField
        label="Margin, at least"
        unit="%"
        value={requirements.leastMargin}
        onValue={(value) => edit('$.leastMargin', value)}
        hint="Of voltages with the drive at its highest, and of average current; heat and surges stand in each row. 25 % is usual, 200 % the cautious rule of three times."
      />
      <QuantityField
        label="In parallel, at most"
        unit=""
        value={requirements.mostParallel}
        onValue={(value) => edit('$.mostParallel', value)}
      />
    </Group>
  );
}

const ONE_OF_EACH_HINT = 'Two such stages of a full-wave ladder are three capacitors and four diodes.';

function Ladders({ requirements, edit }: Asked) {
  const { topologies, fewestStages, mostStages, graded } = requirements;
  const { counting } = useCounting();
  const editStages = (path: string, count: number | null) =>
    countFault(count ?? NaN, 'half-wave', counting, MOST_STAGES) ?? edit(path, stagesOf(count ?? NaN, counting));
  /** Why the last ladder cannot be taken out. */
  const [noTopology, setNoTopology] = useState<string | null>(null);
  const set = (topology: (typeof CHOOSABLE)[number], wanted: boolean) =>
    setNoTopology(
      edit(
        '$.topologies',
        CHOOSABLE.filter((one) => (one === topology ? wanted : topologies.includes(one))),
      ),
    );
  return (
    <Group name="Ladders">
      {CHOOSABLE.map((topology) => (
        <CheckField
          key={topology}
          label={TOPOLOGY_KINDS[topology].name}
          checked={topologies.includes(topology)}
          onChecked={(wanted) => set(topology, wanted)}
        />
      ))}
      {noTopology === null ? null : (
        <p role="alert" className="text-xs text-over">
          {noTopology}
        </p>
      )}
      {topologies.includes('full-wave') ? (
        <p className="text-xs text-soft">Full-wave needs a centre-tapped winding.</p>
      ) : null}
      {topologies.includes('bipolar') ? (
        <p className="text-xs text-soft">A bipolar load stands across both sides, neither end at ground.</p>
      ) : null}
      <QuantityField
        label="Stages, from"
        unit=""
        value={countOf(fewestStages, counting)}
        onValue={(count) => editStages('$.fewestStages', count)}
      />
      <QuantityField
        label="to"
        unit=""
        value={countOf(mostStages, counting)}
        onValue={(count) => editStages('$.mostStages', count)}
        hint={counting === 'one-of-each' && topologies.includes('full-wave') ? ONE_OF_EACH_HINT : undefined}
      />
      <CountingChoice />
      <CheckField
        label="Larger capacitors towards the input"
        checked={graded}
        onChecked={(value) => edit('$.graded', value)}
      />
    </Group>
  );
}

function Group({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section className="border-b border-rule px-4 py-3 last:border-0">
      <h2 className="mb-1 font-semibold">{name}</h2>
      {children}
    </section>
  );
}

/** What a design's drive gives its own ladder. */
function DriveInShort({ design }: { design: Design }) {
  const drive = driveOf(design);
  return (
    <p className="py-1 text-[13px] text-soft">
      <Quantity value={amplitudeVolts(drive)} unit="V" /> peak, <Quantity value={drive.frequencyHertz} unit="Hz" />
      {drive.maxWatts === null ? null : (
        <>
          , at most <Quantity value={drive.maxWatts} unit="W" />
        </>
      )}
      . Output resistors, spread and notes come from that design too.
      {hasLoadedForm(drive) ? null : (
        <span className="block text-close">
          {drive.burst ? 'In bursts' : 'Through a capacitor in series'}: candidates are evaluated in closed form, which
          has no loaded output of that. Choose for the drive without it, and look at the time domain with it.
        </span>
      )}
    </p>
  );
}
