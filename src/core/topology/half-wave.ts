import {
  GROUND,
  SOURCE,
  type LadderCapacitor,
  type LadderDiode,
  type LadderNetwork,
  type LadderNode,
  type Side,
} from './network';

/** The parts of one half-wave ladder, apart from the feet it stands on. */
type HalfWaveParts = {
  nodes: LadderNode[];
  capacitors: LadderCapacitor[];
  diodes: LadderDiode[];
  output: string;
};

/**
 * One half-wave ladder above ground, or its mirror below: the same parts with
 * every diode turned round.
 *
 * @param stages a positive multiple of one half
 * @param side 1 climbs above ground, -1 below
 * @param before parts numbered before this ladder's own
 * @param hangsOn the node that the oscillating column starts from
 * @throws RangeError when stages is not a positive multiple of one half
 */
export function halfWaveParts(
  stages: number,
  farads: number,
  side: Side,
  before: number,
  hangsOn = 'source',
): HalfWaveParts {
  const diodeCount = stages * 2;
  if (!Number.isInteger(diodeCount) || diodeCount < 1)
    throw new RangeError(`halfWaveParts: ${stages} stages; must be a positive multiple of 0.5`);
  const startsAtSource = diodeCount % 2 === 1;
  const prefix = side === 1 ? '' : 'N';
  const nodes: LadderNode[] = [];
  const capacitors: LadderCapacitor[] = [];
  const diodes: LadderDiode[] = [];
  const top = { oscillating: hangsOn, smoothing: 'ground' };
  let last = startsAtSource ? 'source' : 'ground';
  for (let position = 1; position <= diodeCount; position += 1) {
    const column = (position % 2 === 1) === startsAtSource ? 'smoothing' : 'oscillating';
    const stage = startsAtSource ? Math.floor(position / 2) + 1 : Math.ceil(position / 2);
    const id = `${prefix}${column === 'oscillating' ? 'A' : 'B'}${stage}`;
    const [nearer, farther] = [top[column], id];
    const number = before + position;
    nodes.push({ id, column, stage, side });
    capacitors.push({
      id: `C${number}`,
      column,
      stage,
      side,
      lower: side === 1 ? nearer : farther,
      upper: side === 1 ? farther : nearer,
      farads,
    });
    diodes.push({
      id: `D${number}`,
      stage,
      side,
      anode: side === 1 ? last : id,
      cathode: side === 1 ? id : last,
    });
    top[column] = id;
    last = id;
  }
  return { nodes, capacitors, diodes, output: last };
}

/**
 * The network of a half-wave ladder with whole or half stages and equal
 * capacitors, for a positive output.
 *
 * A whole number of stages starts with a diode from ground into the coupling
 * capacitor: 1 is the doubler, 2 the quadrupler. A further half stage stands at
 * the foot as a rectifier from the source into the first smoothing capacitor:
 * 0.5 is the plain rectifier, 1.5 the tripler. The oscillating node of that
 * first stage is then the source itself.
 *
 * @param stages 0.5, 1, 1.5, ...
 * @param farads each capacitor, F
 * @returns nodes `A1, B1, A2, ...` (A oscillating, B smoothing), capacitors
 *   `C1...` and diodes `D1...` numbered along the chain of diodes from the foot
 * @throws RangeError when stages is not a positive multiple of one half
 */
export function halfWaveNetwork(stages: number, farads: number): LadderNetwork {
  const { nodes, ...parts } = halfWaveParts(stages, farads, 1, 0);
  return {
    topology: 'half-wave',
    nodes: [GROUND, SOURCE, ...nodes],
    ...parts,
    sources: [{ node: 'source', sign: 1 }],
    return: 'ground',
  };
}
