import { meterSchema } from '../drive/meter-sense';
import { quantity, saying } from '../schema/fields';
import type { Unit } from '../quantity/units';
import * as z from '../zod';
import { expectedSchema } from './agreement';

/** What a reading is of: its unit, where it can be taken, and in which words. */
type ReadingKindInfo = {
  name: string;
  unit: Exclude<Unit, ''>;
  /**
   * A node or a part, the fraction of full drive of a step up, the capacitor across the primary, the load's current,
   * electrodes with their size, or nowhere in particular.
   */
  at: 'node' | 'part' | 'fraction' | 'tank' | 'amps' | 'electrodes' | 'none';
  /** Whether it may be below zero. */
  isSigned: boolean;
};

/** Every kind of reading. */
export const READING_KINDS = {
  tap: { name: 'Tap, dc against ground', unit: 'V', at: 'node', isSigned: true },
  source: { name: 'Source', unit: 'V', at: 'none', isSigned: true },
  output: { name: 'Output', unit: 'V', at: 'fraction', isSigned: true },
  'supply-current': { name: 'Supply current, mean', unit: 'A', at: 'fraction', isSigned: false },
  frequency: { name: 'Frequency of the driver', unit: 'Hz', at: 'tank', isSigned: false },
  peak: { name: 'Peak at full drive', unit: 'V', at: 'node', isSigned: true },
  ripple: { name: 'Ripple at full drive, peak to peak', unit: 'V', at: 'node', isSigned: false },
  loaded: { name: 'Output at a load current, full drive', unit: 'V', at: 'amps', isSigned: true },
  gap: { name: 'Gap at which the output sparks, without load', unit: 'm', at: 'electrodes', isSigned: false },
  resistance: { name: 'Resistance of a part, out of circuit', unit: 'Ω', at: 'part', isSigned: false },
  capacitance: { name: 'Capacitance of a part, out of circuit', unit: 'F', at: 'part', isSigned: false },
  drop: { name: 'Forward drop of a diode, out of circuit', unit: 'V', at: 'part', isSigned: false },
} as const satisfies Record<string, ReadingKindInfo>;
export type ReadingKind = keyof typeof READING_KINDS;
const READING_KIND_IDS = Object.keys(READING_KINDS) as [ReadingKind, ...ReadingKind[]];

/** Of supply current at full drive without load; elsewhere a fraction of the drive. */
export const IDLE = 'idle';

/** Ways in which a part fails, as they are said. */
export const FAILURE_WAYS = {
  shorted: 'shorted',
  open: 'open',
  leaky: 'leaky',
  arced: 'arced over outside',
  burnt: 'burnt',
  cracked: 'cracked or burst',
  other: 'failed otherwise',
} as const;
export type FailureWay = keyof typeof FAILURE_WAYS;

const moment = z.iso.datetime({ error: saying('a moment as 2026-01-31T12:00:00Z') });
const id = z.uuid({ error: saying('an id of its own') });
const seconds = quantity('s', '60', 'zero or more').nullable().default(null);

const MOST_REMARK = 500;
const remark = z.string().max(MOST_REMARK, { error: () => `is longer than ${MOST_REMARK} letters; must be shorter` });

const COMMON = {
  id,
  takenAt: moment,
  /** Where: a node or a part, the fraction of full drive of a step up; empty for nowhere in particular. */
  at: z.string().max(40),
  remark,
  /** Picture beside it. */
  pictureId: id.nullable().default(null),
  /** The entry that this one puts right. */
  replaces: id.nullable(),
};

const readingSchema = z.strictObject({
  ...COMMON,
  kind: z.enum(READING_KIND_IDS, { error: saying(READING_KIND_IDS.join(', ')) }),
  /** As the display shows it, in the unit of its kind, with its sign. */
  value: z
    .number({ error: saying('a number') })
    .gte(-1e12)
    .lte(1e12),
  /** What was expected when it was taken; null where nothing was. */
  expected: expectedSchema.nullable(),
  /** Through which; null for the session's own. */
  meter: meterSchema.nullable().default(null),
  /** Since switch-on, and since the probe was put there; null where nobody counted. */
  sinceOnSeconds: seconds,
  heldSeconds: seconds,
});
export type Reading = z.output<typeof readingSchema>;

/** A part by its type: from the drawer, or by its ratings alone. */
const partTypeSchema = z.strictObject({
  kind: z.enum(['capacitor', 'diode']),
  partId: id.nullable(),
  /** Highest voltage that one stands, V; farads of a capacitor. */
  ratedVolts: z.number().nullable(),
  farads: z.number().nullable(),
});
export type PartType = z.output<typeof partTypeSchema>;

export const failureSchema = z.strictObject({
  ...COMMON,
  kind: z.literal('failure'),
  how: z.enum(Object.keys(FAILURE_WAYS) as [FailureWay, ...FailureWay[]], {
    error: saying(Object.keys(FAILURE_WAYS).join(', ')),
  }),
  /** What the design has there; null for what is no part of its ladder. */
  type: partTypeSchema.nullable(),
  /** Voltage that one part stood at by the prediction, V; null where none is known. */
  stressVolts: z.number().nullable(),
});
export type Failure = z.output<typeof failureSchema>;

/** Samples of a period at least and at most. */
const SAMPLES = { least: 16, most: 512 };

/** One period as an oscilloscope recorded it, against ground. */
const scopeSchema = z.strictObject({
  ...COMMON,
  kind: z.literal('scope'),
  frequencyHertz: quantity('Hz', '50', 'above zero'),
  /** Evenly over the period, V. */
  samples: z.array(z.number().gte(-1e9).lte(1e9)).min(SAMPLES.least).max(SAMPLES.most),
});

/** A picture or a remark by itself; in the place of another entry it takes that away. */
const noteSchema = z.strictObject({ ...COMMON, kind: z.literal('note') });

export const entrySchema = z.discriminatedUnion('kind', [readingSchema, failureSchema, scopeSchema, noteSchema]);
export type Entry = z.output<typeof entrySchema>;

export const isReading = (entry: Entry): entry is Reading => entry.kind in READING_KINDS;
