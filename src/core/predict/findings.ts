import { acrossOhms } from '../output/elements';
import type { Design } from '../design/design-schema';
import { dividerFindings } from './divider-findings';
import { electrodeFindings } from './electrode-findings';
import { smoothingFindings } from './smoothing-findings';
import { hasFastEdges, isSilent, wattsAtScale, type Drive } from '../drive/drive';
import { isReactive } from '../ladder/reactive-droop';
import { formatQuantity } from '../quantity/format-quantity';
import { SEVERITY_ORDER, type Finding } from '../quantity/finding';
import { steadyAmpsOf } from '../load/load-kinds';
import { isStarved } from '../operating/ladder-inputs';
import type { Polarity } from '../quantity/polarity';
import { inParts, partsOf, TOPOLOGY_KINDS } from '../topology/topologies';
import { closedFormReach } from './curves';
import { highestOf } from './reached';
import { inAPlace, type Prediction } from './prediction';
import { ratingFindings } from '../stress/rating-findings';
import { unitSlip } from './unit-slip';

/** One thing that a design may be found to be wrong in. */
type Check = (design: Design, prediction: Prediction) => Finding[];

const LARGE_DROOP_FRACTION = 0.3;
/** Fraction of the drive's peaks from which a fall is worth a word. */
const ENOUGH_SCALE = 0.98;

/** What is wrong or worth knowing about a design, gravest first. Each says where, what and what to do. */
export function findingsOf(design: Design, prediction: Prediction, ofSource: readonly Finding[]): Finding[] {
  return [...ofSource, ...CHECKS.flatMap((check) => check(design, prediction))].sort(
    (a, b) => SEVERITY_ORDER[a.severity] - SEVERITY_ORDER[b.severity],
  );
}

const rectifierInside: Check = ({ transformer, ladder }, { drive, output }) => {
  if (!isStarved(transformer, ladder.topology)) return [];
  const peak = formatQuantity(polarityPeak(output.polarity, drive), 'V');
  return [
    {
      code: 'rectifier-inside',
      severity: 'stop',
      where: '$.transformer.rectifierInside',
      message: output.alternating
        ? `The transformer has a rectifier inside: its lead never alternates, but hands on pulses of one polarity up to ${peak}.`
        : `The transformer has a rectifier inside: it hands on pulses of one polarity, the coupling capacitors charge once and pass nothing more. What is there to be had is its own peak, ${peak}, straight from its lead.`,
      advice: 'Use a transformer without a built-in diode, or the rectified output alone, without a ladder.',
      change: { label: 'Rectifier alone', path: '$.ladder.topology', value: 'rectifier' },
    },
  ];
};

const polarityPeak = (polarity: Polarity, { positivePeakVolts, negativePeakVolts }: Drive) =>
  polarity === 'negative' ? negativePeakVolts : positivePeakVolts;

const noOutput: Check = (design, prediction) =>
  prediction.output.alternating !== null ||
  prediction.output.noLoadVolts > 0 ||
  isSilent(prediction.drive) ||
  isStarved(design.transformer, design.ladder.topology)
    ? []
    : [
        {
          code: 'no-output',
          severity: 'stop',
          where: '$.ladder.diode.forwardVolts',
          message: `The diodes drop ${formatQuantity(design.ladder.diode.forwardVolts, 'V')} each, as much as the drive's peak: nothing climbs.`,
          advice: 'Use diodes with less forward drop or a higher drive.',
        },
      ];

const capacitorSlip: Check = (design, prediction) => {
  if (prediction.capacitors.length === 0) return [];
  const { farads, ratedVolts } = design.ladder.capacitor;
  const slip = unitSlip(farads, ratedVolts ?? Math.max(...prediction.capacitors.map((part) => part.workingVolts)));
  if (!slip) return [];
  const likely = formatQuantity(slip.likelyFarads, 'F');
  return [
    {
      code: 'unit-slip',
      severity: 'warn',
      where: '$.ladder.capacitor.farads',
      message: `${slip.reason}.`,
      advice: `If ${likely} was meant, correct it.`,
      change: { label: `Use ${likely}`, path: '$.ladder.capacitor.farads', value: slip.likelyFarads },
    },
  ];
};

