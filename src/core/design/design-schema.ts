import { DRIVER_KINDS, driverSchema } from '../drive/driver-kinds';
import { supplySchema } from '../drive/supply';
import { loadSchema } from '../load/load-kinds';
import { transformerSchema } from '../magnetics/transformer';
import { choice, count, fraction, partId, quantity, saying, share, text } from '../schema/fields';
import { GRADINGS } from '../topology/grading';
import { TOPOLOGIES } from '../topology/network';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import * as z from '../zod';
import { buildSchema } from './build-schema';
import { DESIGN_FORMAT, DESIGN_VERSION } from './upgrade';
import { windingSchema } from './winding-schema';

/** The longest a design's notes may be, in characters. */
export const MOST_NOTES = 20_000;

/** Letters that a design's name may have. */
export const MOST_NAME_LETTERS = 120;
/** The most stages one design may have; past it no hobby ladder delivers anything. */
export const MOST_STAGES = 50;

export const stages = z
  .number({ error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) })
  .multipleOf(0.5, { error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) })
  .gte(0.5, { error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) })
  .lte(MOST_STAGES, { error: saying(`a whole or half number from 0.5 to ${MOST_STAGES}`) });

export const TARGET_FORMS = ['mean', 'peak', 'valley'] as const;

export const targetSchema = z.strictObject({
  volts: quantity('V', '38000', 'above zero'),
  amps: quantity('A', '40e-6', 'zero or more').default(0),
  ripplePeakToPeakFraction: fraction('0.02').nullable().default(null),
  /** What of the output is to reach the voltage: its mean, its peak, or the valley of its ripple. */
  of: choice(TARGET_FORMS).default('mean'),
});

const capacitorSchema = z.strictObject({
  farads: quantity('F', '1e-9', 'above zero'),
  ratedVolts: quantity('V', '15000', 'above zero').nullable().default(null),
  tolerance: fraction('0.1').default(0.1),
  /** RMS of alternating voltage, where that is stated. */
  ratedAcVolts: quantity('V', '5000', 'above zero').nullable().default(null),
  /** RMS that it may carry, where that is stated. */
  ratedRmsAmps: quantity('A', '0.05', 'above zero').nullable().default(null),
  lossTangent: quantity('', '0.02', 'zero or more').nullable().default(null),
  /** Of its body, which gives off its heat. */
  lengthMetres: quantity('m', '0.008', 'above zero').nullable().default(null),
  diameterMetres: quantity('m', '0.012', 'above zero').nullable().default(null),
  /** Fraction of its capacitance that is left at its rated voltage; null where none is lost. */
  dcBiasDerating: fraction('0.5').nullable().default(null),
  /** At its rated voltage. */
  leakageAmps: quantity('A', '1e-7', 'zero or more').default(0),
  /** In each place: so many in series, so many such strings in parallel; the fields above are each one's. */
  series: count(50).default(1),
  parallel: count(50).default(1),
  partId,
});

const diodeSchema = z.strictObject({
  peakInverseVolts: quantity('V', '20000', 'above zero').nullable().default(null),
  forwardVolts: quantity('V', '30', 'zero or more').default(1),
  /** At which it drops that; whatever the current where it is not known. */
  forwardAmps: quantity('A', '0.005', 'above zero').nullable().default(null),
  averageAmps: quantity('A', '0.005', 'above zero').nullable().default(null),
  /** Once, for half a mains period. */
  surgeAmps: quantity('A', '0.5', 'above zero').nullable().default(null),
  recoverySeconds: quantity('s', '100e-9', 'above zero').nullable().default(null),
  junctionFarads: quantity('F', '1e-12', 'zero or more').default(0),
  /** Reverse, at which the junction has that capacitance; whatever the voltage where it is not known. */
  junctionVolts: quantity('V', '4', 'zero or more').nullable().default(null),
  onOhms: quantity('Ω', '20', 'zero or more').default(0),
  leakageAmps: quantity('A', '1e-6', 'zero or more').default(0),
  /** In each place so many in series; the fields above are each one's. */
  series: count(50).default(1),
  partId,
});

