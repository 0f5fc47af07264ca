import type { Unit } from '../quantity/units';

/** Where in the chain a figure is shown; `input`: at whatever link stands last before the ladder. */
export type DriveLink = 'supply' | 'driver' | 'transformer' | 'input';

type DriveFigure = { link: DriveLink; label: string; unit: Unit };

/** Every figure on the way from the wall to the ladder's input, once; SI base units. */
export const DRIVE_FIGURES = {
  mainsVolts: { link: 'supply', label: 'Mains as set, RMS', unit: 'V' },
  mainsAmps: { link: 'supply', label: 'Working current at this load, RMS', unit: 'A' },
  magnetisingAmps: { link: 'supply', label: 'Magnetising current, RMS', unit: 'A' },
  powerFactorFarads: { link: 'supply', label: 'Capacitor that would cancel it', unit: 'F' },
  supplyOpenVolts: { link: 'supply', label: 'No load, dc', unit: 'V' },
  supplyAmps: { link: 'supply', label: 'Current at this load', unit: 'A' },
  supplyRmsAmps: { link: 'supply', label: 'Its RMS', unit: 'A' },
  supplyWatts: { link: 'supply', label: 'Power at this load', unit: 'W' },
  supplyVolts: { link: 'supply', label: 'Sags to', unit: 'V' },
  idleAmps: { link: 'supply', label: 'Idle, nothing drawn', unit: 'A' },
  idleWatts: { link: 'supply', label: 'Power idle', unit: 'W' },
  startAmps: { link: 'supply', label: 'While it starts, some', unit: 'A' },
  runSeconds: { link: 'supply', label: 'Run time', unit: 's' },
  supplyRippleVolts: { link: 'supply', label: 'Ripple, peak-to-peak', unit: 'V' },
  supplyPulseAmps: { link: 'supply', label: 'Charging pulse, about', unit: 'A' },
  supplyInrushAmps: { link: 'supply', label: 'Inrush at the worst instant', unit: 'A' },

  frequencyHertz: { link: 'driver', label: 'Frequency', unit: 'Hz' },
  unloadedHertz: { link: 'driver', label: 'Frequency without secondary and ladder', unit: 'Hz' },
  estimatedHertz: { link: 'driver', label: 'Frequency, estimated', unit: 'Hz' },
  switchPeakAmps: { link: 'driver', label: 'Current at switch-off, peak', unit: 'A' },
  primaryRmsAmps: { link: 'driver', label: 'Primary current, RMS', unit: 'A' },
  primaryPeakAmps: { link: 'driver', label: 'Primary current, peak', unit: 'A' },
  primaryAmps: { link: 'driver', label: 'Primary current at this load', unit: 'A' },
  onSeconds: { link: 'driver', label: 'On for', unit: 's' },
  onFraction: { link: 'driver', label: 'Duty cycle of each half period', unit: '%' },
  cycleJoules: { link: 'driver', label: 'Energy a cycle', unit: 'J' },
  ceilingWatts: { link: 'driver', label: 'Power ceiling, in', unit: 'W' },
  transistorPeakVolts: { link: 'driver', label: 'Transistor blocks, peak', unit: 'V' },
  transistorRmsAmps: { link: 'driver', label: 'Each transistor, RMS', unit: 'A' },
  transistorWatts: { link: 'driver', label: 'Heat of the transistor, edges apart', unit: 'W' },
  conductionWatts: { link: 'driver', label: 'Conduction loss of the transistors', unit: 'W' },
  switchingWatts: { link: 'driver', label: 'Lost at their edges, estimated', unit: 'W' },
  snubberWatts: { link: 'driver', label: 'Snubber dissipation (C V² f at most)', unit: 'W' },
  forwardWatts: { link: 'driver', label: 'Forward stroke gives', unit: 'W' },
  ringingWatts: { link: 'driver', label: 'Lost to ringing', unit: 'W' },
  breakdownWatts: { link: 'driver', label: 'Burnt as the transistor breaks down', unit: 'W' },
  clampWatts: { link: 'driver', label: 'Clamp dissipation', unit: 'W' },
  drivenPrimaryVolts: { link: 'driver', label: 'Across the driven primary, peak', unit: 'V' },
  blockingRippleVolts: { link: 'driver', label: 'Blocking capacitor ripple, p-p', unit: 'V' },
  tankPeakVolts: { link: 'driver', label: 'Tank, peak (π times supply)', unit: 'V' },
  tankRmsAmps: { link: 'driver', label: 'Tank current, RMS', unit: 'A' },
  bankFarads: { link: 'driver', label: 'Whole bank', unit: 'F' },
  tankEachVolts: { link: 'driver', label: 'Across each capacitor, peak', unit: 'V' },
  tankEachAmps: { link: 'driver', label: 'Current of each capacitor, RMS', unit: 'A' },
  tankVoltsPerSecond: { link: 'driver', label: 'Slope across each capacitor', unit: 'V/s' },
  primarySquareMetres: { link: 'driver', label: 'Primary copper at 3 A/mm²', unit: 'm²' },
  primaryAwg: { link: 'driver', label: 'As one wire, AWG number', unit: '' },
  strandMetres: { link: 'driver', label: 'Strands, at most two skin depths', unit: 'm' },
  chokeRippleAmps: { link: 'driver', label: 'Choke ripple, peak-to-peak', unit: 'A' },
  chokePeakAmps: { link: 'driver', label: 'Choke current, peak', unit: 'A' },
  gateResistorWatts: { link: 'driver', label: 'Each gate resistor', unit: 'W' },
  gateVolts: { link: 'driver', label: 'Gate settles at', unit: 'V' },
  zenerWatts: { link: 'driver', label: 'Each zener, half the time', unit: 'W' },
  leastSupplyVolts: { link: 'driver', label: 'Starts from, about', unit: 'V' },
  tankQuality: { link: 'driver', label: 'Loaded Q of the tank', unit: '' },
  shotJoules: { link: 'driver', label: 'Energy a shot', unit: 'J' },
  mostShotsHertz: { link: 'driver', label: 'Shots a second, at most', unit: 'Hz' },
  shotWatts: { link: 'driver', label: 'Power into shots', unit: 'W' },
  openRmsVolts: { link: 'driver', label: 'No load, RMS', unit: 'V' },
  openPeakVolts: { link: 'driver', label: 'No load, peak', unit: 'V' },
  shortPeakAmps: { link: 'driver', label: 'Into a short, peak', unit: 'A' },
  impedanceOhms: { link: 'driver', label: 'Impedance, Voc / Isc', unit: 'Ω' },
  reactanceOhms: { link: 'driver', label: 'Of it leakage reactance', unit: 'Ω' },
  ballastOhms: { link: 'driver', label: 'Capacitor in series, reactance', unit: 'Ω' },
  voltAmperes: { link: 'driver', label: 'No-load volts times short-circuit current', unit: 'VA' },
  positivePeakVolts: { link: 'driver', label: 'Positive peak', unit: 'V' },
  negativePeakVolts: { link: 'driver', label: 'Negative peak', unit: 'V' },
  peakToPeakVolts: { link: 'driver', label: 'Peak-to-peak', unit: 'V' },
  peakRatio: { link: 'driver', label: 'Greater over lesser peak', unit: '' },
  trueRmsVolts: { link: 'driver', label: 'A true-RMS meter shows, ac', unit: 'V' },
  averageRespondingVolts: { link: 'driver', label: 'An average-responding one, ac', unit: 'V' },
  meterMeanVolts: { link: 'driver', label: 'A dc range', unit: 'V' },

  turnsRatio: { link: 'transformer', label: 'Turns ratio of the driven part', unit: '' },
  supplyTimesRatioVolts: { link: 'transformer', label: 'Supply times ratio (too low)', unit: 'V' },
  secondaryPeakVolts: { link: 'transformer', label: 'Secondary, peak', unit: 'V' },
  reflectedFarads: { link: 'transformer', label: 'Secondary and ladder, seen by the tank', unit: 'F' },
  forwardVolts: { link: 'transformer', label: 'Forward stroke, secondary', unit: 'V' },
  flybackVolts: { link: 'transformer', label: 'Pulse back, secondary, no load', unit: 'V' },
  losslessPeakVolts: { link: 'transformer', label: 'Without loss, at most', unit: 'V' },
  byEnergyVolts: { link: 'transformer', label: 'Were all its energy there', unit: 'V' },
  byRatioVolts: { link: 'transformer', label: 'Storage times turns ratio', unit: 'V' },
  magnetisingPeakAmps: { link: 'transformer', label: 'Magnetising current, peak', unit: 'A' },
  fluxLinkageVoltSeconds: { link: 'transformer', label: 'Flux linkage of the whole primary, peak', unit: 'V·s' },
  fluxTesla: { link: 'transformer', label: 'Flux density, peak', unit: 'T' },
  coreLossWatts: { link: 'transformer', label: 'Core loss, within a factor of two or three', unit: 'W' },

  mostWatts: { link: 'input', label: 'Power for the ladder, at most', unit: 'W' },
  mostAmps: { link: 'input', label: 'RMS current, at most', unit: 'A' },
} as const satisfies Record<string, DriveFigure>;

export type DriveFigureId = keyof typeof DRIVE_FIGURES;

/** What a drive's kind makes known of its figures, in the order in which they are shown. */
export type DriveFigures = Partial<Record<DriveFigureId, number>>;

/** The figures of one link, in order. */
export function figuresOfLink(figures: DriveFigures, link: DriveLink): DriveFigureId[] {
  return (Object.keys(figures) as DriveFigureId[]).filter((id) => DRIVE_FIGURES[id].link === link);
}

/** Figures from the supply on, as the catalogue has them. */
export const figuresInOrder = (figures: DriveFigures) =>
  (Object.keys(DRIVE_FIGURES) as DriveFigureId[]).filter((id) => figures[id] !== undefined);
