import type { Design } from '../design/design-schema';
import { DRIVE_FIGURES } from '../drive/figures';
import { FIGURES, shownFigure, type FigureId } from '../predict/figures';
import { isMirrored, ladderInputs } from '../operating/ladder-inputs';
import type { Prediction } from '../predict/prediction';
import { buildWords } from '../predict/shelf-row';
import { TARGET_FORM_NAMES } from '../predict/target';
import type { Counting } from '../quantity/counting';
import { SEVERITY_NAMES, SEVERITY_ORDER, type Finding } from '../quantity/finding';
import { fitOf } from '../quantity/margin';
import { signedVolts } from '../quantity/polarity';
import { CONDITIONS, formatSubject, ratingKind } from '../quantity/ratings';
import { nodeName } from './node-name';
import { heads, say, type Block, type SheetSection } from './sections/blocks';

/** How far the figures of the ladder can be trusted. */
const VALIDITY_WORDS: Record<Prediction['output']['validity'], string | null> = {
  good: null,
  rough: 'The mean is rough here: the closed form is near where it ends. The time domain stands beside it on screen.',
  beyond: 'The closed form does not hold at this load and gives no figure: see the time domain on screen.',
};

/**
 * Everything that a prediction says of a design, in words: what it is, every figure there is, nodes, parts, margins case
 * by case, findings and what to check before power.
 */
export function reportOf(design: Design, prediction: Prediction, counting: Counting): SheetSection[] {
  return [
    designSection(design, prediction, counting),
    figuresSection(prediction),
    nodesSection(prediction),
    partsSection(design, prediction),
    marginsSection(prediction),
    findingsSection(prediction.findings),
    {
      id: 'before-power',
      title: 'Before power',
      blocks: [
        {
          kind: 'steps' as const,
          label: 'Before power',
          steps: prediction.beforePower.map(({ code, text }) => ({ id: code, title: '', text })),
        },
        {
          kind: 'text' as const,
          text: 'Predictions from what was entered, no guarantee. It is not dead until you have measured it.',
        },
      ],
    },
  ].filter(({ blocks }) => blocks.length > 0);
}

function designSection(
  { target, notes, driver, ladder }: Design,
  { output }: Prediction,
  counting: Counting,
): SheetSection {
  const { topology, stages } = ladder;
  const lines = [
    buildWords({ driver: driver.kind, topology, stages }, counting),
    ...(target
      ? [
          `Target: ${say(signedVolts(target.volts, output.polarity), 'V')}, ${TARGET_FORM_NAMES[target.of].toLowerCase()}, at ${say(target.amps, 'A')}${target.ripplePeakToPeakFraction === null ? '' : `, ripple under ${say(target.ripplePeakToPeakFraction, '%')} of the mean, peak to peak`}.`,
        ]
      : ['No target is set.']),
    ...notes.split(/\n+/).filter((line) => line.trim() !== ''),
  ];
  return { id: 'design', title: 'The design', blocks: lines.map((text) => ({ kind: 'text', text })) };
}

function figuresSection(prediction: Prediction): SheetSection {
  const table = (label: string, isWanted: (id: FigureId) => boolean): Block[] => {
    const rows = (Object.keys(FIGURES) as FigureId[]).filter(isWanted).flatMap((id) => {
      const value = shownFigure(id, prediction);
      return value === null ? [] : [{ cells: [FIGURES[id].label, say(value, FIGURES[id].unit, 4)] }];
    });
    return rows.length > 0 ? [{ kind: 'table', label, head: heads(label, 'Value#'), rows }] : [];
  };
  const rough = VALIDITY_WORDS[prediction.output.validity];
  return {
    id: 'figures',
    title: 'Figures',
    blocks: [
      ...table('Ladder and output', (id) => !(id in DRIVE_FIGURES)),
      ...table('Supply, driver and winding', (id) => id in DRIVE_FIGURES),
      ...(rough ? [{ kind: 'text', text: rough, isWarning: true } as const] : []),
    ],
  };
}