const ladderSchema = z
  .strictObject({
    topology: choice(TOPOLOGIES).default('half-wave'),
    /** Of its output against ground. */
    polarity: choice(['positive', 'negative']).default('positive'),
    /** A clamp and a bridge doubler have one form, whatever stands here. */
    stages: stages.default(1),
    grading: choice(GRADINGS).default('equal'),
    /** Individual values, in the order of the prediction; they override the grading. */
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
    const places = kind.build(ladder.stages, 1).capacitors.length;
    if (capacitorFarads && capacitorFarads.length !== places)
      context.addIssue({
        code: 'custom',
        path: ['capacitorFarads'],
        message: `has ${capacitorFarads.length} values; must have ${places}, one for each capacitor of the ladder, C1 to C${places}`,
      });
  });

const TIMES = 'a factor from 1 to 10, such as 2';

/** How far the drive and the diodes may be off, either way, as a fraction; capacitors have their own tolerance. */
const spreadSchema = z.strictObject({
  peaks: share('0.05').default(0.05),
  frequency: share('0.03').default(0.03),
  forward: share('0.2').default(0.2),
  source: share('0.2').default(0.2),
  /** Of the share of capacitance that voltage takes from class-2 ceramic; equal for all of a ladder. */
  bias: share('0.2').default(0.2),
  /** Times or over: junctions and wiring are seldom known better than by a factor of two. */
  strays: z
    .number({ error: saying(TIMES) })
    .gte(1, { error: saying(TIMES) })
    .lte(10, { error: saying(TIMES) })
    .default(2),
});

/** What a resistor is made of: so many equal ones in series, and each one's ratings. */
const resistorSchema = z.strictObject({
  count: count(100).default(1),
  watts: quantity('W', '2', 'above zero').nullable().default(null),
  ratedVolts: quantity('V', '3500', 'above zero').nullable().default(null),
  /** Taken at once, without harm. */
  pulseJoules: quantity('J', '5', 'above zero').nullable().default(null),
  partId,
});

/** A measuring divider across the terminal: a string of equal resistors, and a foot with the meter across it. */
export const dividerSchema = z.strictObject({
  topOhms: quantity('Ω', '1e9', 'above zero'),
  /** Equal resistors that the string is made of, and what each stands. */
  topCount: count(100).default(1),
  topRatedVolts: quantity('V', '10000', 'above zero').nullable().default(null),
  topWatts: quantity('W', '1', 'above zero').nullable().default(null),
  footOhms: quantity('Ω', '1e6', 'above zero'),
  /** Null: it draws nothing. */
  meterOhms: quantity('Ω', '10e6', 'above zero').nullable().default(10e6),
  /** The most that it may be given. */
  meterVolts: quantity('V', '1000', 'above zero').nullable().default(null),
  topTolerance: share('0.01').default(0.01),
  footTolerance: share('0.01').default(0.01),
  meterTolerance: share('0.01').default(0.01),
  /** Change of a resistor of the string for each volt on it; null: not known. */
  perVolt: share('2e-6').nullable().default(null),
  /** Change for each kelvin by which string and foot differ; null: not known. */
  perKelvin: share('100e-6').nullable().default(null),
  /** Across the whole string, and across foot, cable and meter. */
  topFarads: quantity('F', '1e-12', 'zero or more').default(0),
  footFarads: quantity('F', '100e-12', 'zero or more').default(100e-12),
  /** What a part across the foot lets no more than this stand on, should the foot open; null: there is none. */
  clampVolts: quantity('V', '90', 'above zero').nullable().default(null),
  /** Of the string. */
  partId,
});

/** The most smoothing sections one output may have. */
export const MOST_SECTIONS = 4;

/** A section behind the ladder that smooths: a resistor or a choke on the way, a capacitor across behind it. */
const smoothingSchema = z
  .strictObject({
    /** Of the resistor, or of the choke's winding. */
    ohms: quantity('Ω', '10e3', 'zero or more').default(0),
    henries: quantity('H', '1', 'zero or more').default(0),
    farads: quantity('F', '10e-9', 'above zero'),
    /** Of its capacitor. */
    ratedVolts: quantity('V', '15000', 'above zero').nullable().default(null),
  })
  .superRefine(({ ohms, henries }, context) => {
    if (ohms === 0 && henries === 0)
      context.addIssue({
        code: 'custom',
        path: ['ohms'],
        message:
          'is 0, and so is the inductance; must be above zero in one of them: a capacitor alone across the terminal is the ladder’s',
      });
  });

