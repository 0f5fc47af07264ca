import { mostThrough, type Feed } from './sag';

/** What a ladder sees at its input, whatever made it. */
export type Drive = {
  waveform: 'sine' | 'square' | 'pulse' | 'sampled';
  /** A waveform as it was recorded, evenly over one period, V; its peaks stand beside it. */
  samples: readonly number[] | null;
  positivePeakVolts: number;
  negativePeakVolts: number;
  /** Fraction of the period that a square or pulse stands at its positive peak, 0..1; one half for a sine. */
  duty: number;
  /** Time that a square or pulse takes from one peak to the other, s; 0 for steps. Duty counts from start to start. */
  edgeSeconds: number;
  frequencyHertz: number;
  /** Of each winding. */
  seriesOhms: number;
  /** Leakage inductance in series with each winding, H. */
  seriesHenries: number;
  /** Capacitor in series with each winding, F, which passes no direct current; null without one. */
  seriesFarads: number | null;
  /** What it can give, W, and RMS from a winding, A. */
  maxWatts: number | null;
  maxAmps: number | null;
  /** What charging the capacitance at the foot to the full peaks takes of that power, W: it goes with their square. */
  chargingLossWatts: number;
  /** A positive peak that leakage lifts over what the driver leaves, giving little there; null where it is not so. */
  lift: Lift | null;
  /** What ringing adds to the other peak without load, V, and the scale of what it passes on, A; null where none does. */
  forwardLift: { volts: number; amps: number } | null;
  /** The direct voltage behind it: it sags by its resistance and gives no more than its limit. */
  supply: Feed | null;
  /** Whether how it comes about is left out in part, so that it is right within some 20 % only. */
  rough: boolean;
  /** Whether it runs in bursts only, standing at no voltage between them; null where it runs all the time. */
  burst: Burst | null;
  /** Which peaks fall when power runs out: a flyback's pulse does, its forward stroke does not. */
  collapsingPeak: 'both' | 'positive' | 'negative';
};

/** How often a drive is let run, Hz, and for what part of the time, above 0 and below 1. */
export type Burst = { hertz: number; onFraction: number };

/** From what part of the full peak leakage alone gives anything, 0..1, and the scale of what it gives, W: see {@link wattsAtScale}. */
type Lift = {
  from: number;
  watts: number;
  /** How far a ring goes where nothing is left of the one before, over how far it goes without load. */
  fresh: number;
};

/** The same drive when power has run out and what gives way stands at this part of its full peak, 0..1. */
export function scaledDrive(drive: Drive, level: number): Drive {
  const { positivePeakVolts, negativePeakVolts, collapsingPeak } = drive;
  return {
    ...drive,
    positivePeakVolts:
      collapsingPeak === 'negative' ? positivePeakVolts - liftLost(drive, level) : positivePeakVolts * level,
    negativePeakVolts:
      collapsingPeak === 'positive' ? negativePeakVolts - liftLost(drive, level) : negativePeakVolts * level,
    samples: drive.samples && drive.samples.map((volts) => volts * level),
  };
}

/**
 * What of the lift of the peak that stays is gone at this level of the other,
 * V: both pass the same charge q, and a capacitance C that rings A gives C (A^2 -
 * x^2) / 2x to who holds it x above where it rings about, solved for x.
 */
function liftLost(drive: Drive, level: number): number {
  const { forwardLift, collapsingPeak, positivePeakVolts, negativePeakVolts } = drive;
  if (forwardLift === null) return 0;
  const watts = wattsAtScale(drive, level) ?? 0;
  const volts = (collapsingPeak === 'negative' ? negativePeakVolts : positivePeakVolts) * level;
  const times = volts > 0 ? watts / volts / forwardLift.amps : Infinity;
  // sqrt(m^2 + 1) - m in a form that keeps its digits.
  const left = Number.isFinite(times) ? 1 / (Math.sqrt(times ** 2 + 1) + times) : 0;
  return forwardLift.volts * (1 - left);
}

/**
 * The most power that a drive gives, W: its own limit or what the supply behind
 * it lets through, by its sag or V0 times its current limit; null without a limit.
 */
export function mostWatts({ maxWatts, supply }: Drive): number | null {
  const beyondIdle = (watts: number) => (supply ? supply.efficiency * Math.max(0, watts - supply.idleWatts) : 0);
  const through = supply && mostThrough(supply);
  const limits = [
    maxWatts ?? Infinity,
    ...(through === null ? [] : [beyondIdle(through)]),
    ...(supply && supply.maxAmps !== null ? [beyondIdle(supply.volts * supply.maxAmps)] : []),
  ];
  const least = Math.min(...limits);
  return least < Infinity && least > 0 ? least : null;
}

