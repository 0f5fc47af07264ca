import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { amplitudeVolts } from '../drive/drive';
import { meterView, type Meter } from '../drive/meter-sense';
import { ladderInputs, polarityOf } from '../operating/ladder-inputs';
import { acrossOhms } from '../output/elements';
import { HAZARDOUS_DC_VOLTS } from '../output/discharge';
import { forwardDrop } from '../parts/forward-drop';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { Prediction } from '../predict/prediction';
import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import { preferredAtLeast } from '../quantity/preferred-values';
import { signedVolts } from '../quantity/polarity';
import { topStage } from '../topology/network';
import { probedOf } from '../transient/probed';
import type { Expected } from './agreement';
import { onLowSource, type LowSource } from './low-source';

/** One place of the ladder, and what a meter reads there; dc, against ground, V. */
export type Tap = {
  node: string;
  /** Without a meter. */
  bareVolts: number;
  /** What the meter's display shows, and within what it lies where nothing is wrong; null where it is not to be put on, or nothing settles. */
  reading: Expected | null;
  /** Whether more would stand on the meter than it takes. */
  isOverMeter: boolean;
  /** The same place at the design's full drive without load. */
  fullVolts: number;
};

const NOT_TURNED_DOWN: Finding = {
  code: 'not-turned-down',
  severity: 'stop',
  where: 'Bench',
  message: 'Nothing is known of this drive but what it gives in full: there is nothing to expect of it turned down.',
  advice: 'Test on a low winding.',
};

export type ProvingTest = {
  /** What the meter shows of the source itself, on the range of its kind, and within what; null where more would stand on it than it takes. */
  source: Expected | null;
  taps: Tap[];
  findings: Finding[];
};

/** Fraction of a reading that a meter takes by loading from which it is said (common practice, no source). */
const WORTH_SAYING = 0.2;
/** By how much a loss may differ between the test and full drive before the one says little of the other, as a fraction of the output (common practice, no source). */
const UNLIKE = 0.05;

/**
 * A low-voltage test of a ladder: what one meter reads at each of its taps when
 * nothing is wrong.
 *
 * Each reading is that of the ladder up to that tap, all of it where its output
 * draws current, in the time domain with the meter's resistance and capacitance on it, diodes at their drop for the meter's
 * own current. Its band joins, as independent, what the source may be off (the
 * meter's accuracy where it was measured, else the design's own spread), the
 * diodes' spread, the capacitors' tolerance in what the meter takes, and the
 * meter's accuracy (sum of squares, handbook).
 *
 * @param design complete, as `readDesign` returns it
 * @yields how much of it is done, 0 to 1
 */
export function* provingOf(design: Design, source: LowSource, meter: Meter): Generator<number, ProvingTest> {
  const low = onLowSource(design, source);
  if (!low) return { source: null, taps: [], findings: [NOT_TURNED_DOWN] };
  const test = predict(low, WITHOUT_OPTIMUM);
  const full = predict(design, WITHOUT_OPTIMUM);
  const nodes = tapsOf(full);
  const polarity = polarityOf(design);
  const { takesMost } = dropsBeside(design, test);
  const away = forwardSpread(low, test);
  const taps: Tap[] = [];
  const bare = yield* finished(probedOf(low, null));
  for (const [done, node] of nodes.entries()) {
    const fullVolts = signedVolts(noLoadVoltsAt(full, node), polarity);
    const bareVolts = bare?.get(node) ?? null;
    const isOverMeter = bareVolts !== null && Math.abs(bareVolts) > meter.limitVolts * meter.probeRatio;
    const probe = { node, ohms: meter.inputOhms, farads: meter.inputFarads };
    const loaded =
      bareVolts === null || isOverMeter || takesMost
        ? null
        : yield* finished(probedOf(upTo(atMeterCurrent(low, Math.abs(bareVolts) / meter.inputOhms), node), probe));
    const shown = loaded?.get(node);
    taps.push({
      node,
      bareVolts: signedVolts(bareVolts ?? noLoadVoltsAt(test, node), polarity),
      reading:
        shown === undefined || bareVolts === null
          ? null
          : readingOf(signedVolts(shown, polarity), bareVolts, away.get(node) ?? 0, low, source, meter),
      isOverMeter,
      fullVolts,
    });
    yield (done + 1) / nodes.length;
  }
  const view = meterView(test.drive, meter);
  const sourceOff = Math.hypot(sourceSpread(low, source, meter), meter.accuracy);
  return {
    source: view.isOverJacks
      ? null
      : { value: view.shownVolts, low: view.shownVolts * (1 - sourceOff), high: view.shownVolts * (1 + sourceOff) },
    taps,
    findings: [...view.findings, ...findingsOf(design, source, meter, { test, full, taps })],
  };
}

/** A job within this one, whose own progress is not told. */
export function* finished<R>(job: Generator<unknown, R>): Generator<never, R> {
  let step = job.next();
  while (!step.done) step = job.next();
  return step.value;
}

