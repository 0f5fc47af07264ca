import { formatPlain } from '../../quantity/format-quantity';
import { type Row, type SheetSection, type SheetInputs, NONE, say, heads } from './blocks';

/** Distances that are too small, told one by one. */
const MOST_TOLD = 20;

const ARRANGED = {
  opposite: 'the nodes of the columns opposite each other',
  zigzag: 'the columns set off by half a pitch, the diodes in a zigzag',
  boards: 'in a zigzag on boards, one over the other',
  tube: 'in a zigzag along a tube',
} as const;

export function layoutSection({ design: { build }, insulation, layout }: SheetInputs): SheetSection | null {
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
  const missing = ({ metres, neededMetres }: (typeof breaches)[number]) => neededMetres - metres;
  const worst = breaches.toSorted((one, other) => missing(other) - missing(one));
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
      ...(insulation.nodes.some(({ rounding }) => rounding && 'radiusMetres' in rounding)
        ? [
            {
              kind: 'text',
              text: 'Joints stand as large as keeps them free of corona: a ring or ball is drawn as a circle, and counted in every distance.',
            } as const,
          ]
        : []),
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
              rows: worst.slice(0, MOST_TOLD).map(({ between: [one, other], metres, neededMetres }) => ({
                cells:
                  one === other
                    ? [`the ends of ${one}`, `${say(-metres, 'm')} too short`, NONE]
                    : [`${one} and ${other}`, say(Math.max(0, metres), 'm'), say(neededMetres, 'm')],
                isMarked: true,
              })),
            } as const,
            ...(breaches.length > MOST_TOLD
              ? [{ kind: 'text', text: `And ${breaches.length - MOST_TOLD} more, less far off.` } as const]
              : []),
          ]
        : []),
      { kind: 'layout' },
    ],
  };
}