function nodesSection({ nodes, output }: Prediction): SheetSection {
  const signed = (volts: number | null) => say(volts === null ? null : signedVolts(volts, output.polarity), 'V');
  const rows = nodes.map(({ id, noLoadVolts, meanVolts, minVolts, maxVolts }) => ({
    cells: [nodeName(id), signed(noLoadVolts), signed(meanVolts), signed(minVolts), signed(maxVolts)],
  }));
  const head = heads('Node', 'No load, mean#', 'At the load, mean#', 'swings from#', 'to#');
  return {
    id: 'nodes',
    title: 'Against ground',
    blocks: rows.length > 0 ? [{ kind: 'table', label: 'Nodes', head, rows }] : [],
  };
}

function partsSection(design: Design, { capacitors, diodes }: Prediction): SheetSection {
  // The prediction has magnitudes: of a negative ladder every diode stands the other way round.
  const isTurned = isMirrored(design, ladderInputs(design).marked);
  const ofCapacitors = capacitors.map((one) => ({
    cells: [
      one.id,
      say(one.farads, 'F'),
      say(one.workingVolts, 'V'),
      say(one.ratedVolts, 'V'),
      say(one.ripplePeakToPeakVolts, 'V'),
      say(one.rmsAmps, 'A'),
    ],
  }));
  const ofDiodes = diodes.map((one) => ({
    cells: [
      one.id,
      `${nodeName(isTurned ? one.cathode : one.anode)} to ${nodeName(isTurned ? one.anode : one.cathode)}`,
      say(one.reverseVolts, 'V'),
      say(one.ratedVolts, 'V'),
      say(one.averageAmps, 'A'),
      say(one.watts, 'W'),
    ],
  }));
  return {
    id: 'parts',
    title: 'Parts',
    blocks: [
      ...(ofCapacitors.length > 0
        ? [
            {
              kind: 'table' as const,
              label: 'Capacitors',
              head: heads('Capacitor', 'Each#', 'Without load#', 'Rated#', 'Ripple, peak to peak#', 'Current, RMS#'),
              rows: ofCapacitors,
            },
          ]
        : []),
      ...(ofDiodes.length > 0
        ? [
            {
              kind: 'table' as const,
              label: 'Diodes',
              head: heads('Diode', 'Anode to cathode', 'Peak inverse#', 'Rated#', 'Current, mean#', 'Heat#'),
              rows: ofDiodes,
            },
          ]
        : []),
    ],
  };
}

function marginsSection({ margins }: Prediction): SheetSection {
  const rows = margins.map(({ id, part, condition, stress, rated, margin }) => {
    const { rating, unit } = ratingKind(id);
    const fit = fitOf(margin);
    return {
      cells: [
        `${formatSubject({ id, part })}, ${rating}`,
        CONDITIONS[condition],
        say(stress, unit),
        say(rated, unit),
        say(margin, '%', 2),
        fit,
      ],
      isMarked: fit === 'over',
    };
  });
  const head = heads('What', 'When', 'Works at#', 'Rated#', 'Margin#', '');
  return {
    id: 'margins',
    title: 'Margins',
    blocks: rows.length > 0 ? [{ kind: 'table', label: 'Margins', head, rows }] : [],
  };
}

function findingsSection(findings: readonly Finding[]): SheetSection {
  const gravest = findings.toSorted((one, other) => SEVERITY_ORDER[one.severity] - SEVERITY_ORDER[other.severity]);
  return {
    id: 'findings',
    title: 'Findings',
    blocks: gravest.map(({ severity, message, advice, where }) => ({
      kind: 'text',
      text: `${SEVERITY_NAMES[severity]}: ${message} ${advice}${where.startsWith('$') ? '' : ` (${where})`}`,
    })),
  };
}
