import {
  GROUND,
  SOURCE,
  type LadderCapacitor,
  type LadderDiode,
  type LadderNetwork,
  type LadderNode,
  type PartColumn,
} from './network';

/**
 * Two oscillating columns in antiphase on one smoothing column, from a
 * centre-tapped winding: four diodes and three capacitors a stage.
 *
 * @param stages a positive whole number
 * @param farads each capacitor, F
 * @returns nodes `A1, Z1, B1, A2, ...` (A oscillating, Z antiphase, B smoothing)
 * @throws RangeError when stages is not a positive whole number
 */
export function fullWaveNetwork(stages: number, farads: number): LadderNetwork {
  if (!Number.isInteger(stages) || stages < 1)
    throw new RangeError(`fullWaveNetwork: ${stages} stages; must be a positive whole number`);
  const nodes: LadderNode[] = [GROUND, SOURCE, { ...SOURCE, id: 'antisource' }];
  const capacitors: LadderCapacitor[] = [];
  const diodes: LadderDiode[] = [];
  const stand = (column: PartColumn, stage: number, id: string, lower: string) => {
    nodes.push({ id, column, stage, side: 1 });
    capacitors.push({ id: `C${capacitors.length + 1}`, column, stage, side: 1, lower, upper: id, farads });
  };
  const join = (stage: number, anode: string, cathode: string) =>
    diodes.push({ id: `D${diodes.length + 1}`, stage, side: 1, anode, cathode });
  for (let stage = 1; stage <= stages; stage += 1) {
    const first = stage === 1;
    const below = first ? 'ground' : `B${stage - 1}`;
    stand('oscillating', stage, `A${stage}`, first ? 'source' : `A${stage - 1}`);
    stand('antiphase', stage, `Z${stage}`, first ? 'antisource' : `Z${stage - 1}`);
    stand('smoothing', stage, `B${stage}`, below);
    for (const column of ['A', 'Z']) join(stage, below, `${column}${stage}`);
    for (const column of ['A', 'Z']) join(stage, `${column}${stage}`, `B${stage}`);
  }
  return {
    topology: 'full-wave',
    nodes,
    capacitors,
    diodes,
    sources: [
      { node: 'source', sign: 1 },
      { node: 'antisource', sign: -1 },
    ],
    output: `B${stages}`,
    return: 'ground',
  };
}