const outOfReach: Check = (design, { output, source, drive, coefficients }) => {
  // A drive that cannot carry the load, or runs in bursts, is said by itself.
  if (output.validity !== 'beyond' || source.driveScale < 1 || drive.burst) return [];
  if (output.alternating) return [alternatingUnknown(design, drive)];
  // Smoothing that takes too much says so by itself.
  if (output.noLoadVolts === 0 || output.smoothedValidity === 'beyond') return [];
  if (drive.seriesFarads !== null) return [seriesCapacitor(coefficients, '$.driver.seriesFarads')];
  if (output.closedFormAmps === 0)
    return [
      {
        code: 'capacitors-too-unlike',
        severity: 'warn',
        where: '$.ladder.capacitorFarads',
        message:
          'The strays across the diodes are so large beside the capacitors, or the capacitors so unlike, that charge bookkeeping has no answer: the closed form gives no loaded output.',
        advice: 'Look whether a value is meant in another unit; the time domain has figures for it as it is.',
      },
    ];
  const limit = output.chargeLimitAmps;
  if (design.load.kind === 'current' && limit !== null && design.load.amps > limit)
    return [
      {
        code: 'current-out-of-reach',
        severity: 'stop',
        where: '$.load.amps',
        message: `The ladder can never give ${formatQuantity(design.load.amps, 'A')}: its first coupling capacitor passes at most ${formatQuantity(limit, 'A')} to the output, even into a short.`,
        advice: 'Draw less, use larger capacitors, a higher frequency or fewer stages.',
      },
      closedFormFails(design),
    ];
  return [isReactive(drive) ? reactanceRules(design) : closedFormFails(design)];
};

/** Why there is no RMS of an output that alternates. */
function alternatingUnknown({ load }: Design, drive: Drive): Finding {
  const where = '$.load';
  if (drive.rough)
    return {
      code: 'waveform-unknown',
      severity: 'note',
      where: '$.driver',
      message:
        'Of pulses and rings the closed form knows the height without load, not the form, and so no RMS and no output at a load. The time domain has them.',
      advice: 'Look at the time-domain figures.',
    };
  if (steadyAmpsOf(load) !== null)
    return {
      code: 'current-out-of-reach',
      severity: 'stop',
      where: '$.load.amps',
      message: 'Not even a short draws that much current through the source and what stands in series with it.',
      advice: 'Draw less, or use a stiffer source.',
    };
  return {
    code: 'load-not-resistive',
    severity: 'note',
    where,
    message:
      'On alternating voltage such a load draws about the peaks alone, which the closed form has no figure for. The time domain does.',
    advice: 'Look at the time-domain figures.',
  };
}

/** What a capacitor in series with the winding leaves of a ladder: a question for the time domain, or nothing. */
function seriesCapacitor({ pulses }: Prediction['coefficients'], where: string): Finding {
  // What the winding gives more of at one peak than at the other is direct current.
  if (Math.abs(pulses.positive - pulses.negative) > 1e-6)
    return {
      code: 'series-capacitor-blocks',
      severity: 'stop',
      where,
      message:
        'This ladder takes direct current from the winding, which a capacitor in series does not pass: it charges once, and then nothing arrives.',
      advice: 'Leave the capacitor out, or use a ladder of whole stages, whose coupling capacitor is in series anyway.',
    };
  return {
    code: 'series-capacitor',
    severity: 'note',
    where,
    message:
      'Through a capacitor in series the closed form has no loaded output: the capacitor’s and the transformer’s reactance and the ladder decide together what arrives. The time domain has it.',
    advice: 'Look at the time-domain figures.',
  };
}

function reactanceRules(design: Design): Finding {
  return {
    code: 'reactance-rules',
    severity: 'warn',
    where: '$.load',
    message: `At this load the source’s reactance and the ladder’s capacitors decide together what arrives, more than the closed form can say; the time domain has figures.${reachOf(design)}`,
    advice: 'Look at the time-domain figures.',
  };
}

/** How far the closed form has an output, a sentence; nothing where it has none and no bleeder explains that. */
function reachOf(design: Design): string {
  const reach = closedFormReach(design);
  if (reach > 0) return ` With what the drive gives the closed form has an output up to ${formatQuantity(reach, 'A')}.`;
  return acrossOhms(design.output) === Infinity
    ? ''
    : ' What stands across the terminal takes it there alone, without any load.';
}

function closedFormFails(design: Design): Finding {
  return {
    code: 'closed-form-fails',
    severity: 'stop',
    where: '$.load',
    message: `The load takes the ladder past two thirds droop, where the closed form does not hold.${reachOf(design)}`,
    advice: 'Draw less, use larger capacitors, a higher frequency, a stiffer drive or fewer stages.',
  };
}

const largeDroop: Check = (_design, { output }) =>
  output.droopFraction === null || output.droopFraction <= LARGE_DROOP_FRACTION
    ? []
    : [
        {
          code: 'droop-large',
          severity: 'warn',
          where: '$.load',
          message: `Droop takes ${formatQuantity(output.droopFraction, '%')} of the no-load voltage. Past 30 % the closed form loses accuracy and the output depends strongly on every part.`,
          advice: 'Draw less, use larger capacitors, a higher frequency or a stiffer drive.',
        },
      ];

