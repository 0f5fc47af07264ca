import { choice, listOf, quantity, saying, share } from '../schema/fields';
import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import * as z from '../zod';
import { driveAt, type Drive } from './drive';
import { plainDrive } from './drive-result';

const POINTS = 1000;
/** RMS over mean of a rectified sine: what an average-responding meter is scaled by (handbook). */
const FORM_FACTOR = Math.PI / (2 * Math.SQRT2);

export const METER_KINDS = ['average-responding', 'true-rms', 'peak', 'dc'] as const;
export type MeterKind = (typeof METER_KINDS)[number];

/** A meter and the probe before it, by what its data sheet says. */
export const meterSchema = z.strictObject({
  kind: choice(METER_KINDS).default('average-responding'),
  /** Where an alternating reading has fallen to 0.71 (-3 dB). */
  bandHertz: quantity('Hz', '20000', 'above zero').nullable().default(20e3),
  /** What meter and probe together load the point with. */
  inputOhms: quantity('Ω', '10e6', 'above zero').default(10e6),
  inputFarads: quantity('F', '100e-12', 'zero or more').default(100e-12),
  /** RMS that its jacks are marked for. */
  limitVolts: quantity('V', '600', 'above zero').default(600),
  /** How far off a dc reading may be, either way, as a part of it. */
  accuracy: share('0.01').default(0.01),
  /** A reading of one volt stands for so many at the probe's tip. */
  probeRatio: quantity('', '1', 'above zero').default(1),
});
export type Meter = z.output<typeof meterSchema>;

/** The most meters that one workshop keeps. */
const MOST_METERS = 40;
const METER_NAME = 'a name of 1 to 40 characters';

/** The meters of one workshop, each under a name. */
export const ownMetersSchema = z.strictObject({
  meters: listOf(
    z.strictObject({
      name: z
        .string({ error: saying(METER_NAME) })
        .trim()
        .min(1, { error: saying(METER_NAME) })
        .max(40, { error: saying(METER_NAME) }),
      meter: meterSchema,
    }),
    'meters',
    MOST_METERS,
  ).default([]),
});
export type OwnMeters = z.output<typeof ownMetersSchema>;

/** Readings of one waveform, V; the two alternating ones on ranges that block direct voltage. */
export type MeterReadings = {
  meanVolts: number;
  trueRmsVolts: number;
  averageRespondingVolts: number;
  positivePeakVolts: number;
};

/** One period of a drive behind a low pass of first order, in steady state; the drive itself without one. */
function bandLimited(drive: Drive, bandHertz: number | null): number[] {
  const values = Array.from({ length: POINTS }, (_, point) => driveAt(drive, (point + 0.5) / POINTS));
  if (bandHertz === null) return values;
  const keeps = Math.exp((-2 * Math.PI * bandHertz) / (drive.frequencyHertz * POINTS));
  // What a period adds from rest tells where it must start to come back to itself.
  let level = values.reduce((last, value) => keeps * last + (1 - keeps) * value, 0) / (1 - keeps ** POINTS);
  return values.map((value) => (level = keeps * level + (1 - keeps) * value));
}

/**
 * What meters show of a drive whose voltage is within their range: a dc range
 * its mean, a true-RMS ac range the root mean square of what alternates, an
 * average-responding one the mean of that rectified, scaled so that a sine reads
 * right (handbook), a peak-reading one the positive peak.
 *
 * @param bandHertz where the meter's reading has fallen by 3 dB, as a low pass
 *   of first order; null for a meter that is fast enough
 */
export function meterReadings(drive: Drive, bandHertz: number | null = null): MeterReadings {
  const values = bandLimited(drive, bandHertz);
  const meanVolts = values.reduce((sum, value) => sum + value, 0) / POINTS;
  let squares = 0;
  let rectified = 0;
  for (const value of values) {
    squares += (value - meanVolts) ** 2;
    rectified += Math.abs(value - meanVolts);
  }
  return {
    meanVolts,
    trueRmsVolts: Math.sqrt(squares / POINTS),
    averageRespondingVolts: (FORM_FACTOR * rectified) / POINTS,
    positivePeakVolts: Math.max(...values),
  };
}

const OF_KIND: Record<MeterKind, keyof MeterReadings> = {
  'average-responding': 'averageRespondingVolts',
  'true-rms': 'trueRmsVolts',
  peak: 'positivePeakVolts',
  dc: 'meanVolts',
};

/** Part by which meter and source together may falsify before it is said (common practice, no source). */
const WORTH_SAYING = 0.03;

