import type { Circuit, CircuitProbe, CircuitSupply } from './circuit';
import type { Stepper } from './stepper';

/** A step that the runner has made: its length, s, its place among those of the period, and what stands at its end. */
export type Step = { seconds: number; at: number; drive: number; volts: Float64Array; inductorAmps: Float64Array };

/** How something of a driver runs over the period, a sample at the end of every step. */
export type DriverCourse = { id: string; name: string; unit: 'V' | 'A'; values: Float64Array };

/**
 * Reads a driver that is part of the circuit over one period: what its rails
 * give, what it loses before the ladder, and what its probes tell.
 *
 * Power of every element is its current through a step times the mean of the
 * voltages at the step's ends, against which capacitances and inductances of the
 * leapfrog scheme exchange energy: so the balance closes.
 */
export class DriverMeter {
  readonly courses: DriverCourse[];
  private readonly supply: CircuitSupply;
  private inWatts = 0;
  private lostWatts = 0;
  private readonly sums: Float64Array;
  private readonly most: Float64Array;
  private readonly least: Float64Array;
  private readonly railAmps: Float64Array;

  constructor(
    private readonly circuit: Circuit,
    private readonly stepper: Stepper,
    private readonly before: Float64Array,
    private readonly course: { steps: number; seconds: number },
  ) {
    this.supply = circuit.supply!;
    const { probes } = this.supply;
    this.before = before.slice();
    this.courses = this.supply.courses.map(({ id, name, signal }) => ({
      id,
      name,
      unit: signal.kind === 'across' ? 'V' : 'A',
      values: new Float64Array(course.steps),
    }));
    this.sums = new Float64Array(probes.length);
    this.most = new Float64Array(probes.length).fill(-Infinity);
    this.least = new Float64Array(probes.length).fill(Infinity);
    this.railAmps = new Float64Array(circuit.known.length);
  }

  take(step: Step): void {
    this.takePowers(step);
    this.takeProbes(step);
    this.takeCourses(step);
    this.before.set(step.volts);
  }

  finish(): { inWatts: number; lostWatts: number; probes: number[] } {
    const probes = this.supply.probes.map(({ tells }, at) => {
      if (tells === 'rms') return Math.sqrt(this.sums[at]);
      if (tells === 'mean') return this.sums[at];
      return tells === 'most' ? this.most[at] : this.most[at] - this.least[at];
    });
    return { inWatts: this.inWatts, lostWatts: this.lostWatts, probes };
  }

  private across(from: number, to: number, volts: Float64Array): number {
    return this.stepper.at(from, volts, 0) - this.stepper.at(to, volts, 0);
  }

  private worked(from: number, to: number, { volts }: Step): number {
    return (this.across(from, to, volts) + this.across(from, to, this.before)) / 2;
  }

  /** Counts a current from one node to another: what rails give of it. */
  private flow(from: number, to: number, amps: number): void {
    if (from < -1) this.railAmps[-2 - from] += amps;
    if (to < -1) this.railAmps[-2 - to] -= amps;
  }

