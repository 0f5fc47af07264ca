import type { Drive } from '../../src/core/drive/drive';
import { lightLoadBookkeeping, type LightLoad } from '../../src/core/ladder/charge-bookkeeping';
import type { LadderNetwork } from '../../src/core/topology/network';
import { unloadedLadder } from '../../src/core/ladder/unloaded';

/** A symmetric sine behind a resistance. */
export function sineDrive(peakVolts: number, frequencyHertz = 1, seriesOhms = 0): Drive {
  return {
    waveform: 'sine',
    positivePeakVolts: peakVolts,
    negativePeakVolts: peakVolts,
    duty: 0.5,
    edgeSeconds: 0,
    samples: null,
    frequencyHertz,
    seriesOhms,
    seriesHenries: 0,
    seriesFarads: null,
    maxAmps: null,
    maxWatts: null,
    chargingLossWatts: 0,
    lift: null,
    forwardLift: null,
    supply: null,
    rough: false,
    burst: null,
    collapsingPeak: 'both',
  };
}

/** Light-load coefficients of a network without strays. */
export function lightLoadOf(network: LadderNetwork, drive: Drive = sineDrive(1)): LightLoad {
  const { capacitive, response } = unloadedLadder(network, drive, 0, 0);
  const light = lightLoadBookkeeping(network, capacitive, response, drive);
  if (!light) throw new Error('no light-load answer');
  return light;
}
