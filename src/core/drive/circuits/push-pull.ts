import type { Transformer } from '../../magnetics/transformer';
import {
  BODY_DIODE_VOLTS,
  LEAST_OHMS,
  SUPPLY_PROBES,
  type ChangeOver,
  type FedNode,
  type SupplyCircuit,
} from '../supply-circuit';
import { magnetising, secondaryWindings } from './windings';

/** What is left of a choke's inductance once it is saturated (common practice, no source). */
const SATURATED_PART = 0.1;

const HALF_PERIOD_STEPS = 200;

/**
 * A choke into the centre tap of a primary with a tank across it, two switches
 * that pull its ends to ground in turn and change over where the tank's voltage
 * passes zero: when that is decides the circuit itself.
 *
 * The halves of the primary are wound together, so the centre tap stands in the
 * middle of its ends, and the choke's current enters both in equal parts. Gate
 * resistors draw as one resistance; what the tank loses idle is one beside it.
 *
 * @param tank its capacitance, F, and what it is expected to do
 * @param farads what the secondary shows of the ladder, F
 */
export function pushPullCircuit(
  feed: { volts: number; seriesOhms: number },
  driver: {
    chokeHenries: number;
    chokeSaturationAmps: number | null;
    transistorOhms: number;
    unloadedQuality: number;
  },
  tank: { farads: number; hertz: number; peakVolts: number; gateWatts: number; chokeAmps: number },
  transformer: Transformer,
  fed: readonly FedNode[],
  farads: number,
): SupplyCircuit {
  const { chokeHenries, chokeSaturationAmps } = driver;
  const ohms = Math.max(driver.transistorOhms, LEAST_OHMS);
  const omega = 2 * Math.PI * tank.hertz;
  const across = [
    ['end 1', 1],
    ['end 2', -1],
  ] as const;
  const secondary = secondaryWindings(transformer, fed, across, tank.farads, farads);
  const from = feed.seriesOhms > 0 ? 'supply' : 'rail';
  const half = (closed: string, until: ChangeOver['terms']) => ({
    seconds: 0.5 / tank.hertz,
    closed: [closed],
    until: { terms: until, fluxes: [], constant: 0, atOnce: false },
    steps: HALF_PERIOD_STEPS,
    first: null,
  });
  return {
    railVolts: feed.volts,
    hertz: tank.hertz,
    capacitors: [
      { id: 'tank', from: 'end 1', to: 'end 2', farads: tank.farads, startVolts: 0 },
      ...secondary.capacitors,
    ],
    resistors: [
      ...(feed.seriesOhms > 0 ? [{ from: 'rail', to: 'supply', ohms: feed.seriesOhms }] : []),
      ...(tank.gateWatts > 0 ? [{ from, to: 'ground', ohms: feed.volts ** 2 / tank.gateWatts }] : []),
    ],
    diodes: [1, 2].map((end) => ({
      id: `body ${end}`,
      anode: 'ground',
      cathode: `end ${end}`,
      forwardVolts: BODY_DIODE_VOLTS,
      onOhms: ohms,
    })),
    switches: [1, 2].map((end) => ({ id: `switch ${end}`, from: `end ${end}`, to: 'ground', ohms })),
    inductors: [
      ...secondary.inductors,
      // At a change over all of the tank's energy is in the core.
      ...magnetising(transformer, across, driver.unloadedQuality / (omega * tank.farads), tank.peakVolts / omega),
      {
        id: 'choke',
        terms: [
          [from, 1],
          ['end 1', -0.5],
          ['end 2', -0.5],
        ],
        ohms: 0,
        henries: chokeHenries,
        dampingOhms: null,
        saturation:
          chokeSaturationAmps === null
            ? null
            : { fluxVoltSeconds: chokeHenries * chokeSaturationAmps, henries: SATURATED_PART * chokeHenries },
        startFlux: chokeHenries * tank.chokeAmps,
      },
    ],
    phases: [
      half('switch 1', [
        ['end 2', 1],
        ['end 1', -1],
      ]),
      half('switch 2', across),
    ],
    probes: [
      ...SUPPLY_PROBES,
      { figure: 'transistorPeakVolts', signal: { kind: 'across', from: 'end 2', to: 'ground' }, tells: 'most' },
      { figure: 'transistorRmsAmps', signal: { kind: 'switches', ids: ['switch 1'], as: 'A' }, tells: 'rms' },
      {
        figure: 'conductionWatts',
        signal: { kind: 'switches', ids: ['switch 1', 'switch 2'], as: 'W' },
        tells: 'mean',
      },
      { figure: 'tankPeakVolts', signal: { kind: 'across', from: 'end 1', to: 'end 2' }, tells: 'most' },
      { figure: 'tankRmsAmps', signal: { kind: 'capacitor', id: 'tank' }, tells: 'rms' },
      { figure: 'chokeRippleAmps', signal: { kind: 'inductors', weights: [['choke', 1]] }, tells: 'span' },
      { figure: 'chokePeakAmps', signal: { kind: 'inductors', weights: [['choke', 1]] }, tells: 'most' },
      { figure: 'secondaryPeakVolts', signal: { kind: 'across', from: 'source', to: 'ground' }, tells: 'most' },
    ],
    courses: [
      { id: 'switch-volts', name: 'across one transistor', signal: { kind: 'across', from: 'end 2', to: 'ground' } },
      { id: 'tank-volts', name: 'across the tank', signal: { kind: 'across', from: 'end 1', to: 'end 2' } },
      { id: 'choke-amps', name: 'choke current', signal: { kind: 'inductors', weights: [['choke', 1]] } },
    ],
  };
}
