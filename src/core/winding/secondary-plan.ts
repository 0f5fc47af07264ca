import { VACUUM_PERMITTIVITY } from '../quantity/permittivity';
import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import { LEAST_AIR_VOLTS } from '../load/air/air-gap';
import { COPPER_OHM_METRES, enamelledMetres, sectionOf } from '../magnetics/wire';

/** Lasting peak field for film and enamel at these frequencies, V/m (common practice, no source). */
const WORKING_FIELD = 10e6;

export type SecondaryPlan = {
  turns: number;
  /** Peak over the whole winding, V. */
  peakVolts: number;
  /** Bare wire. */
  wireMetres: number;
  /** Room for turns side by side in one pot. */
  widthMetres: number;
  /** Diameter of the former. */
  innerMetres: number;
  /** Separate chambers in series. */
  pots: number;
  /** Insulation between two layers, beside the enamel. */
  insulationMetres: number;
  relativePermittivity: number;
  /** Whether each layer goes on where the last one ended, or starts again on the same side. */
  turning: 'back-and-forth' | 'same-way';
  /** Room for layers, if known. */
  heightMetres: number | null;
};

export type SecondaryLayers = {
  turnsPerPot: number;
  turnsPerLayer: number;
  /** In each pot. */
  layers: number;
  voltsPerPot: number;
  voltsPerLayer: number;
  /** The most between two layers that lie on each other. */
  betweenLayersVolts: number;
  heightMetres: number;
  wireMetres: number;
  ohms: number;
  /** Of the winding itself, seen from its ends. */
  farads: number;
  findings: Finding[];
};

/**
 * A secondary wound in layers, in one pot or several.
 *
 * Turns lie side by side at the diameter over the enamel. Back and forth, two
 * layers meet at one end and are two layers' voltage apart at the other; wound
 * the same way they are one layer's voltage apart everywhere. Self-capacitance
 * by the energy in the field between layers: each pair has C' = eps A / d with d
 * = insulation + 1.26 D - 1.15 bare (Zuhrt's rule for round wires, as E. C.
 * Snelling, Soft Ferrites, 1969, gives it; from memory), so m layers have 4 (m -
 * 1) / (3 m^2) C' back and forth, (m - 1) / m^2 C' the same way; pots in series
 * divide it. What the outside adds to core and surroundings is not counted; the
 * whole is good to about a factor of 1.5.
 *
 * @returns null where one turn is wider than a pot
 */
export function secondaryLayers(plan: SecondaryPlan): SecondaryLayers | null {
  const { turns, peakVolts, pots, insulationMetres, relativePermittivity, turning } = plan;
  const over = enamelledMetres(plan.wireMetres);
  const fits = Math.floor(plan.widthMetres / over + 1e-9);
  if (fits < 1) return null;
  const turnsPerPot = Math.ceil(turns / pots);
  const turnsPerLayer = Math.min(fits, turnsPerPot);
  const layers = Math.ceil(turnsPerPot / turnsPerLayer);
  const heightMetres = layers * over + (layers - 1) * insulationMetres;
  const meanTurn = Math.PI * (plan.innerMetres + heightMetres);
  const wireMetres = meanTurn * turns;
  const voltsPerLayer = (peakVolts * turnsPerLayer) / turns;
  const betweenLayersVolts = layers < 2 ? 0 : turning === 'back-and-forth' ? 2 * voltsPerLayer : voltsPerLayer;
  const distance = insulationMetres + 1.26 * over - 1.15 * plan.wireMetres;
  const pairFarads = (relativePermittivity * VACUUM_PERMITTIVITY * meanTurn * turnsPerLayer * over) / distance;
  const part = turning === 'back-and-forth' ? 4 / 3 : 1;
  return {
    turnsPerPot,
    turnsPerLayer,
    layers,
    voltsPerPot: peakVolts / pots,
    voltsPerLayer,
    betweenLayersVolts,
    heightMetres,
    wireMetres,
    ohms: (COPPER_OHM_METRES * wireMetres) / sectionOf(plan.wireMetres),
    farads: (part * pairFarads * (layers - 1)) / layers ** 2 / pots,
    findings: findingsOf(plan, { heightMetres, betweenLayersVolts, enamel: over - plan.wireMetres }),
  };
}

function findingsOf(
  plan: SecondaryPlan,
  { heightMetres, betweenLayersVolts, enamel }: { heightMetres: number; betweenLayersVolts: number; enamel: number },
): Finding[] {
  const findings: Finding[] = [];
  const where = '$.winding.secondary';
  const millimetres = (metres: number) => `${(metres * 1e3).toPrecision(3)} mm`;
  if (plan.heightMetres !== null && heightMetres > plan.heightMetres)
    findings.push({
      code: 'secondary-too-high',
      severity: 'stop',
      where,
      message: `The layers are ${millimetres(heightMetres)} high and the window has ${millimetres(plan.heightMetres)}.`,
      advice: 'Use thinner wire or insulation, a wider former or fewer turns.',
    });
  const needed = betweenLayersVolts / WORKING_FIELD - enamel;
  if (needed > plan.insulationMetres)
    findings.push({
      code: 'layer-insulation-thin',
      severity: 'warn',
      where,
      message: `Up to ${formatQuantity(betweenLayersVolts, 'V')} peak stand between two layers; at 10 kV/mm that asks for ${millimetres(needed)} of insulation beside the enamel.`,
      advice: 'Put more film between layers, or divide the winding into more pots.',
    });
  if (betweenLayersVolts > LEAST_AIR_VOLTS)
    findings.push({
      code: 'air-between-layers',
      severity: 'note',
      where,
      message: `Over ${LEAST_AIR_VOLTS} V peak the air left between layers can glow and eat the enamel.`,
      advice: 'Fill it with oil, wax or resin under vacuum, or use more pots.',
    });
  return findings;
}

/** Fraction of a core's window that copper can fill beside high-voltage insulation, with ease and at all (common practice, no source). */
export const EASY_FILL = 0.3;
export const MOST_FILL = 0.45;

/** Fraction of a core's window that windings take, as squares over their enamel (common practice). */
export function windowFill(
  windings: readonly { turns: number; wireMetres: number; strands: number }[],
  windowSquareMetres: number,
): number {
  const taken = windings.reduce(
    (sum, { turns, wireMetres, strands }) => sum + turns * strands * enamelledMetres(wireMetres) ** 2,
    0,
  );
  return taken / windowSquareMetres;
}
