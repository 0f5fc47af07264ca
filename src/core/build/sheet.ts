import type { StepUp } from '../bench/steps-up';
import type { DeadPlan } from '../dead/plan';
import type { Design } from '../design/design-schema';
import { DRIVER_KINDS } from '../drive/driver-kinds';
import { isMirrored } from '../operating/ladder-inputs';
import type { Prediction } from '../predict/prediction';
import { formatPlain, formatQuantity } from '../quantity/format-quantity';
import { signedVolts } from '../quantity/polarity';
import { sentence } from '../quantity/sentence';
import type { Unit } from '../quantity/units';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { benchOf, calculateSecondary } from '../winding/bench';
import { SOURCES } from './distances';
import type { Insulation, NodeInsulation } from './insulation';
import type { Layout } from './layout';
import { nodeName } from './node-name';
import type { PartsList } from './parts-list';

/** What a sheet is made of, in words: a page and a text file read the same. */
export type Block =
  | { kind: 'text'; text: string; isWarning?: true }
  | { kind: 'table'; label: string; head: readonly Head[]; rows: readonly Row[] }
  /** Things to do in their turn, each with an id of its own. */
  | { kind: 'steps'; label: string; steps: readonly { id: string; title: string; text: string }[] }
  | { kind: 'layout' }
  | { kind: 'wiring' };
type Head = { name: string; isNumber?: true };
/** `isMarked`: that one should look at it. */
type Row = { cells: readonly string[]; isMarked?: boolean };

export type SheetSection = { id: string; title: string; blocks: readonly Block[] };

/** All that a sheet is made from; null for what is not known yet, or not to be had. */
export type SheetInputs = {
  design: Design;
  prediction: Prediction;
  insulation: Insulation | null;
  layout: Layout | null;
  /** Whether there is a diagram of it. */
  hasWiring: boolean;
  parts: PartsList;
  steps: readonly StepUp[];
  dead: DeadPlan | null;
};

const NONE = '–';
const say = (value: number | null | undefined, unit: Unit, digits = 3): string =>
  value === null || value === undefined ? NONE : formatQuantity(value, unit, digits);
const heads = (...names: readonly string[]): Head[] =>
  names.map((name) => (name.endsWith('#') ? { name: name.slice(0, -1), isNumber: true } : { name }));

/** The usual cautions, once (common practice, no source). */
const CAUTIONS = [
  'This work can kill. A ladder holds its charge after the supply is off, and some of it comes back after a short.',
  'It is not dead until you have measured it: every node and every capacitor, with a meter that takes the voltage.',
  'Figures here are predictions from what was entered, no guarantee. Local codes and licensed practice come first.',
];

/** A design as a document to build from: what to have, what to keep apart, in which order, what to see at each step. */
export function sheetOf(inputs: SheetInputs): SheetSection[] {
  const sections: (SheetSection | null)[] = [
    { id: 'cautions', title: 'Cautions', blocks: CAUTIONS.map((text) => ({ kind: 'text', text })) },
    inShort(inputs),
    partsSection(inputs.parts),
    windingSection(inputs),
    insulationSection(inputs),
    layoutSection(inputs),
    inputs.hasWiring ? { id: 'wiring', title: 'Wiring', blocks: [{ kind: 'wiring' }] } : null,
    assemblySection(inputs),
    checksSection(inputs),
    powerUpSection(inputs),
    deadSection(inputs),
  ];
  return sections.filter((section) => section !== null);
}

