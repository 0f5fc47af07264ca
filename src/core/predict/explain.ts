import type { Design } from '../design/design-schema';
import { amplitudeVolts, hasFastEdges } from '../drive/drive';
import { formatQuantity } from '../quantity/format-quantity';
import type { Unit } from '../quantity/units';
import { isReactive } from '../ladder/reactive-droop';
import { smoothingOhms } from '../output/elements';
import { droopFormula } from './droop-formula';
import type { FigureId } from './figures';
import { inAPlace, type Prediction } from './prediction';
import { inParts, partsOf } from '../topology/topologies';

/** What smoothing and series resistor take together, V. */
const behindTerminal = ({ droopBySmoothingVolts, droopBySeriesResistorVolts }: Prediction['output']): number | null =>
  droopBySmoothingVolts === null || droopBySeriesResistorVolts === null
    ? null
    : droopBySmoothingVolts + droopBySeriesResistorVolts;

/** How a figure comes about: the equation, the same with numbers, where it is from, where it holds, what is uncertain. */
export type Explanation = {
  equation: string;
  withNumbers: string;
  source: string;
  validRange: string;
  uncertain: string;
  /** The same quantity by another convention or rule of thumb, named. */
  besides: { name: string; value: string; why: string }[];
};

const say = (value: number | null, unit: Unit, digits = 4) =>
  value === null ? 'no figure' : formatQuantity(value, unit, digits);

/** What explanations are made from: the design, its prediction, and what several of them name. */
function termsOf(design: Design, prediction: Prediction) {
  const { output, drive, energy, input, coefficients } = prediction;
  const { capacitor, diode } = prediction.places;
  const ladderAmps = (output.amps ?? 0) + (output.bleederAmps ?? 0) + (output.dividerAmps ?? 0);
  return {
    design,
    prediction,
    output,
    drive,
    energy,
    input,
    coefficients,
    steps: coefficients.steps,
    pulses: coefficients.pulses,
    diodeOhms: coefficients.diodeOhms,
    diodeCount: prediction.diodes.length,
    farads: capacitor.farads,
    forward: diode.forwardVolts,
    unitDroop: ladderAmps / drive.frequencyHertz / capacitor.farads,
    strayFarads: design.ladder.strayFarads + diode.junctionFarads,
    peak: say(amplitudeVolts(drive), 'V'),
    sags: prediction.source.driveScale < 1,
    current: say(ladderAmps, 'A'),
    formula: droopFormula(design, drive),
    edged: hasFastEdges(drive),
    reactive: isReactive(drive),
    wave: { sine: 'Sine', square: 'Square', pulse: 'Pulse', sampled: 'Sine for the recorded' }[drive.waveform],
  };
}

type Terms = ReturnType<typeof termsOf>;

