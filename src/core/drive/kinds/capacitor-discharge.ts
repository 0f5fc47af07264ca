import { ratioOf, usualTransformer, type Transformer } from '../../magnetics/transformer';
import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { fraction, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { DriveCollector, footFarads, plainDrive, type DriveContext, type DriveResult } from '../drive-result';
import { capacitorDischargeCircuit } from '../circuits/capacitor-discharge';
import { driverKind, needed } from '../driver-kind';
import { NO_INDUCTANCE } from '../supply-circuit';
import { efficiency, EFFICIENCY_FIELD } from '../transistors';

const schema = z.strictObject({
  kind: z.literal('capacitor-discharge'),
  storageFarads: quantity('F', '1e-6', 'above zero'),
  storageVolts: quantity('V', '325', 'above zero'),
  /** What the charger puts into the storage capacitor. */
  chargerWatts: quantity('W', '20', 'above zero'),
  /** Shots a second where something sets them; as fast as the charger can when not. */
  shotsPerSecond: quantity('Hz', '50', 'above zero').nullable().default(null),
  /** Second peak of the ringing against the first. */
  ringFraction: fraction('0.5').default(0.5),
  efficiency: efficiency.default(0.5),
});

const USUAL_STORAGE_VOLTS = 325;
/** Of the primary of an ignition coil for capacitor discharge (common practice, no source). */
const COIL_HENRIES = 0.5e-3;

export const capacitorDischarge = driverKind(schema, {
  kind: 'capacitor-discharge',
  name: 'Capacitor discharge',
  needs: { supply: [], transformer: true, inductance: false },
  fields: [
    quantityField('storageFarads', 'Storage capacitor', 'F'),
    quantityField('storageVolts', 'Charged to, dc', 'V'),
    quantityField('chargerWatts', 'Charger gives', 'W'),
    quantityField('shotsPerSecond', 'Shots a second', 'Hz', {
      optional: true,
      hint: 'As fast as the charger can while it is not set.',
    }),
    quantityField('ringFraction', 'Second peak of the ringing', '%', { more: true }),
    EFFICIENCY_FIELD,
  ],
  start: ({ peakVolts }) => ({
    driver: {
      storageFarads: 1e-6,
      storageVolts: USUAL_STORAGE_VOLTS,
      chargerWatts: 20,
    },
    transformer: usualTransformer(peakVolts, Math.SQRT2 * USUAL_STORAGE_VOLTS, {
      primaryHenries: COIL_HENRIES,
      coreSquareMetres: null,
      secondaryFarads: 50e-12,
    }),
  }),
  places: [],
  ratings: () => [],
  drive: ({ driver, transformer }, context) => dischargeDrive(driver, needed(transformer), context),
  circuit: ({ driver, transformer }, { drive }, fed, ladderFarads) =>
    transformer?.primaryHenries == null
      ? NO_INDUCTANCE
      : capacitorDischargeCircuit({ ...driver, shotsPerSecond: drive.frequencyHertz }, transformer, fed, ladderFarads),
  leavesOut:
    'Mostly how a shot rings out: the closed form has its first peak and one more, the circuit all of them with what the ladder takes.',
  firstRun:
    'At the lowest supply, current limited, one discharge at a time, a load or a gap set under the design’s peak across the coil. The storage capacitor keeps its charge: measured empty before each touch.',
  beforePower: () => [
    {
      code: 'storage-charged',
      text: 'The storage capacitor keeps its charge: fit a bleeder across it and measure it before touching the coil.',
    },
  ],
});

/** In which the secondary of an ignition coil climbs (common practice, no source). */
const COIL_RISE_SECONDS = 20e-6;

/**
 * The most that a capacitor discharged through a coil puts across the
 * capacitance of its secondary without loss, V: the two modes of two coupled
 * circuits at their peaks together, 2 k r V / sqrt((1 - T)^2 + 4 k^2 T) with T =
 * r^2 Cs / C1 (handbook: two magnetically coupled resonant circuits; turns ratio
 * r as of both windings on one core). Tightly coupled it is 2 r V C1 / (C1 + r^2
 * Cs); where both circuits are in tune, all of the energy.
 */
export function transferredVolts(
  { storageFarads, storageVolts }: { storageFarads: number; storageVolts: number },
  { ratio, coupling }: { ratio: number; coupling: number },
  secondaryFarads: number,
): number {
  const tuning = (ratio ** 2 * secondaryFarads) / storageFarads;
  return (2 * coupling * ratio * storageVolts) / Math.sqrt((1 - tuning) ** 2 + 4 * coupling ** 2 * tuning);
}

/**
 * A capacitor discharged through a gap or switch into a coil, shot by shot.
 *
 * Energy C V^2 / 2 a shot; as many a second as the charger's power allows, or as
 * set. The secondary's peak is {@link transferredVolts} less what is lost; the
 * ringing's second peak runs the other way.
 */
function dischargeDrive(driver: z.output<typeof schema>, transformer: Transformer, context: DriveContext): DriveResult {
  const result = new DriveCollector();
  const { storageFarads, storageVolts, chargerWatts, shotsPerSecond, ringFraction, efficiency } = driver;
  const joules = (storageFarads * storageVolts ** 2) / 2;
  const most = chargerWatts / joules;
  const shots = shotsPerSecond ?? most;
  const farads = footFarads(transformer, context);
  const ratio = ratioOf(transformer);
  const lossless = transferredVolts(driver, { ratio, coupling: transformer.coupling }, farads);
  const peakVolts = lossless * Math.sqrt(efficiency);
  const watts = joules * Math.min(shots, most) * efficiency;
  result.figure('shotJoules', joules);
  result.figure('mostShotsHertz', most);
  result.figure('shotWatts', joules * Math.min(shots, most));
  result.figure('losslessPeakVolts', lossless);
  result.figure('secondaryPeakVolts', peakVolts);
  if (farads > 0) result.figure('byEnergyVolts', Math.sqrt((2 * joules) / farads));
  result.figure('byRatioVolts', storageVolts * ratio);
  if (shots > most * 1.001)
    result.finding(
      'warn',
      'charger-too-weak',
      '$.driver.shotsPerSecond',
      `${formatQuantity(shots, 'Hz')} is asked; the charger can fill the storage capacitor ${formatQuantity(most, 'Hz')} at most.`,
      'Use a stronger charger, a smaller storage capacitor or fewer shots.',
    );
  return result.with(
    plainDrive({
      waveform: 'pulse',
      positivePeakVolts: peakVolts,
      negativePeakVolts: peakVolts * ringFraction,
      frequencyHertz: Math.min(shots, most),
      edgeSeconds: COIL_RISE_SECONDS,
      seriesOhms: transformer.secondaryOhms,
      maxWatts: watts,
      rough: true,
      // What stands in the secondary's capacitance at the peak is there for the ladder only once that is pulled down.
      chargingLossWatts: Math.min(watts, ((farads * peakVolts ** 2) / 2) * Math.min(shots, most)),
    }),
  );
}