/**
 * Where one measures: the smoothing column from the foot outwards, which stands
 * at steady voltages, or the output where there is none; none where nothing
 * rectifies.
 */
export function tapsOf({ nodes, terminals, output }: Prediction): string[] {
  if (output.alternating) return [];
  const steady = nodes.filter(({ column }) => column === 'smoothing').map(({ id }) => id);
  return [...new Set([...steady, terminals.output, terminals.return])].filter((id) => id !== 'ground');
}

const noLoadVoltsAt = ({ nodes }: Prediction, node: string): number =>
  nodes.find(({ id }) => id === node)?.noLoadVolts ?? 0;

/** An output at which nothing stands. */
export const NO_OUTPUT = { seriesOhms: 0, bleederOhms: null, divider: null, smoothing: [], electrodeFarads: 0 };

/**
 * The ladder with nothing beyond the stage of a node: where nothing is drawn of
 * the output, what is above passes no current on, and would take hours to give up
 * what it held before a meter pulled it down. With a bleeder or a divider it does,
 * and all of it stays.
 */
export function upTo(design: Design, node: string): Design {
  if (acrossOhms(design.output) < Infinity) return design;
  const { marked } = ladderInputs(design);
  const beyond = topStage(marked) - (marked.nodes.find(({ id }) => id === node)?.stage ?? 0);
  if (beyond <= 0 || beyond >= design.ladder.stages) return design;
  const listed = marked.capacitors.map(({ farads }) => farads);
  return changeDesign(
    { ...design, ladder: { ...design.ladder, capacitorFarads: listed }, output: { ...design.output, ...NO_OUTPUT } },
    { path: '$.ladder.stages', value: design.ladder.stages - beyond },
  );
}

/** The diodes at the drop they have where so much flows, A. */
export function atMeterCurrent(design: Design, amps: number): Design {
  const { forwardVolts, forwardAmps } = design.ladder.diode;
  const diode = {
    ...design.ladder.diode,
    forwardVolts: forwardDrop(forwardVolts, forwardAmps, amps),
    forwardAmps: null,
  };
  return { ...design, ladder: { ...design.ladder, diode } };
}

/** How far the spread of the diodes' drop moves each node, V. */
function forwardSpread(low: Design, test: Prediction): ReadonlyMap<string, number> {
  const { diode } = low.ladder;
  const forwardVolts = diode.forwardVolts * (1 + low.spread.forward);
  const more = predict({ ...low, ladder: { ...low.ladder, diode: { ...diode, forwardVolts } } }, WITHOUT_OPTIMUM);
  return new Map(test.nodes.map(({ id, noLoadVolts }) => [id, Math.abs(noLoadVoltsAt(more, id) - noLoadVolts)]));
}

function readingOf(
  volts: number,
  bareVolts: number,
  forwardVolts: number,
  design: Design,
  source: LowSource,
  meter: Meter,
): Expected {
  const { accuracy, probeRatio } = meter;
  const size = Math.abs(volts);
  const lost = Math.max(0, Math.abs(bareVolts) - size);
  const left = size > 0 ? size / (size + lost) : 0;
  const off = Math.hypot(
    size * sourceSpread(design, source, meter),
    // Of two resistances in series, the ladder's in proportion to 1 / (f C) (handbook).
    left * forwardVolts,
    left * lost * design.ladder.capacitor.tolerance,
    size * accuracy,
  );
  return { value: volts / probeRatio, low: (volts - off) / probeRatio, high: (volts + off) / probeRatio };
}

/** How far the source may be off what it is said to be, as a fraction: a winding was measured, the design's own drive is as its spread says. */
const sourceSpread = ({ spread }: Design, source: LowSource, { accuracy }: Meter): number =>
  source.kind === 'winding' ? accuracy : spread.peaks;

/** Fraction of the drive's amplitude that a diode's drop may take before nothing is expected, and that it may take for a test that is worth its while (common practice, no source). */
const TAKES_MOST = 0.8;
const WORTH_TESTING = 0.2;

/** Whether the diodes' drop, at the least current, leaves next to nothing of the drive, and the amplitude that would do, V peak. */
function dropsBeside({ ladder: { diode } }: Design, { drive }: Prediction): { takesMost: boolean; wanted: number } {
  const drop = diode.series * forwardDrop(diode.forwardVolts, diode.forwardAmps, 0);
  return { takesMost: drop > TAKES_MOST * amplitudeVolts(drive), wanted: drop / WORTH_TESTING };
}

type Computed = { test: Prediction; full: Prediction; taps: readonly Tap[] };