const pastOptimum: Check = (design, { optimumStages, places }) => {
  if (optimumStages === null || Math.ceil(design.ladder.stages) <= optimumStages) return [];
  const parts = partsOf(design.ladder.topology, optimumStages, inAPlace(places));
  return [
    {
      code: 'stages-past-optimum',
      severity: 'warn',
      where: '$.ladder.stages',
      message: `The ladder is longer than the one of ${inParts(parts)} that gives most output into this load: what is added costs more droop than it gains.`,
      advice: 'Make it that long or shorter, or use larger capacitors.',
      change: { label: `Shorten it to ${parts.diodes} diodes`, path: '$.ladder.stages', value: optimumStages },
    },
  ];
};

function cannotCarry(design: Design, where: string): Finding {
  return {
    code: 'drive-cannot-carry',
    severity: 'stop',
    where,
    message: `The load asks more than the drive can give at any voltage that the closed form knows.${reachOf(design)}`,
    advice: 'Draw less or use a stronger drive.',
  };
}

/** Fraction of a pulse's height under which its fall is more than a note. */
const MUCH_FALLEN = 0.5;

const driveLimits: Check = (design, { source, drive, output, input }) => {
  if (source.driveScale > ENOUGH_SCALE) return [];
  const where = drive.supply ? '$.supply' : '$.driver';
  if (output.meanVolts === null) return [cannotCarry(design, where)];
  const left = wattsAtScale(drive, source.driveScale);
  const byPower = left !== null && input.watts !== null && input.watts > 0.999 * left;
  if (drive.chargingLossWatts > 0 || (drive.lift !== null && byPower)) {
    const lifted = drive.lift !== null && source.driveScale > drive.lift.from;
    const fallen = lifted
      ? 'The top of each peak is leakage ringing on above what the driver holds, which gives little:'
      : 'Each pulse’s energy is shared between the capacitance at the ladder’s input and what the ladder takes:';
    return [
      {
        code: 'drive-pulse-falls',
        severity: source.driveScale < MUCH_FALLEN && !lifted ? 'warn' : 'note',
        where,
        message: `${fallen} at this load it climbs to ${formatQuantity(source.driveScale, '%', 3)} of its height, which takes ${formatQuantity(output.droopByDriveVolts!, 'V')} off the output.`,
        advice: lifted
          ? 'Draw less; rate the parts for no load all the same.'
          : 'Draw less, or put more energy into each pulse.',
      },
    ];
  }
  const byCurrent = drive.maxAmps !== null && input.amps !== null && input.amps > 0.999 * drive.maxAmps;
  const limit = byPower
    ? `gives ${formatQuantity(left!, 'W')}`
    : byCurrent
      ? `gives ${formatQuantity(drive.maxAmps!, 'A')} RMS`
      : 'is fed by a supply that sags or is at its limit';
  return [
    {
      code: byPower ? 'drive-over-power' : byCurrent ? 'drive-over-current' : 'supply-sags',
      severity: 'warn',
      where: byPower ? '$.driver' : byCurrent ? '$.driver.maxAmps' : where,
      message: `The drive ${limit}: at this load its peaks fall to ${formatQuantity(source.driveScale, '%', 3)}, which takes ${formatQuantity(output.droopByDriveVolts!, 'V')} off the output.`,
      advice: 'Draw less or use a stronger drive.',
    },
  ];
};

const targetNotTried: Check = (design, { target, output }) =>
  !target || target.ampsMet || output.amps === null
    ? []
    : [
        {
          code: 'load-under-target',
          severity: 'note',
          where: '$.load',
          message: `The load draws ${formatQuantity(output.amps, 'A')}, less than the target's ${formatQuantity(design.target!.amps, 'A')}: the target is not tried.`,
          advice: `Set the load to a current of ${formatQuantity(design.target!.amps, 'A')}.`,
        },
      ];

const noBleeder: Check = (design, { output }) =>
  design.output.bleederOhms !== null || output.noLoadVolts === 0
    ? []
    : [
        {
          code: 'no-bleeder',
          severity: 'note',
          where: '$.output.bleederOhms',
          message: 'Without a bleeder nothing is sure to discharge the ladder; it can hold its voltage for hours.',
          advice: 'Add a bleeder, discharge through a resistor rated for the voltage, then measure each capacitor.',
        },
      ];

const arcStays = (quenchAmps: number, seriesOhms: number): Finding => ({
  code: 'arc-stays',
  severity: 'warn',
  where: '$.load.quenchAmps',
  message: `Once lit the arc does not go out of itself: ${seriesOhms > 0 ? 'through the series resistor' : 'with no series resistor'} the output starts with more than the ${formatQuantity(quenchAmps, 'A')} under which it would, and it burns until the ladder is drained.`,
  advice: 'For sparks one after another make the series resistor larger; for an arc that stays, smaller.',
});