  private takePowers(step: Step): void {
    const { circuit, stepper, supply, railAmps } = this;
    const fraction = step.seconds / this.course.seconds;
    railAmps.fill(0);
    circuit.switches.forEach(({ from, to, onSiemens }, index) => {
      if (!(stepper.closed & (1 << index))) return;
      const amps = onSiemens * this.across(from, to, step.volts);
      this.flow(from, to, amps);
      this.lostWatts += fraction * amps * this.worked(from, to, step);
    });
    for (let index = supply.firstDiode; index < circuit.diodes.length; index += 1) {
      const { anode, cathode } = circuit.diodes[index];
      const amps = this.diodeAmps(index, step.volts);
      this.flow(anode, cathode, amps);
      this.lostWatts += fraction * amps * this.worked(anode, cathode, step);
    }
    for (let index = supply.firstResistor; index < circuit.resistors.length; index += 1) {
      const { from, to, siemens } = circuit.resistors[index];
      const amps = siemens * this.across(from, to, step.volts);
      this.flow(from, to, amps);
      this.lostWatts += fraction * amps * this.worked(from, to, step);
    }
    for (const { from, to, farads } of circuit.capacitors) {
      if (from >= -1 && to >= -1) continue;
      const amps = (farads * (this.across(from, to, step.volts) - this.across(from, to, this.before))) / step.seconds;
      this.flow(from, to, amps);
    }
    // Chokes behind the ladder are the output's.
    circuit.inductors
      .slice(0, circuit.inductors.length - circuit.chokes)
      .forEach(({ terms, ohms, dampingSiemens }, index) => {
        const amps = step.inductorAmps[index];
        let [now, mean] = [0, 0];
        for (const { node, weight } of terms) {
          if (node < -1) railAmps[-2 - node] += weight * amps;
          now += weight * stepper.at(node, step.volts, 0);
          mean += (weight * (stepper.at(node, step.volts, 0) + stepper.at(node, this.before, 0))) / 2;
        }
        const damped = dampingSiemens * now;
        this.lostWatts += fraction * damped * mean;
        // What windings that feed the ladder lose in their resistance is counted as the source's.
        if (index >= circuit.sources.count) this.lostWatts += fraction * (amps - damped) ** 2 * ohms;
      });
    for (let index = 0; index < railAmps.length; index += 1)
      this.inWatts += fraction * railAmps[index] * circuit.known[index].volts;
  }

  private diodeAmps(index: number, volts: Float64Array): number {
    const { anode, cathode, forwardVolts, onSiemens, leakSiemens } = this.circuit.diodes[index];
    const over = this.across(anode, cathode, volts);
    return onSiemens * Math.max(0, over - forwardVolts) + leakSiemens * over;
  }

  private takeProbes(step: Step): void {
    const fraction = step.seconds / this.course.seconds;
    this.supply.probes.forEach((probe, at) => {
      if (probe.closed !== null && !(this.stepper.closed & probe.closed)) return;
      const value = this.read(probe.signal, step);
      this.sums[at] += fraction * (probe.tells === 'rms' ? value ** 2 : value);
      this.most[at] = Math.max(this.most[at], value);
      this.least[at] = Math.min(this.least[at], value);
    });
  }

  private takeCourses(step: Step): void {
    this.supply.courses.forEach(({ signal }, index) => {
      this.courses[index].values[step.at] = this.read(signal, step);
    });
  }

  private read(signal: CircuitProbe['signal'], step: Step): number {
    switch (signal.kind) {
      case 'inductors':
        return signal.weights.reduce((sum, { index, weight }) => sum + weight * step.inductorAmps[index], 0);
      case 'capacitor': {
        const { from, to, farads } = this.circuit.capacitors[signal.index];
        return (farads * (this.across(from, to, step.volts) - this.across(from, to, this.before))) / step.seconds;
      }
      case 'diode': {
        const amps = this.diodeAmps(signal.index, step.volts);
        if (signal.as === 'A') return amps;
        const { anode, cathode } = this.circuit.diodes[signal.index];
        return amps * this.worked(anode, cathode, step);
      }
      case 'resistor': {
        const { from, to, siemens } = this.circuit.resistors[signal.index];
        return siemens * this.across(from, to, step.volts) * this.worked(from, to, step);
      }
      case 'switches': {
        let sum = 0;
        this.circuit.switches.forEach(({ from, to, onSiemens }, index) => {
          if (!(this.stepper.closed & signal.bits & (1 << index))) return;
          const amps = onSiemens * this.across(from, to, step.volts);
          sum += signal.as === 'A' ? amps : amps * this.worked(from, to, step);
        });
        return sum;
      }
      case 'rail':
        return signal.times * this.railAmps[-2 - signal.node];
      case 'across':
        return this.across(signal.from, signal.to, step.volts);
    }
  }
}
