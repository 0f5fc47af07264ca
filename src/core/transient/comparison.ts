import type { Design } from '../design/design-schema';
import { runningPart } from '../drive/bursts';
import { mostWatts, type Drive } from '../drive/drive';
import { leftOutBy } from '../drive/driver-kinds';
import { formatQuantity } from '../quantity/format-quantity';
import { signedVolts } from '../quantity/polarity';
import { SEVERITY_ORDER, type Finding } from '../quantity/finding';
import type { Transient } from './transient';
import { isReactive } from '../ladder/reactive-droop';
import type { FigureId } from '../predict/figures';
import type { Prediction } from '../predict/prediction';
import { reachedBy } from '../predict/reached';

/** Fraction of the output up to which closed form and time domain count as one. */
const AGREEMENT = 0.005;
/** The same for the ripple, which the closed form knows less well. */
const RIPPLE_AGREEMENT = 0.1;
/** Fraction of the power in that may be unaccounted for, or lost in ringing, before it is said. */
const MOST_RESIDUE = 0.001;
/** Part of the power in that damped ringing may use up unsaid. */
const TOLD_EDGES = 0.01;
/** Recovery that is this fraction of a period is felt. */
const FELT_RECOVERY = 0.005;

/** Figures that the time domain has as well, by the catalogue's ids: how each is read there. */
const TIME_DOMAIN_FIGURES = {
  outputMeanVolts: ({ meanVolts }) => meanVolts,
  rippleVolts: ({ ripplePeakToPeakVolts }) => ripplePeakToPeakVolts,
  outputRmsVolts: ({ rmsVolts }) => rmsVolts,
  outputPeakVolts: (transient) => alternatingInTime(transient).peakVolts,
  outputRmsAmps: ({ rmsAmps }) => rmsAmps,
  // What a driver in the circuit loses does not reach the ladder.
  // A ladder that takes next to nothing may seem to give by what is left unsettled.
  inputWatts: ({ watts }) => Math.max(0, watts.in - watts.driver),
  inputRmsAmps: ({ source }) => source.rmsAmps,
} as const satisfies Partial<Record<FigureId, (transient: Transient) => number>>;

const OF_DIRECT = ['outputMeanVolts', 'rippleVolts', 'inputWatts', 'inputRmsAmps'] as const;
const OF_ALTERNATING = ['outputRmsVolts', 'outputPeakVolts', 'outputRmsAmps', 'inputWatts', 'inputRmsAmps'] as const;

/** What both ways tell of an output, in order: the catalogue's ids, and the time domain's value. */
export function toldByBoth(
  { output }: Prediction,
  transient: Transient,
): { id: keyof typeof TIME_DOMAIN_FIGURES; timeDomain: number }[] {
  return (output.alternating ? OF_ALTERNATING : OF_DIRECT).map((id) => ({
    id,
    timeDomain: TIME_DOMAIN_FIGURES[id](transient),
  }));
}

/** An output that alternates as the time domain has it, V and A. */
export const alternatingInTime = ({ rmsVolts, rmsAmps, maxVolts, minVolts }: Transient) => ({
  rmsVolts,
  peakVolts: Math.max(maxVolts, -minVolts),
  rmsAmps,
});

/** How closed form and time domain compare, and the one thing that explains it best. */
export type Comparison = {
  /** Time domain less closed form, V and as a fraction of the closed form; null where that has no figure. */
  differenceVolts: number | null;
  differenceFraction: number | null;
  why: string;
  /** What of the time domain itself is not to be trusted; null when nothing stands out. */
  doubt: string | null;
};

/**
 * One sentence on why the two differ: what the closed form leaves out or only
 * estimates, judged by what the design has of it, the largest first.
 */
export function compareWithTimeDomain(design: Design, prediction: Prediction, transient: Transient): Comparison {
  const closedForm = reachedBy(prediction.output).volts;
  const timeDomain = prediction.output.alternating ? transient.rmsVolts : transient.meanVolts;
  const differenceVolts = closedForm === null ? null : timeDomain - closedForm;
  const differenceFraction = differenceVolts === null || !closedForm ? null : differenceVolts / closedForm;
  return {
    differenceVolts,
    differenceFraction,
    why: whyTheyDiffer(design, prediction, transient, differenceFraction),
    doubt: doubtOf(design, prediction, transient),
  };
}