/** How each figure of the verdict comes about, in the symbols of docs/physics.md. */
const EXPLANATIONS = {
  noLoadVolts: ({ output, forward, strayFarads, peak, steps, wave, design }) => ({
    equation: 'V₀ = F · N · (V₊ + V₋) / 2 − N · Vf',
    withNumbers: `F(${say(strayFarads, 'F', 2)} across each diode) · ${steps} · ${peak} − ${steps} · ${say(forward, 'V')} = ${say(output.noLoadVolts, 'V')}`,
    source:
      'Each diode lets its cathode climb by the peak across it less its drop. F by the exact capacitive ladder sum; continuum limit tanh(a)/a: Everhart and Lorrain, Review of Scientific Instruments 24, 1953.',
    validRange: `${wave} drive, no current drawn, settled. Only the drive’s two peaks count, not its duty.`,
    uncertain: 'Junction and wiring capacitance are seldom known better than a factor of two; leakage is not counted.',
    besides: [
      {
        name: `Rule of thumb: peak times ${steps}`,
        value: say(output.idealNoLoadVolts, 'V'),
        why: 'Counts neither strays nor diode drops nor any load.',
      },
      ...continuumLaw(design, strayFarads, output.idealNoLoadVolts),
    ],
  }),
  idealNoLoadVolts: ({ output, peak, steps, wave }) => ({
    equation: 'V_ideal = N · (V₊ + V₋) / 2',
    withNumbers: `${steps} · ${peak} = ${say(output.idealNoLoadVolts, 'V')}`,
    source: 'Handbook: each diode lets its cathode climb by half the drive’s peak to peak.',
    validRange: `${wave} drive, ideal diodes, no strays, nothing drawn.`,
    uncertain: 'Nothing real reaches it; what is lost on the way stands below.',
    besides: [],
  }),
  lostToDiodesVolts: ({ output, forward, steps }) => ({
    equation: 'lost = N · Vf',
    withNumbers: `${steps} · ${say(forward, 'V')} = ${say(output.lostToDiodesVolts, 'V')}`,
    source: 'Each diode on the way takes its drop of the step that it adds.',
    validRange:
      'The drop as entered, or, where its current is entered, as the diode equation has it at the load’s current.',
    uncertain: 'At microamps a silicon junction drops some 0.3 V, at milliamps 0.6 V; it counts at low voltage only.',
    besides: [],
  }),
  lostToStraysVolts: ({ output, strayFarads }) => ({
    equation: 'lost = (1 − F) · (N · Vpk − N · Vf)',
    withNumbers: `with ${say(strayFarads, 'F', 2)} across each diode ${say(output.idealNoLoadVolts - output.lostToDiodesVolts, 'V')} − ${say(output.noLoadVolts, 'V')} = ${say(output.lostToStraysVolts, 'V')}`,
    source:
      'Exact capacitive ladder sum: the drive divides between the ladder’s capacitors and what stands across the diodes.',
    validRange: 'No load, settled. One capacitance for all voltages; a junction’s falls as it blocks more.',
    uncertain: 'Strays are seldom known better than a factor of two; the tolerance band counts that.',
    besides: [],
  }),
  outputMeanVolts: ({ output }) => ({
    equation: 'V = V₀ − droop − I · R behind the terminal',
    withNumbers: `${say(output.noLoadVolts, 'V')} − ${say(output.terminalMeanVolts === null ? null : output.noLoadVolts - output.terminalMeanVolts, 'V')} − ${say(behindTerminal(output), 'V')} = ${say(output.meanVolts, 'V')}`,
    source: 'Charge bookkeeping; see droop. The mean over a cycle is what a dc meter shows.',
    validRange: 'Up to two thirds of the no-load voltage lost; good to 30 %.',
    uncertain: 'Ideal parts: 0.3 % of no-load. With source resistance: −5 % to +7 % of the droop.',
    besides: [
      {
        name: 'Least and most over a cycle',
        value: `${say(output.minVolts, 'V')} and ${say(output.maxVolts, 'V')}`,
        why: 'Half the ripple to either side.',
      },
    ],
  }),
  outputPeakVolts: ({ output }) => extremeOf('peak', output.maxVolts, output),
  outputValleyVolts: ({ output }) => extremeOf('valley', output.minVolts, output),
  droopVolts: ({ output, sags, reactive }) => ({
    equation: `droop = ${reactive ? 'droop_C + droop_Z' : '√(droop_C² + droop_R²)'} + I · R behind the terminal${sags ? ' + what the drive falls short' : ''}`,
    withNumbers: `${reactive ? `${say(output.droopByCapacitorsVolts, 'V')} + ${say(output.droopBySourceVolts, 'V')}` : `√(${say(output.droopByCapacitorsVolts, 'V')}² + ${say(output.droopOfSourceAloneVolts, 'V')}²)`} + ${say(behindTerminal(output), 'V')}${sags ? ` + ${say(output.droopByDriveVolts, 'V')}` : ''} = ${say(output.droopVolts, 'V')}`,
    source: reactive
      ? 'The source’s part is found with the capacitors in its circuit; checked against time-domain integration.'
      : 'Heuristic join, checked against time-domain integration.',
    validRange: 'Up to two thirds of no-load.',
    uncertain: reactive
      ? '1.6 % of no-load; marked rough, up to 8 %.'
      : '−5 % to +7 % of the droop where source and capacitors matter alike.',
    besides: [
      {
        name: 'Regulation',
        value: say(output.regulation, '%', 3),
        why: 'Droop over the loaded output, as transformer plates count it.',
      },
    ],
  }),
  droopByCapacitorsVolts: ({
    output,
    drive,
    coefficients,
    farads,
    unitDroop,
    strayFarads,
    current,
    formula,
    edged,
    wave,
    reactive,
  }) => ({
    equation: `droop_C = (I / f) · ${formula ? `(${formula.droop}) / C` : 'Σ over capacitors of charge² / 2C'}${edged || reactive ? '' : ' − κ Vpk x^1.5'}${formula?.where ? `, ${formula.where}` : ''}`,
    withNumbers: `${current} / (${say(drive.frequencyHertz, 'Hz')} · ${say(farads, 'F')}) = ${say(unitDroop, 'V')}, times ${((coefficients.droop ?? Infinity) * farads).toFixed(2)}${edged || reactive ? '' : ', less the lift of wide pulses'} = ${say(output.droopByCapacitorsVolts, 'V')}`,
    source: `Derived by charge bookkeeping: each capacitor’s charge squared over fC${formula && strayFarads > 0 ? ', strays included, which the short formula leaves out' : ''}.${edged || reactive ? '' : ' κ fitted to integration.'}`,
    validRange: `${wave} drive, up to two thirds of no-load; exact as the load goes to zero.`,
    uncertain: 'Capacitor tolerance enters in full; class-2 ceramics lose capacitance with voltage.',
    besides:
      output.textbookDroopVolts === null
        ? []
        : [
            {
              name: `Textbook droop${formula?.textbook ? `, ${formula.textbook}` : ''}`,
              value: say(output.textbookDroopVolts, 'V'),
              why: 'Drop to the peak if all charge were drawn at one instant; the mean that a meter shows lies lower.',
            },
          ],
  }),
  droopBySourceVolts: ({ output, drive, peak, current, edged, reactive, pulses, diodeOhms }) => ({
    equation: reactive
      ? 'e″ + (R/X) e′ + e/(XωC) = sin t/(XωC);  each pulse loses ν Vpk (1 − e at its end)'
      : edged
        ? 'droop_R = I Rs (ν₊² / d + ν₋² / (1 − d)), summed over windings'
        : 'sin θ − θ cos θ = π ν I Rs / Vpk;  each pulse loses ν Vpk (1 − cos θ)',
    withNumbers: `ν₊ = ${pulses.positive.toPrecision(3)}, ν₋ = ${pulses.negative.toPrecision(3)}, ${current}, ${say(drive.seriesOhms + diodeOhms, 'Ω')}${diodeOhms > 0 ? `, ${say(diodeOhms, 'Ω')} of it the diodes’ on-resistance` : ''}${reactive ? ` and ${say(drive.seriesHenries, 'H')}` : ''}, ${peak} give ${say(output.droopOfSourceAloneVolts, 'V')}${reactive ? '' : ` alone; joined with the capacitors’, √(droop_C² + droop_R²) − droop_C = ${say(output.droopBySourceVolts, 'V')}`}`,
    source: reactive
      ? 'Derived: each pulse is that of a resonant circuit of source and foot, C = Σν² / (2 droop coefficient). Below zero where it carries the charge over the peak.'
      : edged
        ? 'Fast-switching limit: M. Seeman and S. Sanders, IEEE Transactions on Power Electronics 23, 2008, from memory.'
        : 'Derived: the source feeds narrow pulses around each peak.',
    validRange: reactive
      ? 'Light-load droop to 40 %, ν I X / Vpk to 0.15; good to 8 % and 0.025.'
      : 'Resistance only; what inductance there is behind a square is not counted here.',
    uncertain: 'Source resistance under pulses is rarely known; measure the input loaded and unloaded.',
    besides: [],
  }),
  droopBySmoothingVolts: ({ output, design }) => ({
    equation: 'V = (I + I_divider) · ΣR of the sections',
    withNumbers: `(${say(output.amps, 'A')} + ${say(output.dividerAmps, 'A')}) · ${say(smoothingOhms(design.output), 'Ω')} = ${say(output.droopBySmoothingVolts, 'V')}`,
    source: 'Ohm’s law, for the mean current; a mean drives nothing through a capacitor, and sees no inductance.',
    validRange: 'Always; the bleeder stands before it.',
    uncertain: 'A choke’s winding warms, and leaks at high voltage.',
    besides: [],
  }),
  droopBySeriesResistorVolts: ({ output, design }) => ({
    equation: 'V = I · R_series',
    withNumbers: `${say(output.amps, 'A')} · ${say(design.output.seriesOhms, 'Ω')} = ${say(output.droopBySeriesResistorVolts, 'V')}`,
    source: 'Ohm’s law, for the mean current of the load.',
    validRange: 'Always; the bleeder stands before it.',
    uncertain: 'Its own tolerance, and what high-voltage resistors lose at voltage.',
    besides: [],
  }),
  droopByDriveVolts: ({ output, input, prediction }) => ({
    equation: 'peaks fall until P_in = P_drive, I_RMS = I_drive, or the sagging supply carries it',
    withNumbers: `at ${say(prediction.source.driveScale, '%')} of their full height the ladder takes ${say(input.watts, 'W')} and ${say(input.amps, 'A')} RMS: ${say(output.droopByDriveVolts, 'V')} less without load`,
    source: 'Conservation of energy; efficiency of driver and transformer as entered.',
    validRange: 'Steady states. A flyback’s pulse falls, its forward stroke does not.',
    uncertain: 'The efficiency is a guess until it is measured; a driver’s own regulation is not counted.',
    besides: [],
  }),
  rippleVolts: ({ output, coefficients, farads, unitDroop, formula, edged, wave }) => ({
    equation: `ripple = (I / f C)(${formula?.ripple ?? 'from the same bookkeeping'})${edged ? '' : ' − charging time'} + drive through strays, peak to peak`,
    withNumbers: `${say(unitDroop, 'V')} · ${(coefficients.ripple * farads).toFixed(1)}, less charging time, with drive through strays = ${say(output.ripplePeakToPeakVolts, 'V')}`,
    source: 'Derived: charge in and out of the smoothing column.',
    validRange: `${wave} drive; within 0.6 % of integration (1.7 % for a single diode) for ideal parts.`,
    uncertain: 'Source resistance softens it; pick-up in the wiring adds to it.',
    besides: [
      {
        name: 'As plus-or-minus',
        value:
          output.ripplePeakToPeakVolts === null
            ? 'no figure'
            : `± ${formatQuantity(output.ripplePeakToPeakVolts / 2, 'V')}`,
        why: 'Half of peak to peak, as some books print it.',
      },
      {
        name: 'Textbook ripple, peak to peak',
        value: say(output.textbookRipplePeakToPeakVolts, 'V'),
        why: 'Takes charging as instantaneous.',
      },
    ],
  }),
  outputWatts: ({ output, input, diodeCount, forward, current }) => ({
    equation: 'P_in = V_terminal · I + Σ diodes Vf · I + source loss',
    withNumbers: `${say(output.terminalMeanVolts, 'V')} · ${current} + ${diodeCount} · ${say(forward, 'V')} · ${current} + source loss = ${say(input.watts, 'W')}`,
    source: 'Conservation of energy; an ideal ladder on a sine loses nothing itself.',
    validRange: 'As for the mean. Losses in the driver and transformer come on top.',
    uncertain: 'The source’s loss is an upper estimate, up to 26 % high.',
    besides: [
      {
        name: 'RMS current in the source',
        value: say(input.amps, 'A', 3),
        why: 'Upper estimate from the pulse width.',
      },
    ],
  }),
  storedJoules: ({ energy, prediction }) => ({
    equation: 'E = Σ C V² / 2',
    withNumbers: `${capacitorCount(prediction)} at their no-load voltages = ${say(energy.joules, 'J')}`,
    source: 'Handbook formula.',
    validRange: 'Without load, the worst case.',
    uncertain: 'Cables, probes and the load store more. Dielectrics recover some charge after a short.',
    besides: [
      {
        name: 'Charge a short across the terminal can draw',
        value: say(energy.terminalCoulombs, 'C', 3),
        why: 'Limits used for wording: 45 µC up to 15 kV, 350 mJ above (IEC 61010-1, from memory). Below them it still bites.',
      },
    ],
  }),
  bleedSeconds: ({ output, energy, design }) => ({
    equation:
      't = Σ of R_bleed · C_then · ln(V_before / V_after), from one diode that begins to conduct to the next, down to 60 V',
    withNumbers:
      energy.bleedSeconds === null
        ? 'No bleeder is fitted.'
        : `from ${say(output.noLoadVolts, 'V')} through ${say(design.output.bleederOhms, 'Ω')}: ${say(energy.bleedSeconds, 's', 3)}`,
    source:
      'Derived: the network of capacitances as diodes join it, checked against time-domain integration. 60 V dc: the usual limit.',
    validRange: 'Bleeder intact, drive off, capacitors as marked. Diode drops are left out: they make it shorter.',
    uncertain:
      'Diodes that leak about as much as the bleeder draws can make it a fifth longer. A broken bleeder leaves everything charged; only a measurement shows that it has worked.',
    besides: [],
  }),
  optimumStages: ({ prediction }) => ({
    equation: 'the n that gives the highest mean output into this load',
    withNumbers:
      prediction.optimumStages === null
        ? 'There is none within what a design may have, or nothing is drawn, or the ladder has one form.'
        : `n = ${prediction.optimumStages}, of ${inParts(partsOf(prediction.topology, prediction.optimumStages, inAPlace(prediction.places)))}, by predicting every count`,
    source: 'Search over this same prediction.',
    validRange: 'As for the mean.',
    uncertain: 'Droop there is a third and more of no-load: a poor place to work. Stay well under it.',
    besides: [
      {
        name: 'Published rule √(Vpk f C / I)',
        value: prediction.textbookOptimumStages === null ? 'none' : prediction.textbookOptimumStages.toFixed(1),
        why: 'In stages of two capacitors and two diodes; for an ideal ladder the best whole number is its floor.',
      },
    ],
  }),
} as const satisfies Partial<Record<FigureId, (terms: Terms) => Explanation>>;

