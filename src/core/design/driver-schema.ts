import { VOLTAGE_FORMS } from '../quantity/voltage-forms';
import * as z from '../zod';
import { choice, count, fraction, partId, quantity, saying, share, shown, text } from '../schema/fields';

const DIRECT = ['battery', 'dc', 'smoothed-mains'] as const;

/** What each kind of driver needs before it: supplies it can run from, a transformer after it, that one's inductance. */
export const NEEDS = {
  measured: { supply: [], transformer: false, inductance: false },
  mains: { supply: ['mains'], transformer: false, inductance: false },
  'resonant-push-pull': { supply: DIRECT, transformer: true, inductance: true },
  flyback: { supply: DIRECT, transformer: true, inductance: true },
  'blocking-oscillator': { supply: DIRECT, transformer: true, inductance: true },
  inverter: { supply: DIRECT, transformer: true, inductance: false },
  module: { supply: [], transformer: false, inductance: false },
  'capacitor-discharge': { supply: [], transformer: true, inductance: false },
} as const satisfies Record<string, { supply: readonly string[]; transformer: boolean; inductance: boolean }>;

export type DriverKind = keyof typeof NEEDS;

function kindOf(kinds: readonly string[]) {
  return (issue: { input?: unknown }) => {
    const kind = (issue.input as { kind?: unknown } | undefined)?.kind;
    return `${kind === undefined ? 'is missing' : `is ${shown(kind)}`}; must be one of ${kinds.map((name) => `"${name}"`).join(', ')}`;
  };
}

const yes = z.boolean({ error: saying('true or false') });
/** Angle after each zero crossing at which a dimmer lets the mains through; 0 without one. */
const dimmedDegrees = z
  .number({ error: saying('degrees from 0 to 170, such as 60') })
  .gte(0, { error: saying('degrees from 0 to 170, such as 60') })
  .lte(170, { error: saying('degrees from 0 to 170, such as 60') })
  .default(0);
const setting = z
  .number({ error: saying('a part from above 0 to 1.2, such as 1') })
  .gt(0, { error: saying('a part from above 0 to 1.2, such as 1') })
  .lte(1.2, { error: saying('a part from above 0 to 1.2, such as 1') })
  .default(1);

/** Where the energy comes from. */
export const supplySchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({
      kind: z.literal('battery'),
      cells: count(200).default(4),
      voltsEach: quantity('V', '1.5', 'above zero').default(1.5),
      ohmsEach: quantity('Ω', '0.15', 'zero or more').default(0.15),
      ampHours: quantity('', '2', 'above zero').nullable().default(null),
    }),
    z.strictObject({
      kind: z.literal('dc'),
      volts: quantity('V', '24', 'above zero'),
      seriesOhms: quantity('Ω', '0.1', 'zero or more').default(0),
      maxAmps: quantity('A', '5', 'above zero').nullable().default(null),
    }),
    z.strictObject({
      kind: z.literal('smoothed-mains'),
      hertz: quantity('Hz', '50', 'above zero').default(50),
      /** RMS of the winding before the bridge, at rated mains. */
      secondaryVolts: quantity('V', '18', 'above zero'),
      setting,
      dimmedDegrees,
      /** Whether a transformer stands between line and bridge. */
      isolated: yes.default(true),
      seriesOhms: quantity('Ω', '0.3', 'zero or more').default(0.3),
      smoothingFarads: quantity('F', '4700e-6', 'above zero').default(4700e-6),
      bridgeVolts: quantity('V', '2', 'zero or more').default(2),
      maxAmps: quantity('A', '3', 'above zero').nullable().default(null),
    }),
    z.strictObject({
      kind: z.literal('mains'),
      /** RMS. */
      volts: quantity('V', '230', 'above zero').default(230),
      hertz: quantity('Hz', '50', 'above zero').default(50),
      setting,
      dimmedDegrees,
      isolated: yes.default(true),
    }),
  ],
  { error: kindOf(['battery', 'dc', 'smoothed-mains', 'mains']) },
);

