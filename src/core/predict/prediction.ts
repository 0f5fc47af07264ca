import type { Drive } from '../drive/drive';
import type { PowerCheck } from '../drive/driver-kind';
import type { DriveFigures } from '../drive/figures';
import type { LadderParts } from '../parts/bank';
import type { DividerFigures } from '../output/divider';
import type { Contact } from '../output/contact';
import type { Sparks } from '../output/sparks';
import type { Finding } from '../quantity/finding';
import type { Polarity } from '../quantity/polarity';
import type { Margin } from '../quantity/ratings';
import type { Column, PartColumn, Side, Topology } from '../topology/network';
import type { FarEnd } from './far-end';
import type { TargetOutcome } from './target';

export const PREDICTION_FORMAT = 'eager-ladder/prediction';
export const PREDICTION_VERSION = 5;

/**
 * How far the closed form can be trusted here: `good` up to 30 % droop, `rough`
 * up to two thirds, `beyond` where it does not hold and gives no figure.
 */
type Validity = 'good' | 'rough' | 'beyond';

/** Voltages are magnitudes, V, with `polarity` beside them; null where the closed form does not hold. */
export type OutputPrediction = {
  polarity: Polarity;
  validity: Validity;
  /** How far it can be trusted for what smooths behind the ladder alone. */
  smoothedValidity: Validity;
  /** Every diode's step at its full peak: no drops, no strays. */
  idealNoLoadVolts: number;
  /** The same with diode drops and strays, and what each of them takes. */
  noLoadVolts: number;
  lostToDiodesVolts: number;
  lostToStraysVolts: number;
  /** Highest that stands at the output without load, with what alternates on the mean. */
  noLoadPeakVolts: number;
  /** At the load, what a dc meter shows. */
  meanVolts: number | null;
  minVolts: number | null;
  maxVolts: number | null;
  ripplePeakToPeakVolts: number | null;
  ripplePeakToPeakFraction: number | null;
  /** At the ladder's terminal, before whatever smooths. */
  terminalRipplePeakToPeakVolts: number | null;
  droopVolts: number | null;
  droopFraction: number | null;
  droopByCapacitorsVolts: number | null;
  /** What the source adds to what the capacitors lose, so that the parts of the droop add up. */
  droopBySourceVolts: number | null;
  /** What it would lose by itself; the two join as the closed form says. */
  droopOfSourceAloneVolts: number | null;
  droopBySmoothingVolts: number | null;
  droopBySeriesResistorVolts: number | null;
  /** Loss of output because the drive's power or current runs out. */
  droopByDriveVolts: number | null;
  /** Droop as the textbooks print it for half-wave ladders, to the peak and for a stiff source. */
  textbookDroopVolts: number | null;
  /** Textbook ripple, peak to peak, without the shortening by charging time. */
  textbookRipplePeakToPeakVolts: number | null;
  /** (no-load - loaded) / loaded. */
  regulation: number | null;
  amps: number | null;
  bleederAmps: number | null;
  dividerAmps: number | null;
  watts: number | null;
  /** At the ladder's terminal, and behind the smoothing where the divider is. */
  terminalMeanVolts: number | null;
  smoothedMeanVolts: number | null;
  /** Where nothing rectifies: the output has no direct part worth the name, and these stand for it; else null. */
  alternating: AlternatingOutput | null;
  /** Output current past which the closed form of the ladder is no longer trusted, its drive at full peaks, A; with what the drive gives: `closedFormReach`. */
  closedFormAmps: number;
  /** Output current the first coupling capacitor can never pass, A; null without one. */
  chargeLimitAmps: number | null;
};

/** An output that alternates, V and A; null where the closed form gives no figure. */
export type AlternatingOutput = {
  /** Without load, at the full peaks. */
  noLoadRmsVolts: number | null;
  rmsVolts: number | null;
  peakVolts: number | null;
  rmsAmps: number | null;
  watts: number | null;
};

