import { LEAKAGE_QUALITY, leakageHenries, ratioOf, type Transformer } from '../../magnetics/transformer';
import { LEAST_OHMS, type DriverInductor, type FedNode, type SupplyCircuit, type Terms } from '../supply-circuit';

/** What is left of a core's inductance once it is saturated (common practice, no source). */
const SATURATED_PART = 0.05;

/**
 * The secondary of a transformer as what it is seen from: an ideal ratio k r, the
 * leakage (1 - k^2) L2 behind it with the winding's resistance, and its own
 * capacitance at the ladder's node (the two coupled windings' equations with L
 * factored; handbook).
 *
 * @param primary what stands across the primary
 * @param primaryFarads across it, F
 */
export function secondaryWindings(
  transformer: Transformer,
  fed: readonly FedNode[],
  primary: Terms,
  primaryFarads: number,
  ladderFarads: number,
): {
  inductors: DriverInductor[];
  capacitors: SupplyCircuit['capacitors'];
  /** How leakage rings with the driver's end held and free, rad/s; null without leakage. */
  ringing: { held: number; free: number } | null;
} {
  const henries = leakageHenries(transformer);
  const ratio = transformer.coupling * ratioOf(transformer);
  const farads = transformer.secondaryFarads + ladderFarads;
  const seen = primaryFarads / ratio ** 2;
  const rings = (across: number) => 1 / Math.sqrt(henries * across);
  const ringing =
    farads > 0 && henries > 0
      ? { held: rings(farads), free: rings(seen > 0 ? (farads * seen) / (farads + seen) : farads) }
      : null;
  return {
    inductors: fed.map(({ node, sign }, index) => ({
      id: `winding ${index + 1}`,
      terms: [...primary.map(([at, weight]) => [at, sign * ratio * weight] as const), [node, -1] as const],
      ohms: Math.max(transformer.secondaryOhms, LEAST_OHMS),
      henries,
      dampingOhms: ringing === null ? null : LEAKAGE_QUALITY * Math.sqrt(ringing.held * ringing.free) * henries,
      saturation: null,
      startFlux: 0,
    })),
    capacitors:
      transformer.secondaryFarads > 0
        ? fed.map(({ node }, index) => ({
            id: `secondary ${index + 1}`,
            from: node,
            to: 'ground',
            farads: transformer.secondaryFarads,
            startVolts: 0,
          }))
        : [],
    ringing,
  };
}

/**
 * The core: what a primary shows with nothing on its secondary, going soft where its flux is too much for it.
 *
 * @param dampingOhms what it loses, as a resistance beside it; null where nothing is known of that
 */
export function magnetising(
  { primaryHenries, coreSquareMetres, primaryTurns, saturationTesla }: Transformer,
  terms: Terms,
  dampingOhms: number | null,
  startFlux = 0,
): DriverInductor[] {
  if (primaryHenries === null) return [];
  return [
    {
      id: 'core',
      terms,
      ohms: 0,
      henries: primaryHenries,
      dampingOhms,
      saturation:
        coreSquareMetres === null
          ? null
          : {
              fluxVoltSeconds: coreSquareMetres * primaryTurns * saturationTesla,
              henries: SATURATED_PART * primaryHenries,
            },
      startFlux,
    },
  ];
}
