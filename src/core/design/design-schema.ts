import { VOLTAGE_FORMS } from '../drive/sine-forms';
import { GRADINGS } from '../ladder/grading';
import { TOPOLOGIES } from '../ladder/network';
import { TOPOLOGY_KINDS } from '../ladder/topologies';
import { UNIT_NAMES, type Unit } from '../quantity/units';
import * as z from '../zod';

export const DESIGN_FORMAT = 'eager-ladder/design';
export const DESIGN_VERSION = 1;

/** The most stages one design may have; past it no hobby ladder delivers anything. */
export const MOST_STAGES = 50;

function shown(input: unknown): string {
  return typeof input === 'string'
    ? `the text "${input.slice(0, 40)}"`
    : (JSON.stringify(input) ?? 'missing').slice(0, 40);
}

/** An error that states what is wrong; what would be right follows after a semicolon. */
function saying(right: string) {
  return (issue: { input?: unknown }) =>
    issue.input === undefined ? `is missing; must be ${right}` : `is ${shown(issue.input)}; must be ${right}`;
}

function quantity(unit: Unit, example: string, least: 'above zero' | 'zero or more') {
  const right = `a number ${least}${unit ? `, in ${UNIT_NAMES.get(unit)}` : ''}, such as ${example}`;
  const number = z.number({ error: saying(right) });
  const error = saying(right);
  return (least === 'above zero' ? number.gt(0, { error }) : number.gte(0, { error })).lte(1e15, {
    error: saying(`${right}, and below 1e15`),
  });
}

const stages = z
  .number({ error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) })
  .multipleOf(0.5, { error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) })
  .gte(0.5, { error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) })
  .lte(MOST_STAGES, { error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) });

const fraction = (example: string) =>
  z
    .number({ error: saying(`a fraction between 0 and 1, such as ${example}`) })
    .gt(0, { error: saying(`a fraction between 0 and 1, such as ${example}`) })
    .lt(1, { error: saying(`a fraction between 0 and 1, such as ${example}`) });

const choice = <const T extends readonly [string, ...string[]]>(values: T) =>
  z.enum(values, {
    error: saying(
      values.length === 1
        ? `"${values[0]}" (the only kind computed so far)`
        : `one of ${values.map((v) => `"${v}"`).join(', ')}`,
    ),
  });

const targetSchema = z.strictObject({
  volts: quantity('V', '38000', 'above zero'),
  amps: quantity('A', '40e-6', 'zero or more').default(0),
  ripplePeakToPeakFraction: fraction('0.02').nullable().default(null),
  polarity: choice(['positive', 'negative']).default('positive'),
});

const measuredDriverSchema = z.strictObject({
  kind: choice(['measured']),
  waveform: choice(['sine', 'square', 'pulse']).default('sine'),
  positivePeakVolts: quantity('V', '5200', 'above zero'),
  negativePeakVolts: quantity('V', '5200', 'above zero').optional(),
  duty: fraction('0.3').default(0.5),
  frequencyHertz: quantity('Hz', '38000', 'above zero'),
  seriesOhms: quantity('Ω', '12000', 'zero or more').default(0),
  seriesHenries: quantity('H', '0.05', 'zero or more').default(0),
  maxAmps: quantity('A', '0.005', 'above zero').nullable().default(null),
  maxWatts: quantity('W', '20', 'above zero').nullable().default(null),
  enteredAs: choice(VOLTAGE_FORMS).default('peak'),
});

const capacitorSchema = z.strictObject({
  farads: quantity('F', '1e-9', 'above zero'),
  ratedVolts: quantity('V', '15000', 'above zero').nullable().default(null),
  tolerance: fraction('0.1').default(0.1),
});

const diodeSchema = z.strictObject({
  peakInverseVolts: quantity('V', '20000', 'above zero').nullable().default(null),
  forwardVolts: quantity('V', '30', 'zero or more').default(1),
  averageAmps: quantity('A', '0.005', 'above zero').nullable().default(null),
  recoverySeconds: quantity('s', '100e-9', 'above zero').nullable().default(null),
  junctionFarads: quantity('F', '1e-12', 'zero or more').default(0),
  onOhms: quantity('Ω', '20', 'zero or more').default(0),
  leakageAmps: quantity('A', '1e-6', 'zero or more').default(0),
});