export type CapacitorPrediction = {
  id: string;
  column: PartColumn;
  stage: number;
  /** -1 on the side of a two-sided ladder that climbs below ground. */
  side: Side;
  /** Nodes its plates are on; the upper one stands higher. */
  lower: string;
  upper: string;
  /** How many stand in series for it, beside what a place is made of: two where one is at each end of the winding. */
  count: number;
  /** Of each as it is marked, and what its voltage leaves of it. */
  farads: number;
  biasedFarads: number;
  /** What it must stand: its voltage without load, the worst case; one of two may come to stand all of theirs, V. */
  workingVolts: number;
  /** Its mean voltage under load, V; the smoothing column's add up to the terminal voltage. */
  loadedMeanVolts: number | null;
  /** What alternates across it under load, peak to peak, V. */
  ripplePeakToPeakVolts: number | null;
  /** Of the place as a whole, A; null also where an ideal square charges in no time. */
  rmsAmps: number | null;
  /** Of the hardest pressed capacitor in the place; null where loss, or size, is not known. */
  lossWatts: number | null;
  temperatureRiseKelvin: number | null;
  ratedVolts: number | null;
  margin: number | null;
};

export type DiodePrediction = {
  id: string;
  stage: number;
  side: Side;
  anode: string;
  cathode: string;
  /** Peak inverse voltage, at most, V: without load. */
  reverseVolts: number;
  ratedVolts: number | null;
  averageAmps: number | null;
  rmsAmps: number | null;
  /** Of each diode in the place; and what of it recovery makes, at most. */
  watts: number | null;
  recoveryWatts: number | null;
  margin: number | null;
};

/** A node of the ladder with its mean and the range it swings through each cycle, V. */
export type NodePrediction = {
  id: string;
  column: Column;
  stage: number;
  side: Side;
  noLoadVolts: number;
  meanVolts: number | null;
  minVolts: number | null;
  maxVolts: number | null;
};

/**
 * What the closed form gives a ladder for each coulomb of load charge in a
 * cycle, for whoever wants to see how its droop and ripple come about.
 */
type LadderCoefficients = {
  /** Steps of one peak that make up the output without load. */
  steps: number;
  /** Droop and ripple of the light load, 1/F; null where bookkeeping has no answer. */
  droop: number | null;
  ripple: number;
  /** Charge that the first winding gives at either peak, for each charge of the load. */
  pulses: { positive: number; negative: number };
  /** What the diodes' on-resistance comes to in series with a winding, Ω. */
  diodeOhms: number;
};

export type Prediction = {
  format: typeof PREDICTION_FORMAT;
  version: typeof PREDICTION_VERSION;
  name: string;
  /** Before its power runs out. */
  drive: Drive;
  /**
   * Fraction of the drive's full peaks that the load leaves, the figures of every
   * link before the ladder by their ids, and the capacitance that the ladder's
   * input shows.
   */
  source: { driveScale: number; figures: DriveFigures; ladderFarads: number };
  topology: Topology;
  /** What would balance strings whose parts leak unlike; null where there is no string or no leakage is known. */
  balancing: Record<'capacitor' | 'diode', { ohms: number; wattsEach: number } | null>;
  /** What stands in each place of the ladder: a part, or a string or bank as a whole. */
  places: LadderParts;
  /** The nodes between which the load stands; `return` is ground but for two-sided ladders. */
  terminals: { output: string; return: string };
  coefficients: LadderCoefficients;
  output: OutputPrediction;
  target: TargetOutcome | null;
  /** `amps` is the RMS current in the source, an upper estimate, as are the watts. */
  input: { watts: number | null; amps: number | null; efficiency: number | null };
  /** Whole stages that give most output into this load; null without load. */
  optimumStages: number | null;
  /** sqrt(V f C / I), the published rule for half-wave ladders; null for others and without load. */
  textbookOptimumStages: number | null;
  /** Of all parts whose ratings are known; null without any. */
  smallestMargin: number | null;
  /** Every rated part against its stress, weakest first. */
  margins: Margin[];
  capacitors: CapacitorPrediction[];
  diodes: DiodePrediction[];
  nodes: NodePrediction[];
  energy: {
    joules: number;
    terminalCoulombs: number;
    hazardous: boolean;
    /** Time to 60 V, diode drops left out; null without a bleeder. */
    bleedSeconds: number | null;
  };
  /** What stands behind the terminal, named. */
  farEnd: FarEnd;
  /** What a measuring divider shows and asks; null without one. */
  divider: DividerFigures | null;
  /** What comes out of the output where it is touched or shorted. */
  contact: Contact;
  /** Of a gap that strikes; null where none does. */
  sparks: Sparks | null;
  findings: Finding[];
  /** What to see to before power, in the order of energy. */
  beforePower: PowerCheck[];
};

/** How many capacitors and diodes make up one place of the ladder. */
export const inAPlace = ({ capacitor, diode }: Prediction['places']) => ({
  capacitors: capacitor.series * capacitor.parallel,
  diodes: diode.series,
});
