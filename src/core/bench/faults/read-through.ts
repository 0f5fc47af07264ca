import type { Design } from '../../design/design-schema';
import { amplitudeVolts, type Drive } from '../../drive/drive';
import type { Meter } from '../../drive/meter-sense';
import { polarityOf } from '../../operating/ladder-inputs';
import { signedVolts } from '../../quantity/polarity';
import type { LadderNetwork } from '../../topology/network';
import { circuitOfDesign } from '../../transient/circuit-of-design';
import type { Circuit } from '../../transient/circuit';
import { settledNear } from '../../transient/settled-near';
import { onLowSource, type LowSource } from '../low-source';
import type { ProvingTest } from '../proving';
import { ChargeBalance, leakingLeast, type Balanced } from './charge-balance';
import type { TestBench } from './fault';

/** Where and when a meter is put on: at a tap, so long after switch-on and held so long; null where nobody counted, long enough for all to settle. */
export type Probing = { node: string; meter: Meter; sinceOnSeconds: number | null; heldSeconds: number | null };

/** A ladder at its low test, sound, and what brings the charge balance to what the engine has of it. */
export type SoundBench = {
  bench: TestBench;
  drive: Drive;
  /** As it stands without a meter. */
  balanced: Balanced;
  /** What the source itself reads, V; null where it is not to be read. */
  sourceVolts: number | null;
  /** Half of what one stage climbs, V. */
  peakVolts: number;
  /** What a reading is at a node, in its own sign. */
  sign: 1 | -1;
  /** Engine over charge balance at each node. */
  corrections: ReadonlyMap<string, number>;
};

/** A ladder on its drive and a meter, nothing wrong with either. */
export const soundlyRead = (network: LadderNetwork, circuit: Circuit, drive: Drive, meter: Meter): TestBench => ({
  network,
  circuit,
  peaks: { positive: drive.positivePeakVolts, negative: drive.negativePeakVolts },
  meter,
  shows: { times: 1, atMostVolts: Infinity },
  sourceTimes: 1,
});

/** @returns null for a drive of which nothing is known turned down, and for what does not rectify */
export function soundBenchOf(
  design: Design,
  source: LowSource,
  meter: Meter,
  { source: expected, taps }: Pick<ProvingTest, 'source' | 'taps'>,
): SoundBench | null {
  const low = onLowSource(design, source);
  if (!low) return null;
  const { ladder, circuit } = circuitOfDesign(low);
  const { drive, network } = ladder;
  if (network.diodes.length === 0) return null;
  const bench = soundlyRead(network, circuit, drive, meter);
  const balance = new ChargeBalance(circuit, bench.peaks);
  const balanced = balance.balanced();
  if (!balanced) return null;
  const sound: SoundBench = {
    bench,
    drive,
    balanced,
    sourceVolts: expected?.value ?? null,
    peakVolts: amplitudeVolts(drive),
    sign: signedVolts(1, polarityOf(design)) < 0 ? -1 : 1,
    corrections: new Map(),
  };
  const corrections = new Map<string, number>();
  for (const { node, reading } of taps) {
    const own = reading && shownAt(sound, bench, { node, meter, sinceOnSeconds: null, heldSeconds: null }, balance);
    if (own) corrections.set(node, reading.value / own);
  }
  return { ...sound, corrections };
}

/** Steps of time, each so many times as long as the one before. */
const GROWTH = 1.6;
const FIRST_PERIODS = 1;

/**
 * What a meter shows at a node of a bench by the charge balance, V; null where that has no solution.
 *
 * @param bench the sound one or one with a fault
 * @param balance of the bench, for one who reads it more than once
 */
export const shownAt = (
  sound: SoundBench,
  bench: TestBench,
  probing: Probing,
  balance = balanceOf(sound, bench),
): number | null => shownFrom(sound, bench, probing, standsAt(sound, bench, probing, balance));

/** What the node itself stands at with the meter on it, by the charge balance, V. */
export function standsAt(sound: SoundBench, bench: TestBench, probing: Probing, balance: ChargeBalance): number | null {
  const put = metered(sound, bench, probing);
  return put && meanAt(balance, put, probing);
}

