import { driveAt, type Drive } from '../drive/drive';
import { swingsWhole, terminalTurns, type LoadedLadder, type RippleInputs, type TerminalTurn } from '../ladder/loaded';
import { loadSiemensAt } from '../load/load-kinds';
import { isOnTheWay, type OutputElement } from './elements';

/** A complex number. */
type Complex = { re: number; im: number };
const ONE: Complex = { re: 1, im: 0 };
const plus = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im });
const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
function over(a: Complex, b: Complex): Complex {
  const square = b.re ** 2 + b.im ** 2;
  return { re: (a.re * b.re + a.im * b.im) / square, im: (a.im * b.re - a.re * b.im) / square };
}

/** What an output does to what alternates at the ladder's terminal, at one frequency. */
type Passed = {
  /** At the load, of each volt at the terminal. */
  gain: Complex;
  /** Taken of the ladder for each volt there, S. */
  siemens: Complex;
};

/**
 * The output at a frequency: from the load back to the terminal every element
 * across it adds its admittance, every one on the way its impedance (handbook).
 *
 * @param loadSiemens of the load about its working point, S
 */
export function passedAt(elements: readonly OutputElement[], loadSiemens: number, hertz: number): Passed {
  const omega = 2 * Math.PI * hertz;
  const load = elements.find((element) => element.kind === 'load')!;
  const acrossAt = (node: string): Complex =>
    elements.reduce<Complex>(
      (sum, element) => {
        if (isOnTheWay(element) || element.from !== node) return sum;
        if (element.kind === 'capacitor') return plus(sum, { re: 0, im: omega * element.farads });
        return element.kind === 'resistor' ? plus(sum, { re: 1 / element.ohms, im: 0 }) : sum;
      },
      { re: node === load.from ? loadSiemens : 0, im: 0 },
    );
  let node = load.from;
  let siemens = acrossAt(node);
  let gain = ONE;
  while (node !== 'terminal') {
    const way = elements.find((element) => isOnTheWay(element) && element.to === node)!;
    const impedance: Complex =
      way.kind === 'choke'
        ? { re: way.ohms, im: omega * way.henries }
        : { re: way.kind === 'resistor' ? way.ohms : 0, im: 0 };
    const divided = plus(ONE, times(impedance, siemens));
    gain = over(gain, divided);
    node = way.from;
    siemens = plus(over(siemens, divided), acrossAt(node));
  }
  return { gain, siemens };
}

/** Whether anything of an output smooths: a capacitor that does not stand at the terminal itself. */
export const smooths = (elements: readonly OutputElement[]): boolean =>
  elements.some((element) => element.kind === 'capacitor' && element.from !== 'terminal');

/** Of an output that the drive swings as a whole, and of another, from which the mean is rough; of the former also the most that has any. */
const ROUGH_SWUNG = 0.03;
const ROUGH_SMOOTHED = 0.3;
const MOST_SWUNG = 0.2;

/**
 * How much smoothing takes of a ladder at the drive's frequency: the part of the
 * current between its pulses that goes there. A clamp's mean is off by up to that
 * part, a smoothed ladder's droop by a third of it (against the time domain).
 */
function takenBy(elements: readonly OutputElement[], { drive, outputElastance }: LoadedLadder): number {
  const { re, im } = passedAt(elements, 0, drive.frequencyHertz).siemens;
  return (Math.hypot(re, im) * outputElastance) / (2 * Math.PI * drive.frequencyHertz);
}

/** How far the closed form of a mean holds with what smooths behind a ladder. */
export function smoothedValidity(
  elements: readonly OutputElement[],
  ladder: LoadedLadder,
): 'good' | 'rough' | 'beyond' {
  if (!smooths(elements)) return 'good';
  const taken = takenBy(elements, ladder);
  const swung = swingsWhole(ladder);
  if (swung && taken > MOST_SWUNG) return 'beyond';
  return taken > (swung ? ROUGH_SWUNG : ROUGH_SMOOTHED) ? 'rough' : 'good';
}

/** Samples of one period: of one ladder, and of each of very many. */
export const SAMPLES = { one: 128, each: 32 } as const;

/**
 * What is left at the load of a waveform at the terminal, V: every harmonic that
 * so many samples hold goes through the output.
 *
 * @param samples one period at the terminal, evenly spaced, V
 * @param hertz of that period
 * @param elastance of the ladder between its pulses, 1/F: what the output takes of it makes what alternates there
 *   smaller; 0 for a source that does not give way
 */