function doubtOf(design: Design, { source, output, drive }: Prediction, transient: Transient): string | null {
  const { driver, error, ringing, watts } = transient;
  if (driver.kind === 'circuit' && driver.limitedVolts !== null && design.supply && 'maxAmps' in design.supply)
    return `The supply is at its limit of ${formatQuantity(design.supply.maxAmps!, 'A')}, which leaves ${formatQuantity(driver.limitedVolts, 'V')} of it.`;
  if (driver.kind === 'circuit' && driver.wandering)
    return `What rings in the driver meets each cycle at another phase, and none repeats: figures are means of ${driver.wandering.cycles} cycles, peaks the highest in them; the output strays by ${formatQuantity(driver.wandering.strayVolts, 'V', 2)} RMS.`;
  const over = overInBursts(drive, transient);
  if (over !== null) return over;
  if (driver.kind === 'drive' && driver.reason !== null)
    return `The driver is taken as a source here and not run as a circuit, because ${driver.reason}.`;
  if (driver.kind === 'drive' && source.driveScale < 1 && output.meanVolts === null && !output.alternating)
    return 'It takes the drive at its full peaks, which the drive cannot keep up at this load.';
  const residue = Math.abs(error.powerResidue ?? 0);
  if (residue > MOST_RESIDUE)
    return `Its power adds up within ${formatQuantity(residue, '%', 2)} only, for all its short steps: power in and source current are no better than that.`;
  if (ringing === 'damped' && watts.edges > TOLD_EDGES * watts.in)
    return `Leakage inductance rings faster than the steps follow. Taken as dying out at once, it uses up ${formatQuantity(watts.edges / watts.in, '%', 2)} of the power in; in the build its real damping decides, and the output may be higher.`;
  return null;
}

/** Whether a drive in bursts is asked for more than it gives while it runs, which nothing here counts; a sentence. */
function overInBursts(drive: Drive, { watts, source }: Transient): string | null {
  if (!drive.burst) return null;
  const running = runningPart(drive);
  const over = (asked: number, most: number | null, unit: 'W' | 'A') =>
    most !== null && asked > most
      ? `While it runs ${formatQuantity(asked, unit)} are asked of the drive, which gives ${formatQuantity(most, unit)} at most: the output will be lower than these figures.`
      : null;
  return (
    over(watts.in / running, mostWatts(drive), 'W') ?? over(source.rmsAmps / Math.sqrt(running), drive.maxAmps, 'A')
  );
}

function whyTheyDiffer(
  design: Design,
  { output, drive }: Prediction,
  transient: Transient,
  difference: number | null,
): string {
  if (!transient.converged)
    return `${transient.reason ?? 'It did not settle.'} Its figures may still be off by ${formatQuantity(transient.error.settlingVolts, 'V', 2)}.`;
  if (design.load.kind === 'gap' && transient.gapStrikes)
    return 'Both are the state before the gap strikes; see Charge-up for what follows.';
  if (difference === null && drive.burst)
    return 'Of a drive in bursts the closed form has no loaded output; the time domain runs each of their cycles.';
  if (difference === null && drive.seriesFarads !== null)
    return 'Through a capacitor in series the closed form has no loaded output; the time domain has.';
  if (difference === null) return 'The load is past what the closed form can say; the time domain has no such limit.';
  if (Math.abs(difference) <= AGREEMENT) {
    const ripple = output.ripplePeakToPeakVolts;
    return ripple !== null && Math.abs(transient.ripplePeakToPeakVolts - ripple) > RIPPLE_AGREEMENT * ripple
      ? 'The means agree, closer than the parts are known; the ripple differs because resistance and strays soften what the closed form takes as sudden.'
      : 'They agree: closer than the parts are known.';
  }
  if (output.alternating && design.load.kind === 'current')
    return 'Mostly the current’s form: the closed form draws it as a resistance would, the time domain as much at every moment.';
  if (transient.driver.kind === 'circuit' && transient.driver.limitedVolts !== null)
    return 'Mostly the supply at its limit: the closed form estimates how far that pulls its voltage down, the circuit finds it.';
  const leftOut = leftOutBy(design.driver);
  if (transient.driver.kind === 'circuit' && leftOut !== null) return leftOut;
  const { diode } = design.ladder;
  const lower = difference < 0;
  if (lower && (diode.recoverySeconds ?? 0) * drive.frequencyHertz > FELT_RECOVERY)
    return 'Mostly loss in the diodes: they let charge flow back while they recover, which the closed form leaves out.';
  if (isReactive(drive))
    return 'Mostly the source’s reactance and its resonance with the capacitors, which the closed form takes as one circuit of each for all of them.';
  if (drive.seriesHenries > 0)
    return 'Mostly leakage inductance, which spreads and delays the charging and which the closed form leaves out behind a square.';
  if (lower && diode.leakageAmps > 0) return 'Mostly loss in the diodes: their leakage is left out of the closed form.';
  const bySource = output.droopOfSourceAloneVolts ?? 0;
  const byCapacitors = output.droopByCapacitorsVolts ?? 0;
  if (bySource > 0.15 * byCapacitors)
    return `Mostly the ${diode.onOhms > 0 ? 'resistance of drive and diodes' : 'drive’s resistance'}: how it joins with the capacitors is only estimated in the closed form.`;
  if (design.ladder.strayFarads + diode.junctionFarads > 0)
    return 'Mostly strays under load: the closed form takes them as without load.';
  return 'Mostly the light-load limit: the closed form is exact only as the load goes to zero.';
}