function findingsOf(design: Design, source: LowSource, meter: Meter, { test, full, taps }: Computed): Finding[] {
  const found: Finding[] = [];
  const say = (severity: Finding['severity'], code: string, message: string, advice: string) =>
    found.push({ severity, code, where: 'Bench', message, advice });
  const percent = (value: number) => `${Math.round(100 * value)} %`;
  const highest = test.output.noLoadPeakVolts;
  if (highest > HAZARDOUS_DC_VOLTS)
    say(
      'warn',
      'test-hazardous',
      `Up to ${formatQuantity(highest, 'V', 2)} stands at the output in this test: over ${HAZARDOUS_DC_VOLTS} V dc it is made dead like the whole supply.`,
      'Clip the meter on with the source off, one hand, and go by the discharge plan afterwards; or test lower.',
    );
  if (taps.length === 0)
    say(
      'note',
      'no-taps',
      'Nothing rectifies here: the output is the winding’s own alternating voltage, and no tap stands at a steady one.',
      'Read the source itself.',
    );
  const over = taps.filter(({ isOverMeter }) => isOverMeter);
  if (over.length > 0)
    say(
      'stop',
      'taps-over-meter',
      `More would stand at ${over.map(({ node }) => node).join(', ')} than the meter’s ${formatQuantity(meter.limitVolts, 'V')}.`,
      'Test lower, or measure these through a divider made for the voltage.',
    );
  if (!dropsBeside(design, test).takesMost && taps.some(({ reading, isOverMeter }) => !reading && !isOverMeter))
    say(
      'warn',
      'not-settled',
      'At some taps no steady state was found: there is no reading to expect.',
      'Try another voltage or frequency.',
    );
  const most = Math.max(
    0,
    ...taps.map(({ reading, bareVolts }) =>
      reading && bareVolts !== 0 ? 1 - Math.abs((reading.value * meter.probeRatio) / bareVolts) : 0,
    ),
  );
  if (most > WORTH_SAYING)
    say(
      'warn',
      'meter-loads',
      `The meter takes up to ${percent(most)} of what it measures: at this frequency the capacitors pass little more than its own current, and readings tell of them more than of the drive.`,
      source.kind === 'winding'
        ? 'Test at a higher frequency, or with the design’s own drive turned down.'
        : 'Read through a probe of more resistance.',
    );
  const shareOf = ({ output }: Prediction, volts: number) =>
    output.idealNoLoadVolts > 0 ? volts / output.idealNoLoadVolts : 0;
  const strays = [test, full].map((one) => shareOf(one, one.output.lostToStraysVolts));
  if (Math.abs(strays[0] - strays[1]) > UNLIKE)
    say(
      'warn',
      'strays-unlike',
      `Strays take ${percent(strays[0])} of the output in this test and ${percent(strays[1])} at full drive: it says nothing of that loss.`,
      'Junctions hold more at low voltage. Compare at the steps up.',
    );
  const { wanted, takesMost } = dropsBeside(design, test);
  if (takesMost)
    say(
      'stop',
      'drops-take-all',
      `The diodes’ own drop is as much as this source has: what is left to read is leakage and strays, and no expectation is given.`,
      source.kind === 'winding'
        ? `Test from about ${formatQuantity(wanted / Math.SQRT2, 'V', 2)} RMS on, or with the design’s own drive turned down.`
        : `Turn it down less: the ladder asks for about ${formatQuantity(wanted, 'V', 2)} peak at its input.`,
    );
  const drops = [test, full].map((one) => shareOf(one, one.output.lostToDiodesVolts));
  if (!takesMost && drops[0] - drops[1] > UNLIKE)
    say(
      'note',
      'drops-large',
      `The diodes’ drops take ${percent(drops[0])} of the output here and ${percent(drops[1])} at full drive: scale by what is expected at each tap, not by the voltages of the drive.`,
      'A reading that fits here shows that drops are as they were taken to be.',
    );
  const { averageAmps, leakageAmps, series } = design.ladder.diode;
  if (source.kind === 'winding') {
    const peak = amplitudeVolts(test.drive);
    if (averageAmps !== null && peak > averageAmps * source.ohms) {
      const limiting = preferredAtLeast(12, peak / averageAmps);
      say(
        'note',
        'nothing-limits',
        `A diode the wrong way round, or a short, would draw ${source.ohms > 0 ? `up to ${formatQuantity(peak / source.ohms, 'A', 2)} peak` : 'whatever the winding gives'}, over the diodes’ ${formatQuantity(averageAmps, 'A')}.`,
        `${formatQuantity(limiting, 'Ω')} in series with the winding keep it under that; count them in above. While a short lasts they take ${formatQuantity(source.rmsVolts ** 2 / limiting, 'W', 2)}. A slow fuse there saves the winding, no diode.`,
      );
    }
  }
  if (leakageAmps > 0)
    say(
      'note',
      'leakage-unproved',
      `Diodes are said to leak ${formatQuantity(leakageAmps, 'A')}${series > 1 ? ' each' : ''} at their rated voltage: at this one they leak next to nothing.`,
      'What leaks, what arcs over and what heats shows at the steps up only.',
    );
  return found;
}