function inShort({ design, prediction }: SheetInputs): SheetSection {
  const { output, input } = prediction;
  const signed = (volts: number | null) => (volts === null ? NONE : say(signedVolts(volts, output.polarity), 'V'));
  const kind = TOPOLOGY_KINDS[design.ladder.topology];
  const rows: Row[] = [
    ...(design.target
      ? [{ cells: ['Target', `${signed(design.target.volts)} at ${say(design.target.amps, 'A')}`] }]
      : []),
    {
      cells: [
        'Ladder',
        `${kind.name}, ${prediction.capacitors.length} capacitors and ${prediction.diodes.length} diodes in their places${prediction.terminals.return === 'ground' ? `, ${output.polarity}` : ''}`,
      ],
    },
    {
      cells: [
        'Drive, positive and negative peak',
        `${say(prediction.drive.positivePeakVolts, 'V')} and ${say(prediction.drive.negativePeakVolts, 'V')}, ${say(prediction.drive.frequencyHertz, 'Hz')}`,
      ],
    },
    ...(output.alternating
      ? [{ cells: ['Output, RMS', say(output.alternating.rmsVolts, 'V')] }]
      : [
          { cells: ['Output without load, mean', signed(output.noLoadVolts)] },
          { cells: ['Output at the load, mean', signed(output.meanVolts)] },
          { cells: ['Ripple, peak to peak', say(output.ripplePeakToPeakVolts, 'V')] },
        ]),
    { cells: ['Load current, mean', say(output.amps, 'A')] },
    { cells: ['Power taken', say(input.watts, 'W')] },
    { cells: ['Energy stored without load', say(prediction.energy.joules, 'J')] },
  ];
  const stops = prediction.findings.filter(({ severity }) => severity === 'stop');
  return {
    id: 'design',
    title: 'The design',
    blocks: [
      { kind: 'table', label: 'The design', head: heads('Figure', 'Value'), rows },
      ...stops.map(({ message, advice }): Block => ({
        kind: 'text',
        text: `Not to be built as it is: ${message} ${advice}`,
        isWarning: true,
      })),
    ],
  };
}

function partsSection({ rows, costOfMissing, withoutPrice }: PartsList): SheetSection {
  const isKnown = rows.some(({ free }) => free !== null);
  return {
    id: 'parts',
    title: 'Parts',
    blocks: [
      {
        kind: 'table',
        label: 'Parts',
        head: heads('Part', 'Each', 'Number#', 'How they stand', 'Free in the drawer#', 'Missing#', 'Cost#'),
        rows: rows.map(({ name, each, count, standing, free, missing, cost }) => ({
          cells: [
            name,
            each || NONE,
            String(count),
            standing,
            free === null ? NONE : String(free),
            missing === null ? NONE : String(missing),
            cost === null ? NONE : cost.toFixed(2),
          ],
          ...(missing ? { isMarked: true } : {}),
        })),
      },
      {
        kind: 'text',
        text: isKnown
          ? `What is missing costs ${costOfMissing.toFixed(2)}${withoutPrice > 0 ? `, ${withoutPrice} ${withoutPrice === 1 ? 'line' : 'lines'} without a price left out` : ''}. Wire, boards, terminals, fuse and switch are not in it.`
          : 'None of these is of the drawer: nothing is known of stock or cost. Wire, boards, terminals, fuse and switch are not in it.',
      },
    ],
  };
}

function windingSection({ design, prediction }: SheetInputs): SheetSection | null {
  const { transformer, winding } = design;
  const bench = benchOf(design, prediction);
  if (!transformer) return null;
  const rows: Row[] = [
    { cells: ['Primary', `${transformer.primaryTurns} turns`] },
    { cells: ['Secondary', `${transformer.secondaryTurns} turns`] },
  ];
  if (winding) {
    const { primary, secondary, core } = winding;
    rows.push(
      {
        cells: [
          'Primary wire',
          `${say(primary.wireMetres, 'm')} in diameter, ${primary.strands === 1 ? 'one strand' : `${primary.strands} strands`}`,
        ],
      },
      { cells: ['Secondary wire', `${say(secondary.wireMetres, 'm')} in diameter`] },
      { cells: ['Gap of the core', core.gapMetres === 0 ? 'none' : say(core.gapMetres, 'm')] },
      {
        cells: [
          'Between layers',
          `${say(secondary.insulationMetres, 'm')}, ${secondary.turning === 'same-way' ? 'every layer begun at the same end' : 'layers back and forth'}`,
        ],
      },
    );
    const layers = bench && calculateSecondary(winding, bench).layers;
    if (layers)
      rows.push({
        cells: [
          'Secondary in layers',
          `${layers.layers} in ${secondary.pots === 1 ? 'one pot' : `each of ${secondary.pots} pots`}`,
        ],
      });
  }
  return {
    id: 'winding',
    title: 'Winding',
    blocks: [
      { kind: 'table', label: 'Winding', head: heads('What', 'Figure'), rows },
      ...(winding
        ? []
        : [
            {
              kind: 'text',
              text: 'Nothing is entered at the transformer bench: wire and layers are not known.',
            } as const,
          ]),
    ],
  };
}