export function waveformBehind(
  elements: readonly OutputElement[],
  loadSiemens: number,
  samples: Float64Array,
  hertz: number,
  elastance: number,
): Float64Array {
  const { length } = samples;
  const cosines = Float64Array.from(samples, (_, at) => Math.cos((2 * Math.PI * at) / length));
  const sines = Float64Array.from(samples, (_, at) => Math.sin((2 * Math.PI * at) / length));
  const behind = new Float64Array(length);
  for (let harmonic = 1; harmonic <= length / 2; harmonic += 1) {
    let [re, im] = [0, 0];
    for (let at = 0; at < length; at += 1) {
      re += samples[at] * cosines[(harmonic * at) % length];
      im -= samples[at] * sines[(harmonic * at) % length];
    }
    const { gain, siemens } = passedAt(elements, loadSiemens, harmonic * hertz);
    const giving = elastance / (2 * Math.PI * harmonic * hertz);
    // 1 + Y / (j w C) with C the ladder's.
    const loaded = { re: 1 + siemens.im * giving, im: -siemens.re * giving };
    const left = times({ re, im }, over(gain, loaded));
    const share = (harmonic === length / 2 ? 1 : 2) / length;
    for (let at = 0; at < length; at += 1)
      behind[at] += share * (left.re * cosines[(harmonic * at) % length] - left.im * sines[(harmonic * at) % length]);
  }
  return behind;
}

const peakToPeak = (samples: Float64Array): number => Math.max(...samples) - Math.min(...samples);

/** A period of a terminal that turns so, from its first turn on and of a peak to peak voltage: lines, and at each turn the course of a charge that comes as a parabola does. */
function turning(turns: readonly TerminalTurn[], peakToPeakVolts: number, length: number): Float64Array {
  const steps = turns.map(({ before, after }) => after - before);
  /** Of what has been stepped up to a time, from the first turn's place in the period on. */
  const stepped = ({ from, to }: TerminalTurn, at: number): number => {
    const part = to > from ? Math.min(1, Math.max(0, (at - from) / (to - from))) : Number(at >= from);
    return part ** 2 * (3 - 2 * part);
  };
  const [first] = turns;
  const samples = Float64Array.from({ length }, (_, index) => {
    const at = first.at + (index + 0.5) / length;
    // The lines by themselves, joined end to end, and every turn of this period and of the next that it has begun.
    let volts = first.after;
    turns.forEach((turn, now) => {
      const next = turns[now + 1] ?? { ...first, at: first.at + 1 };
      const gone = Math.min(1, Math.max(0, (at - turn.at) / (next.at - turn.at)));
      volts += (next.before - turn.after) * gone;
    });
    turns.forEach((turn, now) => {
      const own = now === 0 ? stepped(turn, at) - 1 : stepped(turn, at);
      const again = stepped({ ...turn, from: turn.from + 1, to: turn.to + 1 }, at);
      volts += steps[now] * (own + again);
    });
    return volts;
  });
  const spread = peakToPeak(samples);
  return samples.map((value) => (spread > 0 ? (value * peakToPeakVolts) / spread : 0));
}

/** What a ladder's terminal does, as far as what smooths it behind needs to know. */
export type TerminalRipple = {
  ladder: RippleInputs;
  /** Out of the ladder, A, and half the angle over which its source spreads a pulse, rad. */
  amps: number;
  sourceAngle: number;
  /** Its ripple, and the drive's own swing beside it, peak to peak, V. */
  rippleVolts: number;
  swingVolts: number;
};

/**
 * Ripple at the load behind smoothing, peak to peak, V: the ladder's ripple by
 * the turns it makes, with the drive's own swing as its waveform in its time, made
 * smaller by what the output takes, and by its harmonics through the output.
 *
 * @param loadVolts mean at the load, V
 * @param samples of a period
 */
export function rippleBehind(
  elements: readonly OutputElement[],
  loadVolts: number,
  terminal: TerminalRipple,
  samples: number = SAMPLES.one,
): number {
  const { ladder, amps, sourceAngle, rippleVolts, swingVolts } = terminal;
  const { drive } = ladder;
  const load = elements.find((element) => element.kind === 'load')!;
  const siemens = loadSiemensAt(load.load, loadVolts);
  const turns = terminalTurns(ladder, amps, sourceAngle);
  const swing = swingOf(drive, swingVolts, samples, turns[0].at);
  const terminalVolts = turning(turns, rippleVolts, samples).map((volts, at) => volts + swing[at]);
  return peakToPeak(waveformBehind(elements, siemens, terminalVolts, drive.frequencyHertz, ladder.outputElastance));
}

/** A drive's waveform from a part of its period on, with this much from peak to peak, V. */
function swingOf(drive: Drive, peakToPeakVolts: number, length: number, from: number): Float64Array {
  const share = peakToPeakVolts / (drive.positivePeakVolts + drive.negativePeakVolts);
  return Float64Array.from({ length }, (_, at) => share * driveAt(drive, (from + (at + 0.5) / length) % 1));
}

/** Part of the output that a section's resistor takes at the load, and how much smaller it makes the ripple, where nothing says. */
const USUAL_DROP = 0.01;
const USUAL_SMOOTHING = 20;

/** A section to begin with: a resistor that takes a hundredth of the output, a capacitor that leaves about a twentieth of the ripple. */
export function usualSection(volts: number, amps: number, hertz: number): { ohms: number; farads: number } {
  const ohms = Number(((USUAL_DROP * volts) / amps).toPrecision(1));
  return { ohms, farads: Number((USUAL_SMOOTHING / (2 * Math.PI * hertz * ohms)).toPrecision(1)) };
}