const outputSchema = z.strictObject({
  seriesOhms: quantity('Ω', '1e6', 'zero or more').default(0),
  bleederOhms: quantity('Ω', '1e9', 'above zero').nullable().default(null),
  divider: dividerSchema.nullable().default(null),
  /** From the terminal on; divider and series resistor stand behind the last. */
  smoothing: z
    .array(smoothingSchema, { error: saying('a list of smoothing sections') })
    .max(MOST_SECTIONS, { error: saying(`at most ${MOST_SECTIONS} smoothing sections`) })
    .default([]),
  /** Of what hangs on the output, behind the series resistor: electrode, wire, plate. */
  electrodeFarads: quantity('F', '20e-12', 'zero or more').default(0),
});

/**
 * The design document, declared once: the same declaration types the code,
 * guards forms, route handlers and file import, and fills in defaults.
 * Numbers are SI base units. Unknown fields are refused, so that a misspelt
 * name cannot pass as a default.
 */
export const designSchema = z
  .strictObject({
    format: z.literal(DESIGN_FORMAT, { error: saying(`"${DESIGN_FORMAT}"`) }),
    version: z.literal(DESIGN_VERSION, {
      error: saying(`${DESIGN_VERSION} (a file of a later version needs a later Eager Ladder)`),
    }),
    name: z
      .string({ error: saying('a name of 1 to 120 characters') })
      .trim()
      .min(1, { error: saying('a name of 1 to 120 characters') })
      .max(MOST_NAME_LETTERS, { error: () => 'is longer than 120 characters; must be a name of 1 to 120 characters' }),
    notes: text(MOST_NOTES),
    target: targetSchema.nullable().default(null),
    supply: supplySchema.nullable().default(null),
    driver: driverSchema,
    transformer: transformerSchema.nullable().default(null),
    winding: windingSchema.nullable().default(null),
    ladder: ladderSchema,
    output: outputSchema.prefault({}),
    load: loadSchema.prefault({ kind: 'open' }),
    /** What series resistor and bleeder are made of. */
    resistors: z
      .strictObject({ series: resistorSchema.prefault({}), bleeder: resistorSchema.prefault({}) })
      .prefault({}),
    spread: spreadSchema.prefault({}),
    build: buildSchema.prefault({}),
  })
  .superRefine(({ supply, driver, transformer }, context) => {
    if (driver?.kind === 'measured' && (driver.waveform === 'sampled') !== (driver.samples !== null))
      context.addIssue({
        code: 'custom',
        path: ['driver', 'samples'],
        message:
          driver.samples === null
            ? 'is missing; must be a list of volts for a sampled waveform'
            : 'is given; must be null but for a sampled waveform',
      });
    const kind = DRIVER_KINDS[driver?.kind];
    if (!kind) return;
    const { needs } = kind;
    const refuse = (path: string, message: string) => context.addIssue({ code: 'custom', path: [path], message });
    const right = needs.supply.map((one) => `"${one}"`).join(' or ');
    if (needs.supply.length > 0 && supply === null)
      refuse('supply', `is missing; must be a supply of kind ${right} for a ${driver.kind} driver`);
    else if (supply !== null && !needs.supply.includes(supply.kind))
      refuse(
        'supply',
        needs.supply.length > 0
          ? `is of kind "${supply.kind}"; must be ${right} for a ${driver.kind} driver`
          : `is given; must be absent for a ${driver.kind} driver, which has its own`,
      );
    if (needs.transformer !== (transformer !== null))
      refuse(
        'transformer',
        needs.transformer
          ? `is missing; must be given for a ${driver.kind} driver`
          : `is given; must be absent for a ${driver.kind} driver`,
      );
    if (needs.transformer && needs.inductance && transformer && transformer.primaryHenries === null)
      context.addIssue({
        code: 'custom',
        path: ['transformer', 'primaryHenries'],
        message: `is not given; must be a number above zero, in henries, such as 30e-6, for a ${driver.kind} driver`,
      });
  });

/** A complete design: every default filled in. */
export type Design = z.output<typeof designSchema>;
/** One whose waveform at the ladder's input was measured. */
export type MeasuredDesign = Design & { driver: Extract<Design['driver'], { kind: 'measured' }> };
