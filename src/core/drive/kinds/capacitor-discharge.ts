import type { Driver, Transformer } from '../../design/driver-schema';
import { sayQuantity } from '../../quantity/format-quantity';
import { judgeRectifier } from '../judge';
import { plainDrive, ratioOf, Report, type Made, type Surroundings } from '../drive-result';

/** In which the secondary of an ignition coil climbs (common practice, no source). */
const COIL_RISE_SECONDS = 20e-6;

/**
 * A capacitor discharged through a gap or switch into a coil, shot by shot.
 *
 * Energy C V^2 / 2 a shot; as many a second as the charger's power allows, or as
 * set. The secondary's peak is what that energy makes of the capacitance there,
 * sqrt(2 E / C) less losses (conservation of energy, handbook), and no less than
 * the turns ratio lets through; the ringing's second peak runs the other way.
 */
export function capacitorDischarge(
  driver: Extract<Driver, { kind: 'capacitor-discharge' }>,
  transformer: Transformer,
  { ladderFarads }: Surroundings,
): Made {
  const report = new Report();
  const { storeFarads, storeVolts, chargerWatts, shotsPerSecond, ringFraction, efficiency } = driver;
  const joules = (storeFarads * storeVolts ** 2) / 2;
  const most = chargerWatts / joules;
  const shots = shotsPerSecond ?? most;
  const farads = transformer.secondaryFarads + ladderFarads;
  const byRatio = storeVolts * ratioOf(transformer) * transformer.coupling;
  const byEnergy = farads > 0 ? Math.sqrt((2 * joules * efficiency) / farads) : Infinity;
  const peakVolts = farads > 0 ? byEnergy : byRatio;
  const watts = joules * Math.min(shots, most) * efficiency;
  report.figure('driver', 'joules', 'Energy a shot', joules, 'J');
  report.figure('driver', 'most-shots', 'Shots a second, at most', most, 'Hz');
  report.figure('driver', 'power', 'Power into shots', joules * Math.min(shots, most), 'W');
  report.figure('transformer', 'by-energy', 'Secondary, peak, by energy', byEnergy, 'V');
  report.figure('transformer', 'by-ratio', 'The same by turns ratio alone', byRatio, 'V');
  judgeRectifier(report, transformer);
  if (shots > most * 1.001)
    report.finding(
      'warn',
      'charger-too-weak',
      '$.driver.shotsPerSecond',
      `${sayQuantity(shots, 'Hz')} is asked; the charger can fill the store ${sayQuantity(most, 'Hz')} at most.`,
      'Use a stronger charger, a smaller store or fewer shots.',
    );
  return {
    ...report,
    drive: plainDrive({
      waveform: 'pulse',
      positivePeakVolts: peakVolts,
      negativePeakVolts: peakVolts * ringFraction,
      frequencyHertz: Math.min(shots, most),
      edgeSeconds: COIL_RISE_SECONDS,
      seriesOhms: transformer.secondaryOhms,
      maxWatts: watts,
      // A peak set by energy leaves none of it for the ladder until it is pulled down.
      heldWatts: farads > 0 ? watts : 0,
    }),
  };
}
