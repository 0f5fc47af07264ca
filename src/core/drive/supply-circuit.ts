import type { DriveFigureId } from './figures';

/** A sum of weighted nodes: what stands across an inductance, or what a driver waits for. */
export type Terms = readonly (readonly [node: string, weight: number])[];

/** When a driver changes over: as a sum of weighted nodes, fluxes of inductors and a constant falls through zero from above. */
export type ChangeOver = {
  terms: Terms;
  fluxes: Terms;
  constant: number;
  /** Whether it has come where the sum is below zero from the start, or is to rise first. */ atOnce: boolean;
};

/** A stretch of a driver's cycle in which its switches stay as they are. */
export type DriverPhase = {
  /** How long it lasts or, where it ends when something happens, is expected to, s. */
  seconds: number;
  closed: readonly string[];
  until: ChangeOver | null;
  /** Even steps it takes where steps are as usual, and shorter ones it begins with: their length, s, and how many. */
  steps: number;
  first: { seconds: number; steps: number } | null;
};

/** A current, a voltage or a power of the driver, by the names of its elements. */
type DriverSignal =
  | { kind: 'inductors'; weights: Terms }
  | { kind: 'capacitor'; id: string }
  | { kind: 'diode'; id: string; as: 'A' | 'W' }
  | { kind: 'resistor'; id: string; as: 'W' }
  | { kind: 'switches'; ids: readonly string[]; as: 'A' | 'W' }
  /** Drawn from the supply: A, or W. */
  | { kind: 'supply'; as: 'A' | 'W' }
  | { kind: 'across'; from: string; to: string };

/** What of a signal is one of the driver's figures: over the whole cycle, or while a switch is closed alone. */
export type DriverProbe = {
  figure: DriveFigureId;
  signal: DriverSignal;
  tells: 'mean' | 'rms' | 'most' | 'span';
  whileClosed?: string;
};

export type DriverInductor = {
  id: string;
  terms: Terms;
  ohms: number;
  henries: number;
  /** A resistance beside it in which its ringing dies, Ω; none: null. */
  dampingOhms: number | null;
  saturation: { fluxVoltSeconds: number; henries: number } | null;
  /** Flux linkage it is expected to start a cycle with, Vs. */
  startFlux: number;
};

/**
 * A supply and its driver as a circuit of named nodes: `ground`, `rail` at the
 * supply's voltage without load, the driver's own, and those of the ladder that
 * its windings feed. SI units.
 */
export type SupplyCircuit = {
  railVolts: number;
  hertz: number;
  capacitors: readonly { id: string; from: string; to: string; farads: number; startVolts: number }[];
  resistors: readonly { id?: string; from: string; to: string; ohms: number }[];
  diodes: readonly { id: string; anode: string; cathode: string; forwardVolts: number; onOhms: number }[];
  switches: readonly { id: string; from: string; to: string; ohms: number }[];
  /** Windings that feed the ladder first, one for each of them. */
  inductors: readonly DriverInductor[];
  phases: readonly DriverPhase[];
  probes: readonly DriverProbe[];
  /** What a picture of the cycle can show of it. */
  courses: readonly { id: string; name: string; signal: DriverSignal }[];
};

/** A node of the ladder that a winding feeds, and which way round. */
export type FedNode = { node: string; sign: 1 | -1 };

/** Why a supply cannot be run as a circuit, a clause. */
export type NoCircuit = { reason: string };
export const NO_INDUCTANCE: NoCircuit = { reason: 'the primary’s inductance is not entered' };

/** No resistance is taken for less, Ω: a circuit needs something for its currents to settle by. */
export const LEAST_OHMS = 1e-3;

/** A body diode's drop, V, and a bipolar transistor's collector while it is on (common practice, no source). */
export const BODY_DIODE_VOLTS = 0.8;

/**
 * Where a driver draws from: the rail itself or, behind resistance, a reservoir
 * so large that it hardly ripples within a cycle (common practice: one stands at
 * every driver's input).
 */
export function feedPoint(
  { volts, seriesOhms }: { volts: number; seriesOhms: number },
  hertz: number,
): { node: string } & Pick<SupplyCircuit, 'capacitors' | 'resistors'> {
  if (seriesOhms === 0) return { node: 'rail', capacitors: [], resistors: [] };
  return {
    node: 'supply',
    capacitors: [
      {
        id: 'reservoir',
        from: 'supply',
        to: 'ground',
        farads: RESERVOIR_CYCLES / (hertz * seriesOhms),
        startVolts: volts,
      },
    ],
    resistors: [{ from: 'rail', to: 'supply', ohms: seriesOhms }],
  };
}

const RESERVOIR_CYCLES = 200;

/** Figures that every supply run as a circuit has. */
export const SUPPLY_PROBES: readonly DriverProbe[] = [
  { figure: 'supplyAmps', signal: { kind: 'supply', as: 'A' }, tells: 'mean' },
  { figure: 'supplyRmsAmps', signal: { kind: 'supply', as: 'A' }, tells: 'rms' },
  { figure: 'supplyWatts', signal: { kind: 'supply', as: 'W' }, tells: 'mean' },
];
