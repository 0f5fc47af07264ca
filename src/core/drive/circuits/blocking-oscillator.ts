import { ratioOf, type Transformer } from '../../magnetics/transformer';
import type { FedNode, SupplyCircuit } from '../supply-circuit';
import { singleSwitchCircuit } from './single-switch';

/** Across a bipolar transistor at the current it lets go of, V, and its capacitance, F (common practice, no source). */
const SATURATED_VOLTS = 0.3;
const SWITCH_FARADS = 100e-12;
/** Of primary and secondary ringing, core and all (common practice, no source). */
const RING_QUALITY = 20;
/** Steps beyond those of a switch whose times are given: where these are found, ringing counts for more. */
const FINER = 2;

/**
 * One transistor that a feedback winding holds on until its collector asks for
 * more than gain times base current, and turns on again once the pulse has
 * fallen so far that the winding no longer pulls the base down. When that is
 * decides the circuit itself. Its base goes with the core, leakage apart: the
 * charge in it is too slow for what leakage rings with, which loads the
 * collector for moments only.
 *
 * A capacitor across the base resistor is charged to what stands there while the
 * transistor is on, and takes so much from the base until the resistor has
 * emptied it. Seen from the supply, which stands for the winding as well, it is
 * as much larger as its charge and voltage are in power.
 *
 * @param expected currents and times of the closed form, to start from
 * @param farads what the secondary shows of the ladder, F
 */
export function blockingOscillatorCircuit(
  feed: { volts: number; seriesOhms: number },
  driver: {
    feedbackTurns: number;
    baseOhms: number;
    baseFarads: number | null;
    currentGain: number;
    baseVolts: number;
    ratedVolts: number | null;
  },
  expected: { peakAmps: number; onSeconds: number; hertz: number },
  transformer: Transformer,
  fed: readonly FedNode[],
  farads: number,
): SupplyCircuit {
  const { baseOhms, baseFarads, currentGain, baseVolts } = driver;
  const { peakAmps, onSeconds, hertz } = expected;
  const feedback = driver.feedbackTurns / transformer.primaryTurns;
  const switchOhms = SATURATED_VOLTS / peakAmps;
  const offSeconds = Math.max(1 / hertz - onSeconds, onSeconds / 4);
  const gain = currentGain / baseOhms;
  const drawnOhms = feed.volts / ((1 + feedback) * (peakAmps / currentGain));
  // What stands across the base resistor while the winding pulls.
  const acrossBase = feed.volts * (1 + feedback) - baseVolts;
  const ratio = transformer.coupling * ratioOf(transformer);
  return singleSwitchCircuit(
    feed,
    {
      hertz,
      peakAmps,
      clampVolts: driver.ratedVolts,
      clampFigure: 'breakdownWatts',
      switchFarads: SWITCH_FARADS,
      snubber: null,
      switchOhms,
      // Its own current, and what the feedback winding takes of the primary for it.
      base: {
        ohms: drawnOhms,
        heldFarads: baseFarads === null ? null : (baseOhms * baseFarads) / drawnOhms,
      },
      ringQuality: RING_QUALITY,
      phases: ({ supply, firstHeld, firstFree, heldSteps, freeSteps }) => [
        {
          seconds: onSeconds,
          closed: ['switch', 'base'],
          steps: FINER * heldSteps(onSeconds),
          first: firstHeld,
          // What the base holds less what the core asks for.
          until: {
            terms: [
              [supply, gain * (1 + feedback)],
              ['drain', -gain * feedback],
            ],
            fluxes: [['core', -1 / transformer.primaryHenries!]],
            constant: -gain * baseVolts,
            atOnce: true,
          },
        },
        {
          seconds: offSeconds,
          closed: [],
          steps: FINER * freeSteps(offSeconds),
          first: firstFree,
          // The winding pulls the base down more than the supply pulls it up.
          until: {
            terms: [
              [fed[0].node, (fed[0].sign * feedback) / ratio],
              [supply, -1],
              ...(baseFarads === null ? [] : [['held', acrossBase / feed.volts] as const]),
            ],
            fluxes: [],
            constant: baseVolts,
            atOnce: false,
          },
        },
      ],
    },
    transformer,
    fed,
    farads,
  );
}
