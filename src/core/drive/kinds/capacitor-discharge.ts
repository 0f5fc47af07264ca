import { ratioOf, usualTransformer, type Transformer } from '../../magnetics/transformer';
import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { fraction, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { DriveCollector, plainDrive, type DriveContext, type DriveResult } from '../drive-result';
import { driverKind, needed } from '../driver-kind';
import { reportRectifier } from '../transformer-checks';
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
    transformer: usualTransformer(peakVolts, USUAL_STORAGE_VOLTS, {
      primaryHenries: null,
      coreSquareMetres: null,
      secondaryFarads: 50e-12,
    }),
  }),
  places: [],
  ratings: () => [],
  drive: ({ driver, transformer }, context) => dischargeDrive(driver, needed(transformer), context),
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
 * A capacitor discharged through a gap or switch into a coil, shot by shot.
 *
 * Energy C V^2 / 2 a shot; as many a second as the charger's power allows, or as
 * set. The secondary's peak is what that energy makes of the capacitance there,
 * sqrt(2 E / C) less losses (conservation of energy, handbook), and no less than
 * the turns ratio lets through; the ringing's second peak runs the other way.
 */
function dischargeDrive(
  driver: z.output<typeof schema>,
  transformer: Transformer,
  { ladderFarads }: DriveContext,
): DriveResult {
  const result = new DriveCollector();
  const { storageFarads, storageVolts, chargerWatts, shotsPerSecond, ringFraction, efficiency } = driver;
  const joules = (storageFarads * storageVolts ** 2) / 2;
  const most = chargerWatts / joules;
  const shots = shotsPerSecond ?? most;
  const farads = transformer.secondaryFarads + ladderFarads;
  const byRatio = storageVolts * ratioOf(transformer) * transformer.coupling;
  const byEnergy = farads > 0 ? Math.sqrt((2 * joules * efficiency) / farads) : Infinity;
  const peakVolts = farads > 0 ? byEnergy : byRatio;
  const watts = joules * Math.min(shots, most) * efficiency;
  result.figure('shotJoules', joules);
  result.figure('mostShotsHertz', most);
  result.figure('shotWatts', joules * Math.min(shots, most));
  result.figure('byEnergyVolts', byEnergy);
  result.figure('byRatioVolts', byRatio);
  reportRectifier(result, transformer);
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
      // A peak set by energy leaves none of it for the ladder until it is pulled down.
      chargingLossWatts: farads > 0 ? watts : 0,
    }),
  );
}