function insulationSection({ design: { build }, insulation }: SheetInputs): SheetSection | null {
  if (!insulation) return null;
  const { nodes, parts, highest, advice } = insulation;
  const { medium } = build;
  const bodies = [...new Map(parts.map((part) => [part.kind, part])).keys()].map((kind) =>
    parts.filter((part) => part.kind === kind).reduce((most, part) => (part.volts > most.volts ? part : most)),
  );
  return {
    id: 'insulation',
    title: 'Insulation',
    blocks: [
      {
        kind: 'text',
        text: `Without load, the drive as high as its tolerance lets it be: up to ${say(highest.volts, 'V')} at ${highest.id} against ground. ${medium === 'other' ? '' : `Distances: ${SOURCES[medium]}.`}`,
      },
      {
        kind: 'table',
        label: 'Insulation of nodes',
        head: heads(
          'Node',
          'To ground, peak#',
          'Clearance#',
          'Creepage#',
          'Neighbour',
          'Between, peak#',
          'Clearance#',
          ...(medium === 'air' ? ['Against corona'] : []),
        ),
        rows: nodes.map((node) => ({
          cells: [
            nodeName(node.id),
            say(node.toGroundVolts, 'V'),
            say(node.clearanceMetres, 'm'),
            say(node.creepageMetres, 'm'),
            node.neighbour ? nodeName(node.neighbour.id) : NONE,
            say(node.neighbour?.volts, 'V'),
            say(node.neighbour?.clearanceMetres, 'm'),
            ...(medium === 'air' ? [roundingWords(node)] : []),
          ],
        })),
      },
      {
        kind: 'table',
        label: 'Bodies of parts',
        head: heads('Part with the most across it', 'Across each, peak#', 'Body#', 'Creepage#', 'Clearance#'),
        rows: bodies.map((part) => ({
          cells: [
            part.id,
            say(part.volts, 'V'),
            say(part.bodyMetres, 'm'),
            say(part.creepageMetres, 'm'),
            say(part.clearanceMetres, 'm'),
          ],
        })),
      },
      ...advice.map(({ text }): Block => ({ kind: 'text', text })),
    ],
  };
}

function roundingWords({ rounding }: NodeInsulation): string {
  switch (rounding?.kind) {
    case 'joint':
      return `joint rounded to ${say(rounding.radiusMetres, 'm', 2)} radius`;
    case 'ring':
      return `ring or ball of ${say(rounding.radiusMetres, 'm', 2)} radius`;
    case 'immersed':
      return 'oil or potting';
    default:
      return 'nothing needed';
  }
}

const ARRANGED = {
  opposite: 'the nodes of the columns opposite each other',
  zigzag: 'the columns set off by half a pitch, the diodes in a zigzag',
  boards: 'in a zigzag on boards, one over the other',
  tube: 'in a zigzag along a tube',
} as const;

function layoutSection({ design: { build }, insulation, layout }: SheetInputs): SheetSection | null {
  if (!insulation) return null;
  if (!layout)
    return {
      id: 'layout',
      title: 'Layout',
      blocks: [
        { kind: 'text', text: 'No layout: some distance that it needs has no figure in this medium.', isWarning: true },
      ],
    };
  const {
    spacing,
    enclosure,
    breaches,
    bodies,
    boards,
    mediumKilograms,
    standoffMetres,
    standoffPathMetres,
    tubeMetres,
  } = layout;
  const assumed = (['capacitor', 'diode'] as const).filter((kind) => !bodies.each[kind].isEntered);
  const rows: Row[] = [
    { cells: ['Arrangement', ARRANGED[build.arrangement]] },
    { cells: ['From stage to stage', say(spacing.pitch, 'm')] },
    { cells: ['From column to column', say(spacing.row, 'm')] },
    ...(boards > 1 ? [{ cells: ['Boards, one over the other', `${boards}, ${say(spacing.board, 'm')} apart`] }] : []),
    ...(tubeMetres === null ? [] : [{ cells: ['Inside diameter of the tube', say(tubeMetres, 'm')] }]),
    {
      cells: [
        'Inside of a grounded box around it',
        enclosure
          ? `${say(enclosure.lengthMetres, 'm')} × ${say(enclosure.widthMetres, 'm')} × ${say(enclosure.heightMetres, 'm')}`
          : NONE,
      ],
    },
    {
      cells: [
        'Standoffs under it',
        `${say(standoffMetres, 'm')} high, ${say(standoffPathMetres, 'm')} along their surface`,
      ],
    },
    ...(mediumKilograms === null
      ? []
      : [{ cells: ['To fill that box', `${formatPlain(mediumKilograms, 2)} kg of ${build.medium}`] }]),
    {
      cells: [
        'Bodies',
        `capacitors ${say(bodies.each.capacitor.lengthMetres, 'm')} long and ${say(bodies.each.capacitor.diameterMetres, 'm')} across, diodes ${say(bodies.each.diode.lengthMetres, 'm')} and ${say(bodies.each.diode.diameterMetres, 'm')}`,
      ],
    },
  ];
  return {
    id: 'layout',
    title: 'Layout',
    blocks: [
      { kind: 'table', label: 'Layout', head: heads('What', 'Figure'), rows },
      {
        kind: 'text',
        text:
          build.held === 'surface'
            ? 'Any two bare conductors on one surface are as far apart as the creepage between them asks for, and their clearance besides.'
            : 'Any two bare conductors keep their clearance, nothing but the medium between them: on a board or a wall the way along it must be the creepage as well.',
      },
      ...(assumed.length > 0
        ? [
            {
              kind: 'text',
              text: `The bodies of ${assumed.map((kind) => `the ${kind}s`).join(' and ')} are not entered: the usual size for their ratings is taken. Measure yours.`,
              isWarning: true,
            } as const,
          ]
        : []),
      ...(breaches.length > 0
        ? [
            {
              kind: 'table',
              label: 'Too near',
              head: heads('Between', 'Distance#', 'Needed#'),
              rows: breaches.map(({ between: [one, other], metres, neededMetres }) => ({
                cells:
                  one === other
                    ? [`the ends of ${one}`, `${say(-metres, 'm')} too short`, NONE]
                    : [`${one} and ${other}`, say(Math.max(0, metres), 'm'), say(neededMetres, 'm')],
                isMarked: true,
              })),
            } as const,
          ]
        : []),
      { kind: 'layout' },
    ],
  };
}