const measuredDriverSchema = z.strictObject({
  kind: z.literal('measured'),
  waveform: choice(['sine', 'square', 'pulse', 'sampled']).default('sine'),
  /** One period as it was recorded, evenly from its rising crossing of the middle, V; stands for the peaks. */
  samples: z
    .array(z.number({ error: saying('a list of volts, or null') }), { error: saying('a list of volts, or null') })
    .min(16, { error: () => 'has fewer than 16 values; must have 16 to 512' })
    .max(512, { error: () => 'has more than 512 values; must have 16 to 512' })
    .refine((volts) => Math.min(...volts) < 0 && Math.max(...volts) > 0, {
      error: () => 'never changes sign; must go above and below zero, or no ladder is pumped',
    })
    .nullable()
    .default(null),
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

const efficiency = fraction('0.8');
const transistor = {
  ratedVolts: quantity('V', '200', 'above zero').nullable().default(null),
  /** Continuous, of each. */
  ratedAmps: quantity('A', '30', 'above zero').nullable().default(null),
  transistorPartId: partId,
};

/** What turns the supply into alternating voltage, by what can be read off parts or measured. */
export const driverSchema = z.discriminatedUnion(
  'kind',
  [
    measuredDriverSchema,
    z.strictObject({
      kind: z.literal('mains'),
      style: choice(['plain', 'current-limited', 'oven', 'direct']).default('plain'),
      /** RMS without load at rated mains, one transformer. */
      secondaryVolts: quantity('V', '2500', 'above zero'),
      secondaryOhms: quantity('Ω', '800', 'zero or more').default(0),
      /** Primaries in parallel, secondaries in series. */
      count: count(8).default(1),
      /** RMS into a short, where that is known or the transformer limits it. */
      shortAmps: quantity('A', '0.03', 'above zero').nullable().default(null),
      /** RMS into the primary without load. */
      magnetisingAmps: quantity('A', '0.4', 'above zero').nullable().default(null),
      partId,
    }),
    z.strictObject({
      kind: z.literal('resonant-push-pull'),
      /** Of each capacitor; so many in series, and so many such strings side by side. */
      tankFarads: quantity('F', '680e-9', 'above zero'),
      tankSeries: count(20).default(1),
      tankParallel: count(50).default(1),
      /** Each one's, peak, and RMS at this frequency. */
      tankRatedVolts: quantity('V', '400', 'above zero').nullable().default(null),
      tankRatedAmps: quantity('A', '6', 'above zero').nullable().default(null),
      tankPartId: partId,
      chokeHenries: quantity('H', '100e-6', 'above zero').default(100e-6),
      chokeSaturationAmps: quantity('A', '8', 'above zero').nullable().default(null),
      transistorOhms: quantity('Ω', '0.03', 'zero or more').default(0.03),
      ...transistor,
      /** How far edges pass the peak, as a part of it. */
      overshoot: share('0.1').default(0.1),
      gateOhms: quantity('Ω', '470', 'above zero').default(470),
      gateResistorWatts: quantity('W', '2', 'above zero').default(2),
      zenerVolts: quantity('V', '12', 'above zero').default(12),
      pullDownOhms: quantity('Ω', '10e3', 'above zero').default(10e3),
      gateThresholdVolts: quantity('V', '4', 'above zero').default(4),
      efficiency: efficiency.default(0.8),
    }),
    z.strictObject({
      kind: z.literal('flyback'),
      frequencyHertz: quantity('Hz', '25000', 'above zero'),
      duty: fraction('0.4').default(0.4),
      ...transistor,
      /** Voltage across the switch at which a clamp holds it. */
      clampVolts: quantity('V', '150', 'above zero').nullable().default(null),
      switchFarads: quantity('F', '200e-12', 'zero or more').default(200e-12),
      efficiency: efficiency.default(0.75),
    }),
    z.strictObject({
      kind: z.literal('blocking-oscillator'),
      feedbackTurns: quantity('', '6', 'above zero').default(6),
      baseOhms: quantity('Ω', '1000', 'above zero').default(1000),
      currentGain: quantity('', '60', 'above zero').default(60),
      ...transistor,
      /** As measured; estimated from the on-time and the swing back when not known. */
      frequencyHertz: quantity('Hz', '25000', 'above zero').nullable().default(null),
      efficiency: efficiency.default(0.5),
    }),
    z.strictObject({
      kind: z.literal('inverter'),
      bridge: choice(['half', 'full', 'push-pull']).default('full'),
      frequencyHertz: quantity('Hz', '25000', 'above zero'),
      /** Both switches off, at each change over. */
      deadSeconds: quantity('s', '1e-6', 'zero or more').default(0),
      transistorOhms: quantity('Ω', '0.05', 'zero or more').default(0.05),
      ...transistor,
      /** In series with the primary, to keep direct current out of it. */
      blockingFarads: quantity('F', '1e-6', 'above zero').nullable().default(null),
      efficiency: efficiency.default(0.85),
    }),
    z.strictObject({
      kind: z.literal('module'),
      waveform: choice(['sine', 'square']).default('sine'),
      /** Peak without load. */
      openVolts: quantity('V', '4000', 'above zero'),
      frequencyHertz: quantity('Hz', '30000', 'above zero'),
      seriesOhms: quantity('Ω', '20000', 'zero or more').default(0),
      maxAmps: quantity('A', '0.01', 'above zero').nullable().default(null),
      maxWatts: quantity('W', '15', 'above zero').nullable().default(null),
      /** How it is switched on and set, and what it needs before it starts. */
      startNote: text(500),
      heatSinkLive: yes.default(false),
      partId,
    }),
    z.strictObject({
      kind: z.literal('capacitor-discharge'),
      storeFarads: quantity('F', '1e-6', 'above zero'),
      storeVolts: quantity('V', '325', 'above zero'),
      /** What the charger puts into the store. */
      chargerWatts: quantity('W', '20', 'above zero'),
      /** Shots a second where something sets them; as fast as the charger can when not. */
      shotsPerSecond: quantity('Hz', '50', 'above zero').nullable().default(null),
      /** Second peak of the ringing against the first. */
      ringFraction: fraction('0.5').default(0.5),
      efficiency: efficiency.default(0.5),
    }),
  ],
  { error: kindOf(Object.keys(NEEDS)) },
);

/** What steps the driver's voltage up. */
export const transformerSchema = z.strictObject({
  /** Whole primary; of a centre-tapped one, end to end. */
  primaryTurns: quantity('', '10', 'above zero'),
  secondaryTurns: quantity('', '1000', 'above zero'),
  coupling: z
    .number({ error: saying('a part from above 0 to 1, such as 0.97') })
    .gt(0, { error: saying('a part from above 0 to 1, such as 0.97') })
    .lte(1, { error: saying('a part from above 0 to 1, such as 0.97') })
    .default(0.97),
  primaryHenries: quantity('H', '30e-6', 'above zero').nullable().default(null),
  secondaryOhms: quantity('Ω', '300', 'zero or more').default(0),
  /** Its own winding capacitance. */
  secondaryFarads: quantity('F', '15e-12', 'zero or more').default(0),
  coreSquareMetres: quantity('', '1.2e-4', 'above zero').nullable().default(null),
  saturationTesla: quantity('', '0.3', 'above zero').default(0.3),
  /** A diode inside, as in many flyback transformers. */
  rectifierInside: yes.default(false),
  partId,
  /** Of the core, where that is from the drawer by itself. */
  corePartId: partId,
});

export type Supply = z.output<typeof supplySchema>;
export type Driver = z.output<typeof driverSchema>;
export type Transformer = z.output<typeof transformerSchema>;
