import { formatQuantity } from '../quantity/format-quantity';
import type { Drive } from './drive';
import type { DriveCollector } from './drive-result';
import { rectifierRipple, sagged, type DirectFeed } from './sag';
import { phaseCut, phaseCutSamples } from './phase-cut';
import type { Supply } from './supply';

/**
 * The direct voltage a supply gives, V, what it sags by, Ω, and its limit, A.
 *
 * Smoothed mains: the winding's peak less the bridge's drops; how it sags, see
 * `sagVolts`. Mains itself is no direct supply: 0.
 */
export function directFeed(supply: Supply): DirectFeed {
  switch (supply.kind) {
    case 'battery':
      return {
        volts: supply.cells * supply.voltsEach,
        seriesOhms: supply.cells * supply.ohmsEach,
        rectified: null,
        maxAmps: null,
      };
    case 'dc':
      return { volts: supply.volts, seriesOhms: supply.seriesOhms, rectified: null, maxAmps: supply.maxAmps };
    case 'smoothed-mains':
      return {
        volts: Math.max(0, smoothedPeakVolts(supply)),
        seriesOhms: 0,
        rectified: { ohms: supply.seriesOhms, hertz: supply.hertz, farads: supply.smoothingFarads },
        maxAmps: supply.maxAmps,
      };
    case 'mains':
      return { volts: 0, seriesOhms: 0, rectified: null, maxAmps: null };
  }
}

/** The winding's peak as set and dimmed, less the bridge's drops, V; below zero where the bridge takes it all. */
function smoothedPeakVolts(supply: Extract<Supply, { kind: 'smoothed-mains' }>): number {
  const { secondaryVolts, setting, dimmedDegrees, bridgeVolts } = supply;
  return secondaryVolts * setting * Math.SQRT2 * phaseCut(dimmedDegrees).peak - bridgeVolts;
}

/** A dimmer before a transformer, where there is one. */
export function reportDimmer(result: DriveCollector, dimmedDegrees: number): void {
  if (dimmedDegrees > 0)
    result.finding(
      'warn',
      'dimmer-before-transformer',
      '$.supply.dimmedDegrees',
      'A dimmer feeds a transformer: half periods that differ a little drive direct current through its primary, and up to 90° the peak does not fall at all.',
      'Use a variable transformer; few dimmers are made for such a load.',
    );
}

/**
 * The line's own waveform at an RMS voltage without load: a sine, or what a dimmer
 * leaves of it; with its figures.
 *
 * @param rmsVolts of the sine it would be without dimmer
 */
export function lineWave(
  result: DriveCollector,
  { hertz, dimmedDegrees }: { hertz: number; dimmedDegrees: number },
  rmsVolts: number,
): Pick<Drive, 'waveform' | 'samples' | 'positivePeakVolts' | 'negativePeakVolts' | 'frequencyHertz'> {
  const dimmed = dimmedDegrees > 0 ? phaseCut(dimmedDegrees) : null;
  const samples = dimmed && phaseCutSamples(dimmedDegrees, rmsVolts * Math.SQRT2);
  const peakVolts = samples ? Math.max(...samples) : rmsVolts * Math.SQRT2;
  result.figure('openRmsVolts', dimmed ? rmsVolts * Math.SQRT2 * dimmed.rms : rmsVolts);
  result.figure('openPeakVolts', peakVolts);
  if (dimmed) result.sampledAsSine('$.supply.dimmedDegrees');
  return {
    waveform: samples ? 'sampled' : 'sine',
    samples,
    positivePeakVolts: peakVolts,
    negativePeakVolts: peakVolts,
    frequencyHertz: hertz,
  };
}

/** What a driver draws from a direct supply with nothing connected to its output; left out where nothing of that is known. */
export function reportIdle(result: DriveCollector, feed: DirectFeed, watts: number): void {
  if (!(feed.volts > 0 && watts > 0)) return;
  result.figure('idleAmps', watts / sagged(feed, watts));
  result.figure('idleWatts', watts);
}

/**
 * Figures of a direct supply that gives this much power, W; of one without load where that is not known.
 *
 * @param heldAt what its limit of current leaves of its voltage, V; undefined where that is not reached
 */
export function reportFeed(result: DriveCollector, supply: Supply, watts: number | null, heldAt?: number): void {
  const feed = directFeed(supply);
  const { volts: openVolts, maxAmps } = feed;
  result.figure('supplyOpenVolts', openVolts);
  if (openVolts === 0)
    result.finding(
      'stop',
      'supply-gives-nothing',
      '$.supply',
      'The supply gives no voltage: the bridge takes all of the winding’s peak.',
      'Use a higher secondary voltage or setting.',
    );
  if (supply.kind === 'smoothed-mains') {
    reportDimmer(result, supply.dimmedDegrees);
    if (!supply.isolated)
      result.finding(
        'warn',
        'supply-not-isolated',
        '$.supply.isolated',
        'Supply and driver are connected to the mains: all before the high-voltage transformer is live to ground, and only that transformer’s insulation keeps the ladder apart from it.',
        'Work on it behind an isolating transformer, and clip no earthed scope or meter to it.',
      );
  }
  if (watts === null || openVolts === 0) return;
  // At its limit it gives what is drawn at the voltage which that takes, the forward stroke's share for the load included.
  const volts = heldAt === undefined ? sagged(feed, watts) : Math.min(openVolts, Math.max(heldAt, watts / maxAmps!));
  const amps = watts / volts;
  result.figure('supplyAmps', amps);
  result.figure('supplyWatts', watts);
  result.figure('supplyVolts', volts);
  if (heldAt !== undefined)
    result.finding(
      'warn',
      'supply-over-current',
      '$.supply.maxAmps',
      `The driver draws the ${formatQuantity(maxAmps!, 'A')} that the supply is limited to and pulls it down to ${formatQuantity(volts, 'V')}; a supply that shuts off instead does not run it at all.`,
      'Use a stronger supply, or let the driver draw less.',
    );
  else if (maxAmps !== null && amps > maxAmps * 1.001)
    result.finding(
      'warn',
      'supply-over-current',
      '$.supply.maxAmps',
      `${formatQuantity(amps, 'A')} is asked of a supply that gives ${formatQuantity(maxAmps, 'A')}.`,
      'Draw less or use a stronger supply.',
    );
  if (supply.kind === 'battery' && supply.ampHours !== null && amps > 0)
    result.figure('runSeconds', (supply.ampHours / amps) * 3600);
  if (supply.kind === 'smoothed-mains') {
    const { seriesOhms: windingOhms } = supply;
    const peakVolts = smoothedPeakVolts(supply);
    const { volts: rippleVolts, angle } = rectifierRipple(feed, feed.rectified!, amps);
    result.figure('supplyRippleVolts', rippleVolts);
    // The capacitor takes half a period's charge while the sine climbs over what is left of it, or as the winding lets it.
    const byWinding = windingOhms > 0 ? (openVolts - volts) / windingOhms : Infinity;
    if (angle > 0) result.figure('supplyPulseAmps', Math.min((amps * Math.PI * 2) / angle, byWinding));
    if (windingOhms > 0) result.figure('supplyInrushAmps', peakVolts / windingOhms);
    if (rippleVolts > 0.2 * peakVolts)
      result.finding(
        'warn',
        'smoothing-small',
        '$.supply.smoothingFarads',
        `The smoothing capacitor lets the supply ripple by ${formatQuantity(rippleVolts, 'V')} peak-to-peak: the output hums with it.`,
        'Use a larger smoothing capacitor.',
      );
  }
}
