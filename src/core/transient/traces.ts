import type { Prediction } from '../predict/prediction';
import type { Waveforms } from './measure';
import { nodeVoltsOf } from './moments';

/** One waveform over the period as it really runs: polarity applied. */
export type Trace = { id: string; name: string; unit: 'V' | 'A'; values: Float64Array; ofDriver?: true };

/**
 * The waveforms of a settled period by the ids of nodes and parts: a node's
 * voltage against ground, a capacitor's across it, a diode's current.
 *
 * A negative ladder is computed as its positive mirror; here every voltage gets
 * its sign. A diode's current stays what flows forward.
 */
export class Traces {
  private readonly sign: 1 | -1;

  constructor(
    private readonly prediction: Prediction,
    private readonly waveforms: Waveforms,
  ) {
    this.sign = prediction.output.polarity === 'negative' && prediction.terminals.return === 'ground' ? -1 : 1;
  }

  get times(): Float64Array {
    return this.waveforms.times;
  }

  /** At the ladder's input, the first winding's end of it. */
  drive(): Trace {
    const values = this.waveforms.driver.length > 0 ? this.nodeValues('source') : this.waveforms.drive;
    return { id: 'drive', name: 'drive', unit: 'V', values: values.map((volts) => this.sign * volts) };
  }

  output(): Trace {
    const { output, return: back } = this.prediction.terminals;
    return { id: 'output', name: 'output', unit: 'V', values: this.difference(output, back) };
  }

  /** Null for an id that this ladder does not have. */
  of(id: string): Trace | null {
    const { capacitors, diodes, nodes } = this.prediction;
    const capacitor = capacitors.find((part) => part.id === id);
    if (capacitor)
      return { id, name: `${id} across`, unit: 'V', values: this.difference(capacitor.upper, capacitor.lower) };
    const diode = diodes.findIndex((part) => part.id === id);
    if (diode >= 0) return { id, name: `${id} current`, unit: 'A', values: this.waveforms.diodeAmps[diode] };
    const course = this.waveforms.driver.find((one) => one.id === id);
    if (course) return { ...course, ofDriver: true };
    if (nodes.some((node) => node.id === id)) return { id, name: id, unit: 'V', values: this.difference(id, 'ground') };
    return null;
  }

  /** What of the driver can be shown, where that is part of the circuit. */
  driver(): readonly { id: string; name: string }[] {
    return this.waveforms.driver;
  }

  /** Current that the winding gives, the first of two. */
  winding(): Trace {
    return {
      id: 'winding',
      name: 'winding current',
      unit: 'A',
      values: this.waveforms.windingAmps[0].map((amps) => this.sign * amps),
    };
  }

  /** Everything there is, for export: a row of names with units and a row for each step. */
  table(): (string | number)[][] {
    const columns = [
      this.drive(),
      this.output(),
      ...this.prediction.nodes.filter((node) => node.column !== 'ground').map((node) => this.of(node.id)!),
      ...this.prediction.capacitors.map((part) => this.of(part.id)!),
      ...this.prediction.diodes.map((part) => this.of(part.id)!),
      this.winding(),
      ...this.waveforms.driver,
    ];
    return [
      ['time, s', ...columns.map((column) => `${column.name}, ${column.unit}`)],
      ...Array.from(this.times, (time, step) => [time, ...columns.map((column) => column.values[step])]),
    ];
  }

  private difference(one: string, other: string): Float64Array {
    const [a, b] = [this.nodeValues(one), this.nodeValues(other)];
    return a.map((volts, step) => this.sign * (volts - b[step]));
  }

  private nodeValues(id: string): Float64Array {
    return nodeVoltsOf(this.waveforms, id);
  }
}
