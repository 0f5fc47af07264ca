import type { Circuit, NodeIndex } from '../../transient/circuit';

/** Of f C: what stands for a wire between two nodes, and what of a capacitor or a diode is left where it is open. */
const WIRE = 1e4;
const NOTHING = 1e-5;

const largest = ({ capacitors, ladderCapacitors }: Circuit): number =>
  Math.max(...capacitors.slice(0, ladderCapacitors).map(({ farads }) => farads));

/** The unit in which a ladder's conductances count: f C of its largest capacitor, S. */
export const unitSiemens = (circuit: Circuit): number => circuit.hertz * largest(circuit);

export const joined = (circuit: Circuit, from: NodeIndex, to: NodeIndex, siemens: number): Circuit => ({
  ...circuit,
  resistors: [...circuit.resistors, { from, to, siemens }],
});

export const wired = (circuit: Circuit, from: NodeIndex, to: NodeIndex): Circuit =>
  joined(circuit, from, to, WIRE * unitSiemens(circuit));

const withDiode = (
  circuit: Circuit,
  at: number,
  change: (diode: Circuit['diodes'][number]) => Circuit['diodes'][number],
): Circuit => ({ ...circuit, diodes: circuit.diodes.map((one, index) => (index === at ? change(one) : one)) });

export const withoutDiode = (circuit: Circuit, at: number): Circuit =>
  withDiode(circuit, at, (one) => ({ ...one, onSiemens: 0, leakSiemens: 0, transitSeconds: 0 }));

export const turnedDiode = (circuit: Circuit, at: number): Circuit =>
  withDiode(circuit, at, (one) => ({ ...one, anode: one.cathode, cathode: one.anode }));

export const withFarads = (circuit: Circuit, at: number, times: number): Circuit => ({
  ...circuit,
  capacitors: circuit.capacitors.map((one, index) => (index === at ? { ...one, farads: one.farads * times } : one)),
});

export const withoutCapacitor = (circuit: Circuit, at: number): Circuit => withFarads(circuit, at, NOTHING);

/** With one node more, by its name; it needs something that holds it. */
function withNode(circuit: Circuit, name: string): { circuit: Circuit; node: NodeIndex } {
  const node = circuit.names.length;
  return {
    node,
    circuit: { ...circuit, names: [...circuit.names, name], place: new Map([...circuit.place, [name, node]]) },
  };
}

/** The ladder's foot off ground: what stood on it hangs together, on nothing but what leaks. */
export function withoutGround(before: Circuit): Circuit {
  const { circuit, node } = withNode(before, 'foot');
  const lifted = (index: NodeIndex) => (index === -1 ? node : index);
  const unit = unitSiemens(circuit);
  const ladder = circuit.ladderCapacitors;
  return {
    ...joined(circuit, node, -1, 1e-5 * unit),
    capacitors: [
      ...circuit.capacitors.map((one, at) =>
        at < ladder ? { ...one, from: lifted(one.from), to: lifted(one.to) } : one,
      ),
      { from: node, to: -1, farads: NOTHING * largest(circuit) },
    ],
    diodes: circuit.diodes.map((one) => ({ ...one, anode: lifted(one.anode), cathode: lifted(one.cathode) })),
  };
}

/** A winding that has come apart: its end is held by leakage alone. */
export function withoutWinding(circuit: Circuit): Circuit {
  const ends = circuit.inductors.map(({ terms }) => terms.at(-1)!.node).filter((node) => node >= 0);
  const unit = unitSiemens(circuit);
  return ends.reduce<Circuit>(
    (changed, node) => ({
      ...joined(changed, node, -1, 1e-5 * unit),
      capacitors: [...changed.capacitors, { from: node, to: -1, farads: NOTHING * largest(circuit) }],
    }),
    { ...circuit, inductors: [] },
  );
}

/** A rectifier between the winding and the ladder, that lets the ladder's end be driven up alone. */
export function rectified(before: Circuit): Circuit {
  const [first] = before.inductors;
  const fed = first.terms.at(-1)!.node;
  const { circuit, node } = withNode(before, 'behind the winding');
  const { forwardVolts, nearFarads, transitSeconds } = circuit.diodes[0];
  const unit = unitSiemens(circuit);
  return {
    ...circuit,
    inductors: circuit.inductors.map((one, at) =>
      at === 0 ? { ...one, terms: one.terms.map((term) => (term.node === fed ? { ...term, node } : term)) } : one,
    ),
    capacitors: [...circuit.capacitors, { from: node, to: fed, farads: NOTHING * largest(circuit) }],
    diodes: [
      ...circuit.diodes,
      {
        anode: node,
        cathode: fed,
        forwardVolts,
        onSiemens: circuit.diodes[0].onSiemens,
        leakSiemens: 1e-6 * unit,
        transitSeconds,
        nearFarads,
      },
    ],
  };
}
