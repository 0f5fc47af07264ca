import type { Design } from '../design/design-schema';
import { edgeFraction, type Drive } from '../drive/drive';
import { isMirrored } from '../operating/ladder-inputs';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { Prediction } from '../predict/prediction';
import { formatQuantity } from '../quantity/format-quantity';
import type { Circuit, NodeIndex } from '../transient/circuit';
import { circuitOfDesign } from '../transient/circuit-of-design';

/** A text in the line syntax that circuit solvers commonly read; or why there is none. */
export type Netlist = { ok: true; text: string } | { ok: false; reason: string };

/** Of the diodes' model: so steep that the forward drop stands in a source of its own, and a solver still converges. */
const SATURATION_AMPS = 1e-12;
const EMISSION = 0.1;
/** kT/q at 27 °C, as solvers have it, V. */
const THERMAL_VOLTS = 0.02585;
/** Current at which the drop is to be right where the load draws none, A. */
const LEAST_AMPS = 1e-6;
/** Periods computed, and steps in each. */
const PERIODS = 100;
const STEPS = 400;
/** A change of level that takes no time takes this of a period. */
const LEAST_EDGE = 1e-3;

const number = (value: number): string => String(Number(value.toPrecision(7)));

/**
 * The ladder of a design with its drive, output and load as a netlist: a title, elements, the diodes' model and one line of
 * analysis, from the same circuit as the time domain. Capacitors begin at their means under load by the closed form. A
 * load of a law of its own stands as the steady current that it takes; a junction whose capacitance goes with the
 * voltage as what it comes to.
 */
export function netlistOf(design: Design): Netlist {
  const { circuit, ladder } = circuitOfDesign(design);
  const { drive } = ladder;
  if (drive.waveform === 'sampled') return no('a recorded waveform has no line that every solver reads');
  if (drive.burst) return no('a drive that runs in bursts has no line that every solver reads');
  const prediction = predict(design, WITHOUT_OPTIMUM);
  if (prediction.output.validity === 'beyond') return no('the closed form has no figure to begin from');
  const sign = isMirrored(design, ladder.network) ? -1 : 1;
  const lines = new Lines(circuit, sign);
  const { amps } = prediction.output;
  const hasOwnLaw = circuit.loads.length > 0;
  const text = [
    `* ${design.name.replaceAll(/\s+/g, ' ')}`,
    `* Ladder, drive, output and load; ${formatQuantity(drive.frequencyHertz, 'Hz')}. Voltages in V, all values in SI units.`.replaceAll(
      '\u00a0',
      ' ',
    ),
    ...(design.driver.kind === 'measured'
      ? []
      : ['* What the driver gives at the input of the ladder, by the closed form, stands in for it.']),
    ...(hasOwnLaw ? ['* The load as the steady current that it takes by the closed form.'] : []),
    ...lines.sources(drive),
    ...lines.feeds(),
    ...lines.capacitors(prediction, ladder.network, ladder.diode.strayFarads),
    ...lines.diodes(
      ladder.network.diodes.map(({ id }) => id),
      Math.max(amps ?? 0, LEAST_AMPS),
      ladder.diode.strayFarads,
    ),
    ...lines.resistors(),
    ...(hasOwnLaw && amps !== null ? lines.loads(amps) : []),
    lines.model(),
    `.tran ${number(1 / drive.frequencyHertz / STEPS)} ${number(PERIODS / drive.frequencyHertz)} uic`,
    '.end',
  ].join('\n');
  return { ok: true, text: `${text}\n` };
}

const no = (reason: string): Netlist => ({ ok: false, reason });

/** Elements line by line; what stands for a positive ladder turned round where the design is negative. */
class Lines {
  constructor(
    private readonly circuit: Circuit,
    private readonly sign: 1 | -1,
  ) {}

  private name(node: NodeIndex): string {
    if (node === -1) return '0';
    return node < -1 ? `in${-1 - node}` : this.circuit.names[node].replaceAll(/[^A-Za-z0-9]+/g, '_').toLowerCase();
  }