export type MeterView = {
  /** What the meter's display shows, V. */
  shownVolts: number;
  /** Which part of the true value of its kind that is: band limit and loading, probe aside; null of nothing. */
  trueness: number | null;
  /** Whether more stands at its jacks than they are marked for. */
  isOverJacks: boolean;
  findings: Finding[];
};

/**
 * What one meter shows of a drive, and what is wrong with that: band limit,
 * loading by its resistance and capacitance behind the drive's own, voltage
 * limit of its jacks.
 */
export function meterView(drive: Drive, meter: Meter): MeterView {
  const kind = OF_KIND[meter.kind];
  const truth = meterReadings(drive)[kind];
  const omega = 2 * Math.PI * drive.frequencyHertz;
  const band = meter.kind === 'dc' ? null : meter.bandHertz;
  const loading = loadingOf(drive, meter, meter.kind === 'dc' ? 0 : omega);
  const shownVolts = (meterReadings(drive, band)[kind] * loading) / meter.probeRatio;
  const trueness = truth === 0 ? null : (shownVolts * meter.probeRatio) / truth;
  const findings: Finding[] = [];
  const say = (severity: Finding['severity'], code: string, message: string, advice: string) =>
    findings.push({ severity, code, where: 'Meter', message, advice });
  const jackVolts = Math.max(drive.positivePeakVolts, drive.negativePeakVolts) / meter.probeRatio;
  const isOverJacks = jackVolts > meter.limitVolts * Math.SQRT2;
  if (isOverJacks)
    say(
      'stop',
      'meter-over-voltage',
      `${formatQuantity(jackVolts, 'V')} peak would stand at jacks marked for ${formatQuantity(meter.limitVolts, 'V')} RMS.`,
      'Use a divider rated for the voltage; the meter breaks down before it reads.',
    );
  const byBand = band === null || truth === 0 ? 1 : meterReadings(drive, band)[kind] / truth;
  if (Math.abs(byBand - 1) > WORTH_SAYING)
    say(
      'warn',
      'meter-too-slow',
      `At ${formatQuantity(drive.frequencyHertz, 'Hz')} its band limit makes it show ${formatQuantity(byBand, '%', 2)} of the voltage, about.`,
      'Use a scope or a rectifying probe; correcting so large a fall is a guess.',
    );
  if (Math.abs(loading - 1) > WORTH_SAYING)
    say(
      'warn',
      'meter-loads',
      `Its ${formatQuantity(meter.inputOhms, 'Ω')} and ${formatQuantity(meter.inputFarads, 'F')} change the voltage they measure to ${formatQuantity(loading, '%', 3)}.`,
      'Use a probe of more ohms and fewer picofarads.',
    );
  if (meter.kind === 'average-responding' && truth > 0) {
    const off = truth / meterReadings(drive).trueRmsVolts - 1;
    if (Math.abs(off) > WORTH_SAYING)
      say(
        'note',
        'meter-scaled-for-sine',
        `It is scaled for a sine: of this waveform it shows ${formatQuantity(Math.abs(off), '%', 2)} ${off > 0 ? 'more' : 'less'} than the RMS.`,
        'Counted in the conversion here.',
      );
  }
  return { shownVolts, trueness, isOverJacks, findings };
}

/** Fraction of a drive's voltage that is left with the meter across it, behind the drive's resistance and inductance. */
function loadingOf({ seriesOhms, seriesHenries }: Drive, { inputOhms, inputFarads }: Meter, omega: number): number {
  // 1 / |1 + Zs Ym|
  const real = 1 + seriesOhms / inputOhms - omega ** 2 * seriesHenries * inputFarads;
  const imaginary = omega * (seriesHenries / inputOhms + seriesOhms * inputFarads);
  return 1 / Math.hypot(real, imaginary);
}

/**
 * How many times the drive's voltages must be what they are for a meter to show
 * this reading: the waveform's shape is taken as known, its height from the
 * meter.
 *
 * @returns null where the meter shows nothing of such a waveform
 */
export function timesForReading(drive: Drive, meter: Meter, readVolts: number): number | null {
  const { shownVolts } = meterView(drive, meter);
  return Math.abs(shownVolts) > 1e-9 * drive.positivePeakVolts ? readVolts / shownVolts : null;
}

/** What a meter makes doubtful of a sine read with it, RMS, where its frequency is known. */
export function readingDoubts({ volts, hertz }: { volts: number; hertz: number }, meter: Meter): Finding[] {
  const peakVolts = volts * Math.SQRT2 * meter.probeRatio;
  const sine = plainDrive({
    waveform: 'sine',
    positivePeakVolts: peakVolts,
    negativePeakVolts: peakVolts,
    frequencyHertz: hertz,
  });
  return meter.kind === 'dc' || !(volts > 0) ? [] : meterView(sine, meter).findings;
}