/** Figures that can be opened. */
export type ExplainedFigure = keyof typeof EXPLANATIONS;
export const EXPLAINED_FIGURES = Object.keys(EXPLANATIONS) as ExplainedFigure[];

/** Where the output stands at the top or the bottom of its ripple. */
function extremeOf(
  which: 'peak' | 'valley',
  volts: number | null,
  { meanVolts, ripplePeakToPeakVolts }: Prediction['output'],
): Explanation {
  const apart = volts === null || meanVolts === null ? null : Math.abs(volts - meanVolts);
  return {
    equation:
      which === 'peak'
        ? 'peak = mean + what the ripple stands above it'
        : 'valley = mean − what the ripple falls below it',
    withNumbers: `${say(meanVolts, 'V')} ${which === 'peak' ? '+' : '−'} ${say(apart, 'V')} = ${say(volts, 'V')}, of ${say(ripplePeakToPeakVolts, 'V')} peak to peak`,
    source: 'As the ripple and the mean; see there.',
    validRange: 'That of the ripple.',
    uncertain: 'Half the ripple to either side of a smoothed output; a clamp swings unevenly about its mean.',
    besides: [],
  };
}

/** The explanation of one figure of a prediction. */
export function explain(figure: ExplainedFigure, design: Design, prediction: Prediction): Explanation {
  return EXPLANATIONS[figure](termsOf(design, prediction));
}

/** The continuum limit that F is usually quoted by, for the ladders it was derived for: half-wave, capacitors alike, strays. */
function continuumLaw({ ladder }: Design, strayFarads: number, idealVolts: number): Explanation['besides'] {
  const { topology, grading, capacitorFarads, stages, capacitor } = ladder;
  if (topology !== 'half-wave' || grading !== 'equal' || capacitorFarads || strayFarads === 0) return [];
  const a = 2 * stages * Math.sqrt(strayFarads / capacitor.farads);
  return [
    {
      name: 'Continuum law tanh(a)/a for F (Everhart and Lorrain, 1953)',
      value: say((idealVolts * Math.tanh(a)) / a, 'V'),
      why: 'Takes the ladder as a smooth line and comes out too high; diode drops come off as well.',
    },
  ];
}

function capacitorCount({ capacitors }: Prediction): string {
  const count = capacitors.reduce((sum, part) => sum + part.count, 0);
  return count === 1 ? '1 capacitor' : `${count} capacitors`;
}
