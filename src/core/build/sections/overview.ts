import type { Prediction } from '../../predict/prediction';
import type { Design } from '../../design/design-schema';
import { signedVolts } from '../../quantity/polarity';
import { TOPOLOGY_KINDS } from '../../topology/topologies';
import { benchOf, calculateSecondary } from '../../winding/bench';
import type { SecondaryLayers } from '../../winding/secondary-plan';
import type { PartsList } from '../parts-list';
import { type Block, type Row, type SheetSection, type SheetInputs, NONE, say, heads } from './blocks';

export function inShort({ design, prediction }: SheetInputs): SheetSection {
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

export function partsSection({ rows, spares, costOfMissing, withoutPrice }: PartsList): SheetSection {
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
      ...(spares.length > 0
        ? [
            {
              kind: 'text',
              text: `Spares besides, one in ten: ${spares.map(({ name, count }) => `${count} ${count === 1 ? name.toLowerCase().replace(/s$/, '') : name.toLowerCase()}`).join(' and ')} (common practice, no source).`,
            } as const,
          ]
        : []),
      {
        kind: 'text',
        text: isKnown
          ? `What is missing costs ${costOfMissing.toFixed(2)}${withoutPrice > 0 ? `, ${withoutPrice} ${withoutPrice === 1 ? 'line' : 'lines'} without a price left out` : ''}. Wire, boards, terminals, fuse and switch are not in it.`
          : 'None of these is of the drawer: nothing is known of stock or cost. Wire, boards, terminals, fuse and switch are not in it.',
      },
    ],
  };
}

/** A secondary in its pots and layers, as it is drawn. */
export type WoundSecondary = {
  layers: SecondaryLayers;
  pots: number;
  peakVolts: number;
  turning: 'back-and-forth' | 'same-way';
};

/** The secondary of a design in layers; null where too little of it is known. */
export function woundSecondary(design: Design, prediction: Prediction): WoundSecondary | null {
  const { winding } = design;
  const bench = benchOf(design, prediction);
  const layers = winding && bench && calculateSecondary(winding, bench).layers;
  if (!layers) return null;
  const { pots, turning } = winding.secondary;
  return { layers, pots, peakVolts: bench.secondaryPeakVolts, turning };
}

export function windingSection({ design, prediction }: SheetInputs): SheetSection | null {
  const { transformer, winding } = design;
  if (!transformer) return null;
  const wound = woundSecondary(design, prediction);
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
    if (wound) {
      const { layers, pots } = wound;
      rows.push(
        {
          cells: [
            'Secondary in layers',
            `${layers.layers} in ${pots === 1 ? 'one pot' : `each of ${pots} pots`}, ${layers.turnsPerLayer} turns a layer`,
          ],
        },
        ...(pots === 1
          ? []
          : [
              {
                cells: [
                  'Over each pot, peak',
                  `${say(layers.voltsPerPot, 'V')}, some ${Math.ceil(layers.turnsPerPot)} turns`,
                ],
              },
            ]),
        { cells: ['Between two layers, peak', say(layers.betweenLayersVolts, 'V')] },
        { cells: ['Height of the layers', say(layers.heightMetres, 'm')] },
        {
          cells: [
            'Wire of the secondary, and its resistance',
            `${say(layers.wireMetres, 'm')}, ${say(layers.ohms, 'Ω')}`,
          ],
        },
      );
    }
  }
  return {
    id: 'winding',
    title: 'Winding',
    blocks: [
      { kind: 'table', label: 'Winding', head: heads('What', 'Figure'), rows },
      ...(wound ? [{ kind: 'winding' } as const] : []),
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
