import type { LadderNetwork } from '../topology/network';

/** A node that the stick is put on, and strapped to ground after it. */
export type Touch = {
  node: string;
  isTerminal: boolean;
  /** Capacitors that have a strap, or ground, at their other end already: these are empty with this one. */
  empties: string[];
  /** What may stand there with all before it strapped where something has failed, V: of a terminal at most, inside about. */
  failedVolts: number;
  /** Of all capacitors that end there, F. */
  farads: number;
};

/** How long one would hold a stick at least, s (common practice, no source). */
export const LEAST_HOLD_SECONDS = 2;

/** Where the load is, behind a series resistor, as the circuit names it. */
export const OUTPUT_END = 'load';

/** The output's terminals that are not ground itself. */
export const terminalsOf = ({ output, return: back }: Pick<LadderNetwork, 'output' | 'return'>): string[] =>
  [output, back].filter((node) => node !== 'ground');

/**
 * In which order a ladder's nodes are brought to ground: its terminals, what stands
 * behind them in the order of the way, so that nothing feeds it any more, the ends
 * of its winding, and every other node from the foot outwards, so that what may
 * still stand at one is about a capacitor's own voltage.
 *
 * @param volts of each capacitor as it stands charged, in the network's order
 * @param terminalVolts the most between the terminals, V
 * @param behind nodes behind the ladder with capacitance there, F, from the terminal on; they are terminals of their own
 */
export function touchesOf(
  network: LadderNetwork,
  volts: readonly number[],
  terminalVolts: number,
  behind: readonly { node: string; farads: number }[],
): Touch[] {
  const terminals = terminalsOf(network);
  const rest = network.nodes.map(({ id }) => id).filter((id) => id !== 'ground' && !terminals.includes(id));
  const strapped = new Set(['ground']);
  const beyond = behind.map(({ node, farads }): Touch => ({
    node,
    isTerminal: true,
    empties: [],
    failedVolts: terminalVolts,
    farads,
  }));
  const touches = [...terminals, ...rest].map((node): Touch => {
    const ending = network.capacitors.flatMap(({ id, lower, upper, farads }, at) =>
      lower === node || upper === node
        ? [{ id, far: lower === node ? upper : lower, farads, volts: Math.abs(volts[at]) }]
        : [],
    );
    const toStraps = ending.filter(({ far }) => strapped.has(far));
    const isTerminal = terminals.includes(node);
    strapped.add(node);
    return {
      node,
      isTerminal,
      empties: toStraps.map(({ id }) => id),
      failedVolts: isTerminal
        ? terminalVolts
        : Math.max(0, ...(toStraps.length > 0 ? toStraps : ending).map((one) => one.volts)),
      farads: ending.reduce((sum, part) => sum + part.farads, 0),
    };
  });
  return [...touches.slice(0, terminals.length), ...beyond, ...touches.slice(terminals.length)];
}
