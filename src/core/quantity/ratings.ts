import type { Severity } from './finding';
import type { Unit } from './units';

/** When a part is stressed: how the supply is run, or what has happened to it. */
export const CONDITIONS = {
  noLoad: 'no load',
  driveHigh: 'drive at its highest',
  loaded: 'at the load',
  shortedOutput: 'output shorted',
  switchedOn: 'switched on',
} as const;
export type Condition = keyof typeof CONDITIONS;

/** What is said when a rating is passed, or its margin is thin; null where something else says it. */
type RatingFinding = { code: string; severity: Severity };

type RatingKind = {
  /** What is rated, as a list names it. */
  subject: string;
  /** Which of its ratings. */
  rating: string;
  unit: Unit;
  /** JSON path of the field that the finding is about. */
  where: string;
  over: RatingFinding | null;
  close: RatingFinding | null;
  advice: string;
};

const stop = (code: string): RatingFinding => ({ code, severity: 'stop' });
const warn = (code: string): RatingFinding => ({ code, severity: 'warn' });
const note = (code: string): RatingFinding => ({ code, severity: 'note' });

const MORE_IN_SERIES = 'Put more in series, or use ones of higher rating.';

/**
 * Every rating that is met by a stress, once: what it is called, its unit, and
 * what is found when it is passed. Whoever knows a stress names it by its id,
 * and so does whoever knows the rated value; margins join the two.
 */