/** What the meter makes of that, brought to what the engine has. */
export const shownFrom = (
  sound: SoundBench,
  bench: TestBench,
  probing: Probing,
  volts: number | null,
): number | null =>
  volts === null ? null : shownOf(sound, bench, probing, volts * (sound.corrections.get(probing.node) ?? 1));

/** The same by the engine, from where the charge balance has it; by the charge balance where that does not settle, and where time counts. */
export function* shownByEngine(
  sound: SoundBench,
  bench: TestBench,
  probing: Probing,
): Generator<unknown, number | null> {
  const balanced = shownAt(sound, bench, probing);
  const put = metered(sound, bench, probing);
  if (!put || probing.sinceOnSeconds !== null || probing.heldSeconds !== null) return balanced;
  const near = balanceOf(sound, bench).withMeter(put.at, put.siemens, put.farads);
  const drive = driveOf(sound.drive, bench);
  const means = near && (yield* settledNear(leakingLeast(withMeter(bench.circuit, put)), drive, near.means));
  return means ? shownOf(sound, bench, probing, means[put.at]) : balanced;
}

/** A drive has two peaks, V. */
const LEAST_PEAK = 1e-3;

/** A drive with the peaks that a bench has of it. */
export const driveOf = (drive: Drive, { peaks: { positive, negative } }: TestBench): Drive => ({
  ...drive,
  positivePeakVolts: positive,
  negativePeakVolts: Math.max(negative, LEAST_PEAK),
});

/** A meter on a node of a circuit. */
type Metered = { at: number; siemens: number; farads: number };

/** Null where the node is none of the bench. */
function metered(sound: SoundBench, bench: TestBench, { node, meter }: Probing): Metered | null {
  const at = bench.circuit.place.get(node);
  if (at === undefined) return null;
  // What a fault makes of the session's meter it makes of any.
  const inputOhms = meter.inputOhms * (bench.meter.inputOhms / sound.bench.meter.inputOhms);
  return { at, siemens: 1 / inputOhms, farads: meter.inputFarads };
}

/** Fraction of the drive's amplitude under which a meter shows nothing (common practice, no source). */
const LEAST_SHOWN = 1e-3;

function shownOf({ sign, peakVolts }: SoundBench, { shows }: TestBench, { meter }: Probing, volts: number): number {
  const shown = (volts * sign * shows.times) / meter.probeRatio;
  if (Math.abs(shown) < (LEAST_SHOWN * peakVolts) / meter.probeRatio) return 0;
  return Math.sign(shown) * Math.min(Math.abs(shown), shows.atMostVolts);
}

/** The charge balance of a bench without a meter. */
export const balanceOf = (sound: SoundBench, bench: TestBench): ChargeBalance =>
  new ChargeBalance(bench.circuit, bench.peaks, sound.balanced.conducting);

const withMeter = (circuit: Circuit, { at, siemens, farads }: Metered): Circuit => ({
  ...circuit,
  resistors: [...circuit.resistors, { from: at, to: -1, siemens }],
  capacitors: [...circuit.capacitors, { from: at, to: -1, farads }],
});

function meanAt(balance: ChargeBalance, put: Metered, { sinceOnSeconds, heldSeconds }: Probing): number | null {
  const { at } = put;
  if (sinceOnSeconds === null && heldSeconds === null)
    return balance.withMeter(at, put.siemens, put.farads)?.means[at] ?? null;
  const bare = balance.balanced();
  if (!bare) return null;
  const { hertz, names } = balance.circuit;
  // Held from the moment of switch-on at the longest.
  const held = Math.min(heldSeconds ?? 0, sinceOnSeconds ?? Infinity);
  const before =
    sinceOnSeconds === null
      ? bare.means
      : after(balance, new Float64Array(names.length), (sinceOnSeconds - held) * hertz);
  const withIt = balance.near(withMeter(balance.circuit, put));
  const found = before && after(withIt, before, Math.max(held * hertz, FIRST_PERIODS));
  return found ? found[at] : null;
}

/** Means of the nodes so many periods on. */
function after(balance: ChargeBalance, from: Float64Array, periods: number): Float64Array | null {
  let means = from;
  let done = 0;
  for (let step = FIRST_PERIODS; done < periods; step *= GROWTH) {
    const length = Math.min(step, periods - done);
    const next = balance.balanced({ means, periods: length });
    if (!next) return null;
    means = next.means;
    done += length;
  }
  return means;
}