const gapStrikes: Check = (design, { output, sparks }) => {
  if (!sparks || design.load.kind !== 'gap') return [];
  const highest = highestOf(output);
  return [
    {
      code: 'gap-strikes',
      severity: 'warn',
      where: '$.load.strikeVolts',
      message: `The output climbs to ${formatQuantity(highest, 'V')} and the gap strikes at ${formatQuantity(design.load.strikeVolts, 'V')}: it will fire over and over, and these figures are those before it strikes.`,
      advice: 'Put a series resistor in front of a gap that is to fire, and see Charge-up for how often it does.',
    },
    ...(sparks.goesOut ? [] : [arcStays(design.load.quenchAmps, design.output.seriesOhms)]),
  ];
};

const leakageInductance: Check = (_design, { drive }) =>
  drive.seriesHenries > 0 && hasFastEdges(drive) && drive.lift === null
    ? [
        {
          code: 'leakage-inductance-left-out',
          severity: 'warn',
          where: '$.driver',
          message:
            'Behind a square, leakage inductance rings with strays and capacitors: without damping it carries every step towards twice its height, and every voltage of the ladder with it. The closed form leaves it out; the time domain has it in.',
          advice: 'Trust the time-domain figures here, for what parts must stand as well.',
        },
      ]
    : [];

/** Share of the ideal output from which what strays take is more than a detail. */
const MUCH_STRAYED = 0.1;

const straysLarge: Check = (design, { output, places }) => {
  const lost = output.lostToStraysVolts / output.idealNoLoadVolts;
  if (!(output.idealNoLoadVolts > 0 && lost > MUCH_STRAYED)) return [];
  const each = design.ladder.strayFarads + places.diode.junctionFarads;
  return [
    {
      code: 'strays-large',
      severity: 'warn',
      where:
        places.diode.junctionFarads > design.ladder.strayFarads
          ? '$.ladder.diode.junctionFarads'
          : '$.ladder.strayFarads',
      message: `Strays of ${formatQuantity(each, 'F', 2)} across each diode take ${formatQuantity(lost, '%', 2)} of the output before anything is drawn. They are seldom known within a factor of two, and the output with them no better: see its tolerance.`,
      advice:
        'Use larger capacitors, or diodes of less capacitance; measure the output without load through a probe that takes next to nothing.',
    },
  ];
};

const roughDrive: Check = (_design, { drive, output }) => {
  if (drive.rough)
    return [
      {
        code: 'drive-rough',
        severity: 'note',
        where: '$.driver',
        message:
          'The closed form takes each pulse of this driver for itself and leaves out what rings on into the next: against whole circuits a flyback’s output lies within 8 % as a rule, an inverter’s behind leakage within 10 %, a blocking oscillator’s within 12 %; at worst a third off, more under heavy loads; others are known no better.',
        advice:
          'Trust the time domain where it runs the driver as a circuit, or measure the waveform at the ladder’s input.',
      },
    ];
  if (output.validity === 'rough' && isReactive(drive) && (output.droopFraction ?? 0) <= LARGE_DROOP_FRACTION)
    return [
      {
        code: 'reactance-rough',
        severity: 'note',
        where: '$.driver',
        message:
          'The source’s reactance shapes the charging so strongly that these figures may be some per cent off; the time domain follows it.',
        advice: 'Trust the time-domain figures here.',
      },
    ];
  return [];
};

const windingFloats: Check = (design, { nodes, terminals, drive, output }) => {
  if (!TOPOLOGY_KINDS[design.ladder.topology].floats || output.noLoadVolts === 0) return [];
  const standing = [terminals.output, terminals.return].map((id) =>
    Math.abs(nodes.find((node) => node.id === id)!.noLoadVolts),
  );
  const volts = Math.max(...standing) + Math.max(drive.positivePeakVolts, drive.negativePeakVolts);
  return [
    {
      code: 'winding-floats',
      severity: 'note',
      where: '$.ladder.topology',
      message: `With one terminal earthed the whole winding stands at up to ${formatQuantity(volts, 'V')} peak against ground, and its insulation to core and primary must carry that; with neither earthed, leakage alone decides what stands where.`,
      advice: 'Use a winding whose both ends are insulated for it: many have one end joined to the core.',
    },
  ];
};

const CHECKS: readonly Check[] = [
  windingFloats,
  straysLarge,
  roughDrive,
  rectifierInside,
  noOutput,
  gapStrikes,
  ratingFindings,
  outOfReach,
  driveLimits,
  capacitorSlip,
  largeDroop,
  pastOptimum,
  leakageInductance,
  targetNotTried,
  noBleeder,
  dividerFindings,
  electrodeFindings,
  smoothingFindings,
];
