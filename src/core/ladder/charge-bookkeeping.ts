import type { LadderNetwork } from './network';

/**
 * What one cycle's load charge does to a ladder as the load goes to zero. All
 * coefficients are per coulomb of load charge q = I / f, in 1/F, so that a
 * voltage is a coefficient times q.
 */
export type LightLoad = {
  /** Droop of the mean output voltage. */
  droop: number;
  /** The textbooks' figure: droop to the peak if all load charge were drawn at one instant. */
  textbookDroop: number;
  /** Ripple of the output, peak to peak, before charging time shortens it. */
  ripple: number;
  /** Swing that the charges give the whole oscillating column. */
  oscillatingSwing: number;
  /** Sum of 1/C over the smoothing column. */
  smoothingElastance: number;
  /** Droop of each capacitor's mean voltage, in the network's order. */
  capacitorDroops: number[];
  /** Ripple, peak to peak, of every smoothing node. */
  nodeRipples: Map<string, number>;
};

/**
 * Charge bookkeeping of a two-column ladder with arbitrary capacitors.
 *
 * In steady state every diode passes the load charge q once a cycle. Counted
 * from the output end, an oscillating capacitor with m = 1, 2, ... takes +-m q,
 * a smoothing capacitor with m = 0, 1, ... gains (m + 1) q at the positive peak
 * and gives m q at the negative one, and q flows out of it steadily. At the
 * negative peak each oscillating node meets the smoothing node below it, at
 * the positive peak each smoothing node meets the oscillating node beside it;
 * walking the chain of diodes upward gives every node and capacitor.
 *
 * @param network from a two-column topology; farads above zero
 * @returns coefficients in 1/F; exact as load charge goes to zero, for a sine
 *   drive of zero impedance
 * @remarks For equal capacitors the droop is (2n^3/3 + n^2/2 + n/3) q/C and the
 *   ripple n(n+1)/2 q/C. The textbook droop 2n^3/3 + n^2/2 - n/6 (Naidu and
 *   Kamaraju, High Voltage Engineering, chapter 6, from memory) is returned in
 *   its general form, half the smoothing elastance below the true mean droop.
 *   Source: derived; checked against independent integration.
 */
export function lightLoadBookkeeping(network: LadderNetwork): LightLoad {
  const topStage = network.nodes.find((node) => node.id === network.output)!.stage;
  const capacitorAbove = new Map(network.capacitors.map((capacitor) => [capacitor.upper, capacitor]));
  const droopAtPositivePeak = new Map([
    ['ground', 0],
    ['source', 0],
  ]);
  const droopAtNegativePeak = new Map([
    ['ground', 0],
    ['source', 0],
  ]);
  const meanDroop = new Map([
    ['ground', 0],
    ['source', 0],
  ]);
  const nodeRipples = new Map<string, number>();
  const column = { oscillating: { moved: 0 }, smoothing: { moved: 0, ripple: 0, elastance: 0 } };

  for (const diode of network.diodes) {
    const id = diode.cathode;
    const capacitor = capacitorAbove.get(id)!;
    const multiple = topStage - capacitor.stage + (capacitor.column === 'oscillating' ? 1 : 0);
    if (capacitor.column === 'oscillating') {
      const sums = column.oscillating;
      sums.moved += multiple / capacitor.farads;
      const atNegativePeak = droopAtNegativePeak.get(diode.anode)!;
      droopAtNegativePeak.set(id, atNegativePeak);
      droopAtPositivePeak.set(id, atNegativePeak + sums.moved);
      meanDroop.set(id, atNegativePeak + sums.moved / 2);
    } else {
      const sums = column.smoothing;
      sums.elastance += 1 / capacitor.farads;
      sums.moved += (multiple + 0.5) / capacitor.farads;
      sums.ripple += (multiple + 1) / capacitor.farads;
      const atPositivePeak = droopAtPositivePeak.get(diode.anode)!;
      droopAtPositivePeak.set(id, atPositivePeak);
      droopAtNegativePeak.set(id, atPositivePeak + sums.moved);
      meanDroop.set(id, atPositivePeak + sums.ripple / 2);
      nodeRipples.set(id, sums.ripple);
    }
  }

  const droop = meanDroop.get(network.output)!;
  return {
    droop,
    textbookDroop: droop - column.smoothing.elastance / 2,
    ripple: column.smoothing.ripple,
    oscillatingSwing: column.oscillating.moved,
    smoothingElastance: column.smoothing.elastance,
    capacitorDroops: network.capacitors.map((part) => meanDroop.get(part.upper)! - meanDroop.get(part.lower)!),
    nodeRipples,
  };
}