/**
 * Power left for a ladder when the peaks stand at this part of their full
 * height, W: the limit less what charging the foot's own capacitance takes, which
 * rings away each cycle; null without a limit.
 *
 * Where leakage lifts a peak, a capacitance C that rings A about what the driver
 * holds lets a ladder that holds it x above that take C (A^2 - x^2) / 2x a cycle
 * (derived: what the ring has left for it empties against x). A itself goes over
 * from what it is without load to a fresh ring's as less is left of it.
 */
export function wattsAtScale({ maxWatts, chargingLossWatts, lift }: Drive, level: number): number | null {
  const left = maxWatts === null ? null : Math.max(0, maxWatts - chargingLossWatts * level ** 2);
  if (lift === null || level <= lift.from) return left;
  const above = (level - lift.from) / (1 - lift.from);
  const ring = lift.fresh + (1 - lift.fresh) * above;
  return Math.max(0, Math.min(left ?? Infinity, (lift.watts * level * (ring ** 2 - above ** 2)) / (2 * above)));
}

/** The drive as a negative ladder sees it when it is computed as its positive mirror. */
export function mirroredDrive(drive: Drive): Drive {
  return {
    ...drive,
    positivePeakVolts: drive.negativePeakVolts,
    negativePeakVolts: drive.positivePeakVolts,
    duty: 1 - drive.duty,
    samples: drive.samples && drive.samples.map((volts) => -volts),
    collapsingPeak:
      drive.collapsingPeak === 'both' ? 'both' : drive.collapsingPeak === 'positive' ? 'negative' : 'positive',
  };
}

/** Stands for no voltage where a peak must be above zero, V. */
export const SILENT_VOLTS = 1e-6;

/**
 * What a rectifier inside the transformer leaves of a drive where nothing draws
 * its pulses on directly: it charges what it feeds to the positive peak, once,
 * and takes nothing back.
 */
export function heldAtPeak(drive: Drive): Drive {
  return { ...drive, negativePeakVolts: SILENT_VOLTS - drive.positivePeakVolts, samples: null };
}

/** Whether a closed form knows what becomes of a drive under load: not through a capacitor in series, and not in bursts. */
export const hasLoadedForm = ({ seriesFarads, burst }: Pick<Drive, 'seriesFarads' | 'burst'>): boolean =>
  seriesFarads === null && burst === null;

/** Whether a drive gives nothing at all, as of a driver that does not run. */
export const isSilent = ({ positivePeakVolts, negativePeakVolts }: Drive) =>
  Math.max(positivePeakVolts, negativePeakVolts) <= SILENT_VOLTS;

/** Half the drive's peak-to-peak voltage, V: the peak of a sine, whatever its offset. */
export function amplitudeVolts(drive: Drive): number {
  return (drive.positivePeakVolts + drive.negativePeakVolts) / 2;
}

/** Middle between the two peaks, V. */
export function centreVolts(drive: Drive): number {
  return (drive.positivePeakVolts - drive.negativePeakVolts) / 2;
}

/** Mean over a period, V: the middle for a sine; a pulse stands at each peak for its part of the period. */
export function meanDriveVolts(drive: Drive): number {
  if (drive.samples) return drive.samples.reduce((sum, volts) => sum + volts, 0) / drive.samples.length;
  return centreVolts(drive) + (2 * drive.duty - 1) * amplitudeVolts(drive);
}

/** Whether the drive jumps between its peaks, so that charging takes no part of the cycle. */
export function hasFastEdges(drive: Pick<Drive, 'waveform'>): boolean {
  return drive.waveform === 'square' || drive.waveform === 'pulse';
}

/** Most of a peak's time that its edge may take. */
const MOST_EDGE = 0.5;

/** Fraction of the period that an edge of a square or pulse takes, at most half of the shorter peak's. */
export function edgeFraction({ edgeSeconds, frequencyHertz, duty }: Drive): number {
  return Math.min(edgeSeconds * frequencyHertz, MOST_EDGE * Math.min(duty, 1 - duty));
}

/** The drive at a part of its period, 0..1, V. */
export function driveAt(drive: Drive, part: number): number {
  const { samples } = drive;
  if (samples) {
    const place = part * samples.length;
    const at = Math.floor(place);
    const [here, next] = [samples[at % samples.length], samples[(at + 1) % samples.length]];
    return here + (next - here) * (place - at);
  }
  if (drive.waveform === 'sine') return centreVolts(drive) + amplitudeVolts(drive) * Math.sin(2 * Math.PI * part);
  const { duty, positivePeakVolts, negativePeakVolts } = drive;
  const edge = edgeFraction(drive);
  const height = positivePeakVolts + negativePeakVolts;
  if (part < duty) return part < edge ? -negativePeakVolts + (height * part) / edge : positivePeakVolts;
  return part - duty < edge ? positivePeakVolts - (height * (part - duty)) / edge : -negativePeakVolts;
}
