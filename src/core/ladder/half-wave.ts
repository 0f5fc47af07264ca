import type { LadderCapacitor, LadderDiode, LadderNetwork, LadderNode } from './network';

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
  const diodeCount = stages * 2;
  if (!Number.isInteger(diodeCount) || diodeCount < 1)
    throw new RangeError(`halfWaveNetwork: ${stages} stages; must be a positive multiple of 0.5`);
  const startsAtSource = diodeCount % 2 === 1;
  const nodes: LadderNode[] = [
    { id: 'ground', column: 'ground', stage: 0 },
    { id: 'source', column: 'source', stage: 0 },
  ];
  const capacitors: LadderCapacitor[] = [];
  const diodes: LadderDiode[] = [];
  const top = { oscillating: 'source', smoothing: 'ground' };
  let last = startsAtSource ? 'source' : 'ground';
  for (let position = 1; position <= diodeCount; position += 1) {
    const column = (position % 2 === 1) === startsAtSource ? 'smoothing' : 'oscillating';
    const stage = startsAtSource ? Math.floor(position / 2) + 1 : Math.ceil(position / 2);
    const id = `${column === 'oscillating' ? 'A' : 'B'}${stage}`;
    nodes.push({ id, column, stage });
    capacitors.push({ id: `C${position}`, column, stage, lower: top[column], upper: id, farads });
    diodes.push({ id: `D${position}`, stage, anode: last, cathode: id });
    top[column] = id;
    last = id;
  }
  return { nodes, capacitors, diodes, output: last };
}