/** A diode from its anode to its cathode, which has the band. */
const bandWords = (id: string, anode: string, cathode: string): string =>
  `${id} from ${nodeName(anode)} to ${nodeName(cathode)}, its band at ${nodeName(cathode)}`;

/** Where the ladder's ground goes, by what feeds it: common practice, no source; local codes come first. */
const GROUNDS = {
  secondary:
    'One wire from the ladder’s ground to the low end of the secondary, one from there to the enclosure, both visible and pulled at.',
  line: 'The ladder’s ground is a conductor of the line here: it joins neither earth nor enclosure, nor anything that a hand reaches. The enclosure is earthed by a wire of its own.',
  source:
    'One wire from the ladder’s ground to the low end of the source. On to the enclosure only where that end is measured open to every pin of the plug; the enclosure is earthed by a wire of its own.',
} as const;

/** Order of assembly: common practice, no source. */
function assemblySection({ design, insulation }: SheetInputs): SheetSection {
  const { driver, transformer, output, build } = design;
  const steps: { id: string; title: string; text: string }[] = [];
  const step = (id: string, title: string, text: string) => steps.push({ id, title, text });
  const { firstRun } = DRIVER_KINDS[driver.kind];
  if (firstRun)
    step(
      'driver',
      transformer ? 'Driver and transformer' : 'Driver',
      `Before there is a ladder on it. ${firstRun} Then off, and measured dead.`,
    );
  if (insulation) {
    const { network } = insulation.potentials;
    const isTurned = isMirrored(design, network);
    const stages = [...new Set(network.diodes.map(({ side, stage }) => `${side} ${stage}`))];
    for (const key of stages) {
      const [side, stage] = key.split(' ').map(Number);
      // One inside the transformer is bought with it.
      const own =
        transformer?.rectifierInside && TOPOLOGY_KINDS[design.ladder.topology].takesPulses
          ? []
          : network.diodes.filter((diode) => diode.side === side && diode.stage === stage);
      const capacitors = network.capacitors.filter((part) => part.side === side && part.stage === stage);
      step(
        `stage ${key}`,
        `Stage ${stage}${side < 0 ? ', lower side' : ''}`,
        [
          `${capacitors.map(({ id, lower, upper }) => `${id} from ${nodeName(lower)} to ${nodeName(upper)}`).join('; ')}.`,
          ...(own.length > 0
            ? [
                `${own.map(({ id, anode, cathode }) => bandWords(id, isTurned ? cathode : anode, isTurned ? anode : cathode)).join('; ')}.`,
                'Check each band once more before the next stage.',
              ]
            : ['Its rectifier is inside the transformer.']),
        ].join(' '),
      );
    }
    step(
      'proof',
      'Low-voltage test',
      'Before any insulation: every tap by the plan of the Bench page. A wrong diode is found now or never.',
    );
  }
  if (output.seriesOhms > 0 || output.bleederOhms !== null || output.divider || output.smoothing.length > 0)
    step(
      'output',
      'Behind the terminal',
      sentence(
        [
          ...(output.smoothing.length > 0
            ? [
                `${output.smoothing.length} smoothing ${output.smoothing.length === 1 ? 'section' : 'sections'} from the terminal on`,
              ]
            : []),
          ...(output.divider ? [`the divider, its foot to ground by a wire of its own`] : []),
          ...(output.bleederOhms === null ? [] : [`the bleeder, ${say(output.bleederOhms, 'Ω')}, across the terminal`]),
          ...(output.seriesOhms > 0 ? [`the series string, ${say(output.seriesOhms, 'Ω')}, to the load`] : []),
        ]
          .join('; ')
          .concat('.'),
      ),
    );
  const { floats } = TOPOLOGY_KINDS[design.ladder.topology];
  step(
    'ground',
    'Ground',
    floats
      ? 'Neither end of the winding joins core, ground or shield: measured open to all. One wire from the end of the ladder that is earthed to the enclosure, visible and pulled at; where neither is, the enclosure alone is earthed.'
      : GROUNDS[
          transformer || driver.kind === 'mains' ? 'secondary' : driver.kind === 'direct-mains' ? 'line' : 'source'
        ],
  );
  step(
    'insulation',
    'Insulation last',
    build.medium === 'air'
      ? 'Flux washed off, ends cut and rounded, distances measured against the table, the enclosure closed.'
      : `Once the low-voltage test reads right: into ${build.medium === 'other' ? 'the medium' : build.medium}, no bubble left, then the same test again.`,
  );
  return { id: 'assembly', title: 'Assembly', blocks: [{ kind: 'steps', label: 'Assembly', steps }] };
}

