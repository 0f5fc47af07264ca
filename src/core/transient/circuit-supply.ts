import type { DriverProbe, SupplyCircuit, Terms } from '../drive/supply-circuit';
import type { Circuit, CircuitPhase, CircuitProbe, NodeIndex } from './circuit';

/** The supply's voltage without load, as a known node. */
export const RAIL = 'rail';
export const RAIL_NODE = -2;

/** Names of the nodes of a supply that are not known. */
export function nodesOf(supply: SupplyCircuit): string[] {
  const names = new Set(joinedBy(supply).flat());
  names.delete('ground');
  names.delete(RAIL);
  return [...names];
}

/** Nodes that share an element, in pairs. */
export function joinedBy({ capacitors, resistors, diodes, switches, inductors }: SupplyCircuit): [string, string][] {
  return [
    ...[...capacitors, ...resistors, ...switches].map(({ from, to }): [string, string] => [from, to]),
    ...diodes.map(({ anode, cathode }): [string, string] => [anode, cathode]),
    ...inductors.flatMap(({ terms }) =>
      terms.flatMap(([one], at) => terms.slice(at + 1).map(([other]): [string, string] => [one, other])),
    ),
  ];
}

/** A ladder's circuit with a supply in the place of its drive. */
export function suppliedBy(
  circuit: Circuit,
  supply: SupplyCircuit,
  at: (name: string) => NodeIndex,
  windings: number,
): Circuit {
  const firstCapacitor = circuit.capacitors.length;
  const firstResistor = circuit.resistors.length;
  const firstDiode = circuit.diodes.length;
  const numbered = (terms: Terms) => terms.map(([name, weight]) => ({ node: at(name), weight }));
  const indexIn = (list: readonly { id?: string }[], id: string) => list.findIndex((one) => one.id === id);
  const bits = (ids: readonly string[]) => ids.reduce((sum, id) => sum | (1 << indexIn(supply.switches, id)), 0);
  const signalOf = (signal: DriverProbe['signal']): CircuitProbe['signal'] => {
    switch (signal.kind) {
      case 'inductors':
        return {
          kind: 'inductors',
          weights: signal.weights.map(([id, weight]) => ({ index: indexIn(supply.inductors, id), weight })),
        };
      case 'capacitor':
        return { kind: 'capacitor', index: firstCapacitor + indexIn(supply.capacitors, signal.id) };
      case 'diode':
        return { kind: 'diode', index: firstDiode + indexIn(supply.diodes, signal.id), as: signal.as };
      case 'resistor':
        return { kind: 'resistor', index: firstResistor + indexIn(supply.resistors, signal.id), as: signal.as };
      case 'switches':
        return { kind: 'switches', bits: bits(signal.ids), as: signal.as };
      case 'supply':
        return { kind: 'rail', node: RAIL_NODE, times: signal.as === 'W' ? supply.railVolts : 1 };
      case 'across':
        return { kind: 'across', from: at(signal.from), to: at(signal.to) };
    }
  };
  return {
    ...circuit,
    hertz: supply.hertz,
    capacitors: [
      ...circuit.capacitors,
      ...supply.capacitors.map(({ from, to, farads }) => ({ from: at(from), to: at(to), farads })),
    ],
    resistors: [
      ...circuit.resistors,
      ...supply.resistors.map(({ from, to, ohms }) => ({ from: at(from), to: at(to), siemens: 1 / ohms })),
    ],
    diodes: [
      ...circuit.diodes,
      ...supply.diodes.map(({ anode, cathode, forwardVolts, onOhms }) => ({
        anode: at(anode),
        cathode: at(cathode),
        forwardVolts,
        onSiemens: 1 / onOhms,
        leakSiemens: 0,
        transitSeconds: 0,
        // Never loosened: what it joins sets no time of its own.
        nearFarads: Infinity,
      })),
    ],
    switches: supply.switches.map(({ from, to, ohms }) => ({ from: at(from), to: at(to), onSiemens: 1 / ohms })),
    inductors: [
      ...supply.inductors.map(({ terms, ohms, henries, dampingOhms, saturation }) => ({
        terms: numbered(terms),
        ohms,
        henries,
        dampingSiemens: dampingOhms === null ? 0 : 1 / dampingOhms,
        saturation,
      })),
      ...circuit.inductors.slice(circuit.inductors.length - circuit.chokes),
    ],
    known: [{ drive: 0, volts: supply.railVolts }],
    sources: { stiff: false, count: windings },
    supply: {
      phases: supply.phases.map(({ closed, until, ...phase }): CircuitPhase => ({
        ...phase,
        closed: bits(closed),
        until: until && {
          ...until,
          terms: numbered(until.terms),
          fluxes: until.fluxes.map(([id, weight]) => ({ index: indexIn(supply.inductors, id), weight })),
        },
      })),
      probes: supply.probes.map(({ figure, signal, tells, whileClosed }) => ({
        figure,
        signal: signalOf(signal),
        tells,
        closed: whileClosed === undefined ? null : bits([whileClosed]),
      })),
      courses: supply.courses.map(({ signal, ...course }) => ({ ...course, signal: signalOf(signal) })),
      firstDiode,
      firstResistor,
    },
  };
}
