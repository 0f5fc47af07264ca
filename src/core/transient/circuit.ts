import type { LoadBranch } from '../load/load-kind';
import type { DriveFigureId } from '../drive/figures';

/** A node: zero or more is free, below zero is known: -1 ground, -2 and on one of the circuit's known nodes. */
export type NodeIndex = number;

/** A known voltage: so many times the drive, and a steady part, V. */
type KnownNode = { drive: number; volts: number };

export type CircuitCapacitor = { from: NodeIndex; to: NodeIndex; farads: number };
export type CircuitResistor = { from: NodeIndex; to: NodeIndex; siemens: number };

/**
 * A diode: nothing but leakage below its forward voltage, a straight line above
 * it. While it conducts it stores the charge that recovery must take out again:
 * transit time times its current.
 */
type CircuitDiode = {
  anode: NodeIndex;
  cathode: NodeIndex;
  forwardVolts: number;
  onSiemens: number;
  leakSiemens: number;
  transitSeconds: number;
  /** The greater of the capacitances it joins, for judging what is stiff, F. */
  nearFarads: number;
};

/**
 * What the capacitance of a diode's junction gains below a reverse voltage: it
 * grows as the voltage falls, in steps.
 */
export type CircuitJunction = { anode: NodeIndex; cathode: NodeIndex; reverseVolts: number; farads: number };

/**
 * An inductance on the voltage sum of weight times node, its current leaving nodes of positive weight by so much: a coil
 * between two nodes has the weights 1 and -1, a leakage behind an ideal transformer its ratio. Windings coupled without
 * loss are such inductances, each with a flux of its own (L i' = v with L factored).
 */
export type CircuitInductor = {
  terms: readonly { node: NodeIndex; weight: number }[];
  ohms: number;
  henries: number;
  /** A conductance beside it, in which its fast ringing dies, S. */
  dampingSiemens: number;
  /** Flux linkage from which the core gives way, Vs, and what inductance is left, H. */
  saturation: Saturation | null;
};
export type Saturation = { fluxVoltSeconds: number; henries: number };

/** Conducts both ways while it is closed. */
type CircuitSwitch = { from: NodeIndex; to: NodeIndex; onSiemens: number };

/** Something that comes when a sum of weighted nodes, fluxes and a constant falls from above zero to below it. */
export type CircuitEvent = {
  terms: readonly { node: NodeIndex; weight: number }[];
  /** Fluxes of inductances that count as well, so much a volt-second. */
  fluxes: readonly { index: number; weight: number }[];
  constant: number;
  /** Whether it has come where the sum is below zero from the start, or is to rise first. */
  atOnce: boolean;
};

/** Something that a driver's probe sees: a current, A, or a voltage, V, or a power, W, in the numbers of the circuit. */
type CircuitSignal =
  | { kind: 'inductors'; weights: readonly { index: number; weight: number }[] }
  | { kind: 'capacitor'; index: number }
  | { kind: 'diode'; index: number; as: 'A' | 'W' }
  | { kind: 'resistor'; index: number; as: 'W' }
  | { kind: 'switches'; bits: number; as: 'A' | 'W' }
  | { kind: 'rail'; node: NodeIndex; times: number }
  | { kind: 'across'; from: NodeIndex; to: NodeIndex };

/** What of a signal is told over a period; `closed` counts the steps alone in which these switches are, by bits. */
export type CircuitProbe = {
  figure: DriveFigureId;
  signal: CircuitSignal;
  tells: 'mean' | 'rms' | 'most' | 'span';
  closed: number | null;
};

/** A driver as a circuit: its phases as the time grid takes them, and what it lets be read. */
export type CircuitSupply = {
  phases: readonly CircuitPhase[];
  probes: readonly CircuitProbe[];
  courses: readonly { id: string; name: string; signal: CircuitSignal }[];
  /** The driver's own among the circuit's lists, which the ladder's precede: from these on. */
  firstDiode: number;
  firstResistor: number;
};

export type CircuitPhase = {
  seconds: number;
  /** Even steps it takes where steps are as usual, and shorter ones it begins with: their length, s, and how many. */
  steps: number;
  first: { seconds: number; steps: number } | null;
  closed: number;
  until: CircuitEvent | null;
};

/** What a load draws from `from` to `to`, by its kind's law. */
export type CircuitLoad = { from: NodeIndex; to: NodeIndex; law: LoadBranch };

/** Elements between numbered nodes; `names` are the free nodes in elimination order. */
export type Circuit = {
  hertz: number;
  names: string[];
  place: Map<string, NodeIndex>;
  capacitors: CircuitCapacitor[];
  resistors: CircuitResistor[];
  diodes: CircuitDiode[];
  junctions: CircuitJunction[];
  /** Those that feed the ladder stand first. */
  inductors: CircuitInductor[];
  switches: CircuitSwitch[];
  /** Whether leakage inductance rings as it will, or every step lets its ringing die. */
  ringing: 'followed' | 'damped';
  /** Nodes -2, -3 and on. */
  known: KnownNode[];
  /** Sources of the ladder that are known nodes, the first of them, or inductors, the first of those. */
  sources: { stiff: boolean; count: number };
  loads: CircuitLoad[];
  /** A driver that is part of the circuit; null where a drive stands in for it. */
  supply: CircuitSupply | null;
  /** The ladder's own capacitors and diodes stand first in their lists, this many of each. */
  ladderCapacitors: number;
  ladderDiodes: number;
  output: NodeIndex;
  return: NodeIndex;
  /** Where the load stands, behind the series resistor. */
  load: NodeIndex;
  /** Resistors on the way from terminal to load, and across it; they stand among the resistors as well. */
  onTheWay: readonly CircuitResistor[];
  across: readonly CircuitResistor[];
  /** The last inductors, so many, are chokes on the way to the load. */
  chokes: number;
  /** Conductance of a resistive load; it stands among the resistors as well. */
  loadSiemens: number;
};

/** Whether there is inductance, so that the circuit may ring. */
export const hasInductance = ({ inductors }: Pick<Circuit, 'inductors'>) =>
  inductors.some(({ henries }) => henries > 0);

/** What a junction holds above its step, C, for a voltage from anode to cathode. */
export const junctionCharge = ({ reverseVolts, farads }: CircuitJunction, between: number): number =>
  farads * Math.max(0, between + reverseVolts);

/** Work that took to bring there, J; below zero where it was brought at reverse voltages. */
export function junctionJoules(junction: CircuitJunction, between: number): number {
  const over = Math.max(0, between + junction.reverseVolts);
  return junction.farads * over * (over / 2 - junction.reverseVolts);
}