function checksSection({ prediction }: SheetInputs): SheetSection {
  return {
    id: 'checks',
    title: 'Checks before power',
    blocks: [
      {
        kind: 'steps',
        label: 'Checks before power',
        steps: prediction.beforePower.map(({ code, text }) => ({ id: code, title: '', text })),
      },
    ],
  };
}

function powerUpSection({ steps }: SheetInputs): SheetSection {
  const rows = steps.map(({ fraction, outputVolts, supplyAmps, stopAmps, shown, refused, stops }): Row => ({
    cells: [
      formatQuantity(fraction, '%'),
      say(outputVolts, 'V'),
      shown ? `${say(shown.value, 'V')}, ${say(shown.low, 'V')} to ${say(shown.high, 'V')}` : (refused ?? NONE),
      say(supplyAmps, 'A'),
      say(stopAmps, 'A'),
    ],
    ...(stops.length > 0 ? { isMarked: true } : {}),
  }));
  return {
    id: 'power-up',
    title: 'Power up in steps',
    blocks: [
      {
        kind: 'text',
        text: 'At the design’s load, by the closed form. A step is over when what is read is in its band and the supply draws what it should; otherwise off, made dead, and found out why.',
      },
      {
        kind: 'table',
        label: 'Power up in steps',
        head: heads('Of full drive#', 'Output, mean#', 'Your meter shows', 'Supply draws#', 'Off at more than#'),
        rows,
      },
    ],
  };
}

function deadSection({ dead }: SheetInputs): SheetSection {
  return {
    id: 'dead',
    title: 'Power down and make it dead',
    blocks: dead
      ? [
          {
            kind: 'text',
            text: `Stick: ${say(dead.stick.ohms, 'Ω')}, begins at ${say(dead.stick.volts, 'V')} and takes up to ${say(dead.stick.joules, 'J')}${dead.stick.count > 1 ? `; ${dead.stick.count} ordinary resistors in series` : ''}. A plan is no measurement: it is dead where you have measured it, and nowhere else.`,
          },
          {
            kind: 'steps',
            label: 'Make it dead',
            steps: dead.steps.map(({ id, title, text, seconds, reading }) => ({
              id,
              title,
              text: `${seconds === null ? '' : `For ${say(seconds, 's', 2)} at least. `}${text}${reading ? ` Read ${reading.where}: under ${say(reading.underVolts, 'V')} to go on. ${reading.meter}` : ''}`,
            })),
          },
        ]
      : [{ kind: 'text', text: 'The plan is still computed, or there is none: the page “Make it dead” says why.' }],
  };
}
