import type { Design } from '../design/design-schema';
import { HAZARDOUS_DC_VOLTS } from '../output/discharge';
import { Falling } from './falling';
import { Recorder, type Moments } from './moments';

type DischargeSample = { seconds: number; volts: number; joules: number };

/** What is left in a ladder as its output is discharged after the drive has stopped. */
export type Discharge = {
  samples: DischargeSample[];
  /** Time until the terminal stays under 60 V dc, s; null when it does not within the run. */
  secondsTo60: number | null;
  /** Voltage that each capacitor still holds at the end, V. */
  capacitors: { id: string; volts: number }[];
  /** Greatest current in any diode on the way, A. */
  diodePeakAmps: number;
  /** Energy at the start and at the end, and what went into the discharging resistor, J. */
  joules: { start: number; end: number; resistor: number };
  /** What the terminal may come back to when the discharge is taken away, V. */
  reboundVolts: number;
  moments: Moments;
};

export type DischargeOptions = {
  /** Resistor across the terminal, Ω. */
  ohms: number;
  /** How long it stays there, s. */
  seconds: number;
  /**
   * Dielectric absorption: fraction of a capacitor's voltage that comes back after a short,
   * 0 to 1. Film gives 0.0005 to 0.002, class-2 ceramics 0.006 to 0.025 (trade
   * lore, from memory; measured as IEC 60384-1 describes).
   */
  absorption: number;
};

const STEPS_PER_DECADE = 40;

/**
 * Discharges a charged ladder through a resistor with the drive off: the
 * winding stands as a short for direct current, diodes let every stage give up
 * charge as the output falls, and what they leave behind stays.
 *
 * @param design complete, as `readDesign` returns it; what stands across its terminal stays, its load is gone
 * @param startVolts of the ladder's nodes against ground by name, V, at the moment the drive stops
 * @returns V, A, J; energy is conserved but for what the diodes and the winding take
 */
export function dischargeOf(
  design: Design,
  startVolts: ReadonlyMap<string, number>,
  options: DischargeOptions,
): Discharge {
  const { output } = design;
  const bleederOhms = 1 / (1 / (output.bleederOhms ?? Infinity) + 1 / options.ohms);
  const falling = new Falling(design, { ...output, seriesOhms: 0, bleederOhms }, startVolts, options.seconds);
  const { ladder, circuit, stepper, state } = falling;
  const parts = circuit.capacitors.slice(0, circuit.ladderCapacitors);
  const terminal = () => falling.terminalVolts();
  const stored = () => circuit.capacitors.reduce((sum, part) => sum + (part.farads * falling.across(part) ** 2) / 2, 0);
  const heldBefore = parts.map((part) => Math.abs(falling.across(part)));
  const start = stored();
  const samples: DischargeSample[] = [{ seconds: 0, volts: terminal(), joules: start }];
  let elapsed = 0;
  let diodePeakAmps = 0;
  let intoResistor = 0;
  const recorder = new Recorder(stepper, 1);
  recorder.keepStart(state.volts);
  falling.run(STEPS_PER_DECADE, (until, seconds) => {
    elapsed = until;
    for (const { anode, cathode, forwardVolts, onSiemens } of circuit.diodes) {
      const over = stepper.at(anode, state.volts, 0) - stepper.at(cathode, state.volts, 0) - forwardVolts;
      if (over > 0) diodePeakAmps = Math.max(diodePeakAmps, onSiemens * over);
    }
    recorder.take(seconds, 0, state.volts);
    intoResistor += (terminal() ** 2 / options.ohms) * seconds;
    samples.push({ seconds: elapsed, volts: terminal(), joules: stored() });
  });
  recorder.keep(elapsed);
  const under = samples.findIndex((sample) => Math.abs(sample.volts) < HAZARDOUS_DC_VOLTS);
  const smoothing = ladder.network.capacitors.map((part) => part.column === 'smoothing');
  return {
    samples,
    secondsTo60: under < 0 ? null : samples[under].seconds,
    capacitors: ladder.network.capacitors.map(({ id }, at) => ({ id, volts: falling.across(parts[at]) })),
    diodePeakAmps,
    joules: { start, end: stored(), resistor: intoResistor },
    reboundVolts: options.absorption * heldBefore.reduce((sum, held, at) => sum + (smoothing[at] ? held : 0), 0),
    moments: recorder.moments(),
  };
}