/** Stops of the closed form that are about what it can say, not about the build; which of them need the driver in the circuit to be refuted. */
const REFUTABLE: Readonly<Record<string, { needsCircuit: boolean }>> = {
  'closed-form-fails': { needsCircuit: false },
  'current-out-of-reach': { needsCircuit: false },
  'drive-cannot-carry': { needsCircuit: true },
};
/** Fraction of the load's own current that counts as carried. */
const CARRIED = 0.99;

/**
 * What is found of a design, with every stop of the closed form that a settled
 * time domain refutes turned into a warning that says so.
 *
 * @param transient null until it is there
 */
export function findingsBeside(
  design: Design,
  { findings, output }: Prediction,
  transient: Transient | null,
): Finding[] {
  if (!transient?.converged) return findings;
  const { load } = design;
  if (load.kind === 'current' && transient.amps < CARRIED * load.amps) return findings;
  return findings
    .map((finding): Finding => {
      const refutable = finding.severity === 'stop' ? REFUTABLE[finding.code] : undefined;
      if (!refutable || (refutable.needsCircuit && transient.driver.kind !== 'circuit')) return finding;
      return {
        ...finding,
        severity: 'warn',
        message: `${finding.message} The time domain settles all the same, at ${formatQuantity(signedVolts(transient.meanVolts, output.polarity), 'V')} and ${formatQuantity(transient.amps, 'A')}: go by its figures.`,
      };
    })
    .sort((one, other) => SEVERITY_ORDER[one.severity] - SEVERITY_ORDER[other.severity]);
}

/** A part that the time domain has over its rating where the closed form has it within: V, peak for all of them. */
type OverInTime = { part: string; volts: number; ratedVolts: number };

/**
 * The worst capacitor, diode and transistor that the time domain has over their
 * rated voltage while the closed form has none of their kind over it: what a
 * closed form that lies too low would let pass.
 */
export function overInTimeDomain(design: Design, prediction: Prediction, transient: Transient): OverInTime[] {
  const worst = (
    parts: readonly { part: string; volts: number; predictedVolts: number; ratedVolts: number | null }[],
  ): OverInTime[] => {
    const rated = parts.flatMap((one) => (one.ratedVolts === null ? [] : [{ ...one, ratedVolts: one.ratedVolts }]));
    if (rated.some(({ predictedVolts, ratedVolts }) => predictedVolts > ratedVolts)) return [];
    const over = rated.filter(({ volts, ratedVolts }) => volts > ratedVolts);
    const [first] = over.sort((one, other) => other.volts / other.ratedVolts - one.volts / one.ratedVolts);
    return first ? [{ part: first.part, volts: first.volts, ratedVolts: first.ratedVolts }] : [];
  };
  const { driver } = design;
  const figures = transient.driver.kind === 'circuit' ? transient.driver.figures : {};
  return [
    ...worst(
      prediction.capacitors.map(({ id, workingVolts, ratedVolts }, at) => {
        const { meanVolts, ripplePeakToPeakVolts } = transient.capacitors[at];
        return { part: id, volts: meanVolts + ripplePeakToPeakVolts / 2, predictedVolts: workingVolts, ratedVolts };
      }),
    ),
    ...worst(
      prediction.diodes.map(({ id, reverseVolts, ratedVolts }, at) => {
        return { part: id, volts: transient.diodes[at].reverseVolts, predictedVolts: reverseVolts, ratedVolts };
      }),
    ),
    ...worst([
      {
        part: 'The transistor',
        volts: figures.transistorPeakVolts ?? 0,
        predictedVolts: prediction.source.figures.transistorPeakVolts ?? 0,
        ratedVolts: 'ratedVolts' in driver ? driver.ratedVolts : null,
      },
    ]),
  ];
}

/** A prediction as the time domain sees it, for the picture: its nodes, its output, the rest as predicted. */
export function asSettled(prediction: Prediction, transient: Transient): Prediction {
  const found = new Map(transient.nodes.map((node) => [node.id, node]));
  const noLoadVolts = prediction.output.noLoadVolts;
  return {
    ...prediction,
    output: {
      ...prediction.output,
      meanVolts: transient.meanVolts,
      minVolts: transient.minVolts,
      maxVolts: transient.maxVolts,
      ripplePeakToPeakVolts: transient.ripplePeakToPeakVolts,
      droopVolts: noLoadVolts - transient.meanVolts,
    },
    nodes: prediction.nodes.map((node) => ({ ...node, ...found.get(node.id) })),
  };
}
