import type { Design } from '../design/design-schema';
import type { Circuit } from './circuit';
import { circuitOfDesign } from './circuit-of-design';
import { carriedOn, settledOnDrive } from './settled';
import type { SettleProgress } from './steady-state';

/** Of a period: against 400 they move a mean by under two parts in a thousand, pulses and ringing included. */
const STEPS = 64;

/** What a meter with its probe puts from a node to ground. */
export type Probe = { node: string; ohms: number; farads: number };

/**
 * Means of a ladder's nodes in its steady state on the drive that the closed
 * form makes, with a meter held on one of them.
 *
 * @param design complete, as `readDesign` returns it
 * @param probe null where no meter is there
 * @param leakSiemens past each capacitor of the ladder, S, zero or more
 * @yields the progress of settling
 * @returns against ground, V, as for a positive output; null where it does not settle
 */
export function* probedOf(
  design: Design,
  probe: Probe | null,
  leakSiemens = 0,
): Generator<SettleProgress, ReadonlyMap<string, number> | null> {
  const { ladder, circuit } = circuitOfDesign(design);
  const measured = withProbe(withLeakage(circuit, leakSiemens), probe);
  const settled = yield* settledOnDrive(design, { ladder, circuit: measured }, STEPS);
  if (!settled?.convergence.converged) return null;
  return new Map(circuit.names.map((name, at) => [name, carriedOn(settled, ({ nodes }) => nodes.mean[at])]));
}

function withProbe(circuit: Circuit, probe: Probe | null): Circuit {
  const from = probe && circuit.place.get(probe.node);
  if (!probe || from === null || from === undefined) return circuit;
  return {
    ...circuit,
    resistors: [...circuit.resistors, { from, to: -1, siemens: 1 / probe.ohms }],
    capacitors: [...circuit.capacitors, { from: -1, to: from, farads: probe.farads }],
  };
}

function withLeakage(circuit: Circuit, siemens: number): Circuit {
  if (siemens === 0) return circuit;
  const past = circuit.capacitors.slice(0, circuit.ladderCapacitors).map(({ from, to }) => ({ from, to, siemens }));
  return { ...circuit, resistors: [...circuit.resistors, ...past] };
}