export const RATINGS = {
  capacitorVoltage: {
    subject: 'Capacitors',
    rating: 'voltage',
    unit: 'V',
    where: '$.ladder.capacitor.ratedVolts',
    over: null,
    close: null,
    advice: '',
  },
  capacitorAlternatingVoltage: {
    subject: 'Capacitors',
    rating: 'alternating voltage, RMS',
    unit: 'V',
    where: '$.ladder.capacitor.ratedAcVolts',
    over: warn('capacitor-over-alternating-voltage'),
    close: null,
    advice: 'Use capacitors of a higher ac rating, or larger ones.',
  },
  capacitorCurrent: {
    subject: 'Capacitors',
    rating: 'current, RMS',
    unit: 'A',
    where: '$.ladder.capacitor.ratedRmsAmps',
    over: warn('capacitor-over-current'),
    close: null,
    advice: 'Put more of them in parallel, or draw less.',
  },
  capacitorTemperatureRise: {
    subject: 'Capacitors',
    rating: 'temperature rise',
    unit: 'K',
    where: '$.ladder.capacitor.lossTangent',
    over: warn('capacitor-warms'),
    close: null,
    advice: 'Use a dielectric of lower loss, larger bodies or several in parallel, or draw less.',
  },
  diodeReverseVoltage: {
    subject: 'Diodes',
    rating: 'peak inverse voltage',
    unit: 'V',
    where: '$.ladder.diode.peakInverseVolts',
    over: null,
    close: null,
    advice: '',
  },
  diodeAverageCurrent: {
    subject: 'Diodes',
    rating: 'average current',
    unit: 'A',
    where: '$.ladder.diode.averageAmps',
    over: stop('diode-over-current'),
    close: null,
    advice: 'Draw less, or use diodes of more average current.',
  },
  diodeSurge: {
    subject: 'Diodes',
    rating: 'surge current',
    unit: 'A',
    where: '$.ladder.diode.surgeAmps',
    over: null,
    close: null,
    advice: '',
  },
  diodeHeat: {
    subject: 'Diodes',
    rating: 'heat',
    unit: 'W',
    where: '$.ladder.diode.averageAmps',
    over: null,
    close: null,
    advice: '',
  },
  smoothingVoltage: {
    subject: 'Smoothing capacitors',
    rating: 'voltage',
    unit: 'V',
    where: '$.output.smoothing',
    over: stop('smoothing-over-rating'),
    close: warn('smoothing-margin-thin'),
    advice: 'Use capacitors of a higher rating: each stands all of the output.',
  },
  seriesPower: {
    subject: 'Series resistor',
    rating: 'power',
    unit: 'W',
    where: '$.output.seriesOhms',
    over: stop('resistor-over-rating'),
    close: warn('resistor-margin-thin'),
    advice: MORE_IN_SERIES,
  },
  seriesVoltage: {
    subject: 'Series resistor',
    rating: 'voltage rating',
    unit: 'V',
    where: '$.output.seriesOhms',
    over: stop('resistor-over-rating'),
    close: warn('resistor-margin-thin'),
    advice: MORE_IN_SERIES,
  },
  seriesPulse: {
    subject: 'Series resistor',
    rating: 'pulse energy',
    unit: 'J',
    where: '$.output.seriesOhms',
    over: stop('resistor-over-rating'),
    close: warn('resistor-margin-thin'),
    advice: MORE_IN_SERIES,
  },
  bleederPower: {
    subject: 'Bleeder',
    rating: 'power',
    unit: 'W',
    where: '$.output.bleederOhms',
    over: stop('resistor-over-rating'),
    close: warn('resistor-margin-thin'),
    advice: MORE_IN_SERIES,
  },
  bleederVoltage: {
    subject: 'Bleeder',
    rating: 'voltage rating',
    unit: 'V',
    where: '$.output.bleederOhms',
    over: stop('resistor-over-rating'),
    close: warn('resistor-margin-thin'),
    advice: MORE_IN_SERIES,
  },
  dividerVoltage: {
    subject: 'Divider’s string',
    rating: 'voltage rating',
    unit: 'V',
    where: '$.output.divider.topRatedVolts',
    over: stop('resistor-over-rating'),
    close: warn('resistor-margin-thin'),
    advice: MORE_IN_SERIES,
  },
  dividerPower: {
    subject: 'Divider’s string',
    rating: 'power',
    unit: 'W',
    where: '$.output.divider.topWatts',
    over: stop('resistor-over-rating'),
    close: warn('resistor-margin-thin'),
    advice: MORE_IN_SERIES,
  },
  dividerMeter: {
    subject: 'Meter at the divider',
    rating: 'input limit',
    unit: 'V',
    where: '$.output.divider.footOhms',
    over: stop('divider-over-meter'),
    close: warn('divider-near-meter-limit'),
    advice: 'Use a smaller foot, or a larger string: the meter breaks down before it reads.',
  },
  transistorVoltage: {
    subject: 'Transistor',
    rating: 'blocking voltage',
    unit: 'V',
    where: '$.driver.ratedVolts',
    over: stop('transistor-over-voltage'),
    close: warn('transistor-margin-thin'),
    advice: 'Use a transistor of a higher rating, or a lower supply.',
  },
  transistorCurrent: {
    subject: 'Transistor',
    rating: 'current, RMS',
    unit: 'A',
    where: '$.driver.ratedAmps',
    over: warn('transistor-over-current'),
    close: null,
    advice: 'Use transistors of more current, or draw less.',
  },
  tankVoltage: {
    subject: 'Tank capacitor',
    rating: 'voltage',
    unit: 'V',
    where: '$.driver.tankRatedVolts',
    over: stop('tank-over-voltage'),
    close: null,
    advice: 'Put more in series, made for pulse current, or lower the supply.',
  },
  tankCurrent: {
    subject: 'Tank capacitor',
    rating: 'current, RMS',
    unit: 'A',
    where: '$.driver.tankRatedAmps',
    over: stop('tank-over-current'),
    close: null,
    advice: 'It heats and bursts: put more strings in parallel, each of a smaller value.',
  },
  gatePower: {
    subject: 'Gate resistor',
    rating: 'power',
    unit: 'W',
    where: '$.driver.gateResistorWatts',
    over: stop('gate-resistor-overloaded'),
    close: null,
    advice: 'Feed the gates from a lower, separate supply, or use a larger resistance.',
  },
  chokeSaturation: {
    subject: 'Choke',
    rating: 'saturation current',
    unit: 'A',
    where: '$.driver.chokeSaturationAmps',
    over: stop('choke-saturates'),
    close: warn('choke-near-saturation'),
    advice: 'Use a choke with a larger gap or core.',
  },
  coreFlux: {
    subject: 'Core',
    rating: 'flux density',
    unit: 'T',
    where: '$.transformer.coreSquareMetres',
    over: stop('core-saturates'),
    close: warn('core-near-saturation'),
    advice:
      'A saturated primary is a short, and hot ferrite saturates earlier: use more primary turns, a larger core, a higher frequency or less voltage.',
  },
  primaryCurrent: {
    subject: 'Primary wire',
    rating: 'current, RMS',
    unit: 'A',
    where: '$.transformer',
    over: note('primary-wire-thin'),
    close: null,
    advice: 'Use more strands or thicker wire; a short winding in moving air takes more than the common 3 A/mm².',
  },
  secondaryCurrent: {
    subject: 'Secondary wire',
    rating: 'current, RMS',
    unit: 'A',
    where: '$.transformer',
    over: note('secondary-wire-thin'),
    close: null,
    advice: 'Use thicker wire if it goes in, or see how warm the winding gets.',
  },
} as const satisfies Record<string, RatingKind>;

export type RatingId = keyof typeof RATINGS;

/** What a rating is, whichever it is. */
export const ratingKind = (id: RatingId): RatingKind => RATINGS[id];

/** What a part is asked in one case; SI base units. */
export type Stress = {
  id: RatingId;
  condition: Condition;
  value: number;
  /** The id of the part that counts among several; null where there is one. */
  part: string | null;
  /** How long it lasts, s, where the rating depends on that. */
  seconds?: number;
  /** What would put it right in this design, where that can be calculated. */
  remedy?: string;
};

/** What a part is rated for; of surges it depends on how long they last. Null where it is not known. */
export type Rating = { id: RatingId; rated: number | null | ((seconds: number) => number | null) };

/** A rating met by a stress. */
export type Margin = {
  id: RatingId;
  condition: Condition;
  part: string | null;
  stress: number;
  rated: number;
  /** Rated over stress, less one. */
  margin: number;
  remedy?: string;
};

/** A rated part by its name, with the id of the one that counts among several: "Capacitors (C2)". */
export function formatSubject({ id, part }: Pick<Margin, 'id' | 'part'>): string {
  return part === null ? RATINGS[id].subject : `${RATINGS[id].subject} (${part})`;
}