  /** Each known node: the drive, or its other phase. */
  sources(drive: Drive): string[] {
    return this.circuit.known.map(({ drive: times }, at) => {
      const { positivePeakVolts, negativePeakVolts, frequencyHertz, duty } = drive;
      const by = times * this.sign;
      const [high, low] = [by * positivePeakVolts, -by * negativePeakVolts];
      const period = 1 / frequencyHertz;
      const edge = Math.max(LEAST_EDGE, edgeFraction(drive)) * period;
      const shape =
        drive.waveform === 'sine'
          ? `SIN(${number((high + low) / 2)} ${number((high - low) / 2)} ${number(frequencyHertz)})`
          : `PULSE(${number(low)} ${number(high)} 0 ${number(edge)} ${number(edge)} ${number(duty * period - edge)} ${number(period)})`;
      return `V${at + 1} in${at + 1} 0 ${shape}`;
    });
  }

  /** From the drive to the ladder, and chokes on the way to the load: resistance and inductance in series. */
  feeds(): string[] {
    return this.circuit.inductors.flatMap(({ terms: [from, to], ohms, henries }, at) => {
      const [one, other] = [this.name(from.node), this.name(to.node)];
      if (henries === 0) return [`RF${at + 1} ${one} ${other} ${number(Math.max(ohms, 1e-3))}`];
      if (ohms === 0) return [`LF${at + 1} ${one} ${other} ${number(henries)}`];
      return [`RF${at + 1} ${one} f${at + 1} ${number(ohms)}`, `LF${at + 1} f${at + 1} ${other} ${number(henries)}`];
    });
  }

  /** Those of the ladder, then what is behind it; strays stand with the diodes. */
  capacitors(
    prediction: Prediction,
    network: { capacitors: readonly { id: string }[] },
    strayFarads: number,
  ): string[] {
    const { circuit } = this;
    const strays = strayFarads > 0 && circuit.capacitors.length >= circuit.ladderCapacitors + circuit.ladderDiodes;
    const behind = circuit.capacitors.slice(circuit.ladderCapacitors + (strays ? circuit.ladderDiodes : 0));
    const outVolts = prediction.output.smoothedMeanVolts ?? prediction.output.noLoadVolts;
    return [
      ...network.capacitors.map(({ id }, at) => {
        const { from, to, farads } = circuit.capacitors[at];
        const { loadedMeanVolts, workingVolts } = prediction.capacitors.find((part) => part.id === id)!;
        return `${id} ${this.name(to)} ${this.name(from)} ${number(farads)} IC=${number(this.sign * (loadedMeanVolts ?? workingVolts))}`;
      }),
      ...behind.map(({ from, to, farads }, at) => {
        const isAtOutput = [from, to].includes(circuit.return);
        return `CX${at + 1} ${this.name(from)} ${this.name(to)} ${number(farads)}${isAtOutput ? ` IC=${number(this.sign * outVolts)}` : ''}`;
      }),
    ];
  }

  diodes(ids: readonly string[], amps: number, strayFarads: number): string[] {
    const ownVolts = EMISSION * THERMAL_VOLTS * Math.log(1 + amps / SATURATION_AMPS);
    return ids.flatMap((id, at) => {
      const { anode, cathode, forwardVolts, leakSiemens } = this.circuit.diodes[at];
      const ends = [this.name(anode), this.name(cathode)];
      const [from, to] = this.sign < 0 ? ends.toReversed() : ends;
      return [
        `V${id} ${from} ${id.toLowerCase()}_drop DC ${number(Math.max(0, forwardVolts - ownVolts))}`,
        `${id} ${id.toLowerCase()}_drop ${to} ladderdiode`,
        ...(leakSiemens > 0 ? [`R${id} ${from} ${to} ${number(1 / leakSiemens)}`] : []),
        ...(strayFarads > 0 ? [`C${id} ${from} ${to} ${number(strayFarads)}`] : []),
      ];
    });
  }

  resistors(): string[] {
    return this.circuit.resistors.map(
      ({ from, to, siemens }, at) => `R${at + 1} ${this.name(from)} ${this.name(to)} ${number(1 / siemens)}`,
    );
  }

  /** As steady currents. */
  loads(amps: number): string[] {
    return this.circuit.loads.map(
      ({ from, to }, at) => `I${at + 1} ${this.name(from)} ${this.name(to)} DC ${number(this.sign * amps)}`,
    );
  }

  model(): string {
    const [{ onSiemens, transitSeconds } = { onSiemens: 1e3, transitSeconds: 0 }] = this.circuit.diodes;
    return `.model ladderdiode D(IS=${number(SATURATION_AMPS)} N=${EMISSION} RS=${number(1 / onSiemens)} TT=${number(transitSeconds)})`;
  }
}
