import { ratioOf, type Transformer } from '../../magnetics/transformer';
import { LEAST_OHMS, type FedNode, type SupplyCircuit } from '../supply-circuit';
import { magnetising, secondaryWindings } from './windings';

/** Across the coil while its switch is open, F (common practice, no source). */
const COIL_FARADS = 100e-12;
/** What the ring of the open coil dies by (common practice, no source). */
const OPEN_QUALITY = 10;
/** Swings of the ring in which the switch stays closed, and part of the time between shots at most. */
const FIRED_SWINGS = 12;
const MOST_FIRED = 0.5;
/** Time constants in which the storage capacitor is charged again. */
const CHARGING = 8;
const STEPS_A_RADIAN = 8;
const LEAST_STEPS = 200;
const MOST_STEPS = 1500;
const CHARGING_STEPS = 60;

/**
 * A storage capacitor fired through a switch into a coil, and charged again
 * through a resistance between shots: the switch conducts both ways for as long
 * as it rings, and what is lost in that is one resistance with it, by the second
 * peak of the ringing against the first.
 *
 * @param farads what the secondary shows of the ladder, F
 */
export function capacitorDischargeCircuit(
  driver: { storageFarads: number; storageVolts: number; ringFraction: number; shotsPerSecond: number },
  transformer: Transformer,
  fed: readonly FedNode[],
  farads: number,
): SupplyCircuit {
  const { storageFarads, storageVolts, ringFraction, shotsPerSecond } = driver;
  const coil = [
    ['coil', 1],
    ['ground', -1],
  ] as const;
  const ratio = transformer.coupling * ratioOf(transformer);
  const { ringing, ...secondary } = secondaryWindings(transformer, fed, coil, storageFarads, farads);
  const henries = transformer.primaryHenries!;
  const radian = Math.sqrt(henries * (storageFarads + ratio ** 2 * (transformer.secondaryFarads + farads)));
  // From one peak to the next, half a period later, a ring falls by exp(-pi / 2Q) (handbook).
  const quality = Math.PI / (2 * Math.log(1 / ringFraction));
  const period = 1 / shotsPerSecond;
  const fired = Math.min(MOST_FIRED * period, FIRED_SWINGS * 2 * Math.PI * radian);
  const primary = {
    kind: 'inductors',
    weights: [['core', 1], ...fed.map(({ sign }, index) => [`winding ${index + 1}`, sign * ratio] as const)],
  } as const;
  return {
    railVolts: storageVolts,
    hertz: shotsPerSecond,
    capacitors: [
      { id: 'storage', from: 'store', to: 'ground', farads: storageFarads, startVolts: storageVolts },
      { id: 'coil', from: 'coil', to: 'ground', farads: COIL_FARADS, startVolts: 0 },
      ...secondary.capacitors,
    ],
    resistors: [],
    diodes: [],
    switches: [
      { id: 'fire', from: 'store', to: 'coil', ohms: Math.max(LEAST_OHMS, henries / radian / quality) },
      { id: 'charge', from: 'rail', to: 'store', ohms: (period - fired) / CHARGING / storageFarads },
    ],
    inductors: [...secondary.inductors, ...magnetising(transformer, coil, (OPEN_QUALITY * henries) / radian)],
    phases: [
      {
        seconds: fired,
        closed: ['fire'],
        until: null,
        steps: Math.min(MOST_STEPS, Math.max(LEAST_STEPS, (STEPS_A_RADIAN * fired) / radian)),
        first: ringing && { seconds: 1 / (4 * ringing.held), steps: 100 },
      },
      {
        seconds: period - fired,
        closed: ['charge'],
        until: null,
        steps: CHARGING_STEPS,
        first: { seconds: radian / STEPS_A_RADIAN, steps: 40 },
      },
    ],
    probes: [
      { figure: 'primaryPeakAmps', signal: primary, tells: 'most' },
      { figure: 'primaryRmsAmps', signal: primary, tells: 'rms' },
      { figure: 'secondaryPeakVolts', signal: { kind: 'across', from: 'source', to: 'ground' }, tells: 'most' },
    ],
    courses: [
      {
        id: 'storage-volts',
        name: 'across the storage capacitor',
        signal: { kind: 'across', from: 'store', to: 'ground' },
      },
      { id: 'primary-amps', name: 'primary current', signal: primary },
    ],
  };
}
