import { SOURCES } from '../distances';
import type { NodeInsulation } from '../insulation';
import { nodeName } from '../node-name';
import { type Block, type SheetSection, type SheetInputs, NONE, say, heads } from './blocks';

export function insulationSection({ design: { build }, insulation }: SheetInputs): SheetSection | null {
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