const ladderSchema = z
  .strictObject({
    topology: choice(TOPOLOGIES).default('half-wave'),
    /** A clamp and a bridge doubler have one form, whatever stands here. */
    stages: stages.default(1),
    grading: choice(GRADINGS).default('equal'),
    /** Each capacitor by itself, in the order of the prediction; overrides the grading. */
    capacitorFarads: z
      .array(quantity('F', '1e-9', 'above zero'), { error: saying('a list of capacitances in farads, or null') })
      .nullable()
      .default(null),
    capacitor: capacitorSchema,
    diode: diodeSchema.prefault({}),
    strayFarads: quantity('F', '1e-12', 'zero or more').default(0),
  })
  .superRefine((ladder, context) => {
    const { topology, capacitorFarads } = ladder;
    const kind = TOPOLOGY_KINDS[topology];
    // What is wrong with the count alone has been said already.
    if (!stages.safeParse(ladder.stages).success) return;
    if (kind.stages === 'whole' && !Number.isInteger(ladder.stages)) {
      context.addIssue({
        code: 'custom',
        path: ['stages'],
        message: `is ${ladder.stages}; must be a whole number for a ${topology} ladder`,
      });
      return;
    }
    const count = kind.build(ladder.stages, 1).capacitors.length;
    if (capacitorFarads && capacitorFarads.length !== count)
      context.addIssue({
        code: 'custom',
        path: ['capacitorFarads'],
        message: `has ${capacitorFarads.length} values; must have ${count}, one for each capacitor of the ladder, C1 to C${count}`,
      });
  });

const LOAD_KINDS = ['open', 'current', 'resistance', 'meter', 'corona', 'gap'] as const;

const outputSchema = z.strictObject({
  seriesOhms: quantity('Ω', '1e6', 'zero or more').default(0),
  bleederOhms: quantity('Ω', '1e9', 'above zero').nullable().default(null),
});

const loadSchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({ kind: z.literal('open') }),
    z.strictObject({ kind: z.literal('current'), amps: quantity('A', '40e-6', 'zero or more') }),
    z.strictObject({ kind: z.literal('resistance'), ohms: quantity('Ω', '1e9', 'above zero') }),
    z.strictObject({ kind: z.literal('meter'), ohms: quantity('Ω', '10e6', 'above zero').default(10e6) }),
    z.strictObject({
      kind: z.literal('corona'),
      onsetVolts: quantity('V', '5000', 'zero or more'),
      ampsPerSquareVolt: quantity('', '1e-12', 'zero or more'),
    }),
    z.strictObject({
      kind: z.literal('gap'),
      strikeVolts: quantity('V', '9000', 'above zero'),
      arcOhms: quantity('Ω', '1000', 'above zero').default(1000),
      quenchAmps: quantity('A', '0.001', 'above zero').default(1e-3),
    }),
  ],
  {
    error: (issue) => {
      const kind = (issue.input as { kind?: unknown } | undefined)?.kind;
      return `${kind === undefined ? 'is missing' : `is ${shown(kind)}`}; must be one of ${LOAD_KINDS.map((name) => `"${name}"`).join(', ')}`;
    },
  },
);

/**
 * The design document, declared once: the same declaration types the code,
 * guards forms, route handlers and file import, and fills in defaults.
 * Numbers are SI base units. Unknown fields are refused, so that a misspelt
 * name cannot pass as a default.
 */
export const designSchema = z.strictObject({
  format: z.literal(DESIGN_FORMAT, { error: saying(`"${DESIGN_FORMAT}"`) }),
  version: z.literal(DESIGN_VERSION, {
    error: saying(`${DESIGN_VERSION} (a file of a later version needs a later Eager Ladder)`),
  }),
  name: z
    .string({ error: saying('a name of 1 to 120 characters') })
    .trim()
    .min(1, { error: saying('a name of 1 to 120 characters') })
    .max(120, { error: () => 'is longer than 120 characters; must be a name of 1 to 120 characters' }),
  notes: z
    .string({ error: saying('a text') })
    .max(20_000, { error: () => 'is longer than 20000 characters; must be shorter' })
    .default(''),
  target: targetSchema.nullable().default(null),
  driver: measuredDriverSchema,
  ladder: ladderSchema,
  output: outputSchema.prefault({}),
  load: loadSchema.prefault({ kind: 'open' }),
});

/** A complete design: every default filled in. */
export type Design = z.output<typeof designSchema>;
export type Load = Design['load'];
