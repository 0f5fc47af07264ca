import type { Drive } from '../drive/drive';
import type { Design } from './design-schema';
import { driverSchema, NEEDS, supplySchema, transformerSchema, type DriverKind } from './driver-schema';

const ROUGH_DIGITS = 2;
const rough = (value: number) => Number(value.toPrecision(ROUGH_DIGITS));

/** Turns that a usual ferrite or bobbin carries, and what its primary then has. */
const USUAL_PRIMARY = { primaryTurns: 10, primaryHenries: 30e-6, coreSquareMetres: 1.2e-4 };
const USUAL_SUPPLY_VOLTS = 24;

/**
 * A driver of another kind, with supply and transformer as it needs them, that
 * gives about the peak of the present drive: a starting point whose every value
 * is to be replaced by one's own. What fits is kept.
 *
 * @param drive at the ladder's foot at present
 */
export function driverOfKind(
  kind: DriverKind,
  design: Design,
  drive: Drive,
): Pick<Design, 'supply' | 'driver' | 'transformer'> {
  const peakVolts = Math.max(drive.positivePeakVolts, drive.negativePeakVolts);
  const hertz = rough(Math.min(200e3, Math.max(15e3, drive.frequencyHertz)));
  const supply = supplyFor(kind, design);
  const feedVolts = supply?.kind === 'dc' ? supply.volts : USUAL_SUPPLY_VOLTS;
  const turnsFor = (primaryVolts: number) =>
    Math.max(1, rough((USUAL_PRIMARY.primaryTurns * peakVolts) / (primaryVolts * 0.97)));
  const wound = (primaryVolts: number, changes: object = {}) =>
    transformerSchema.parse({ ...USUAL_PRIMARY, secondaryTurns: turnsFor(primaryVolts), ...changes });
  switch (kind) {
    case 'measured':
      return {
        supply,
        transformer: null,
        driver: driverSchema.parse({
          kind,
          waveform: drive.waveform,
          samples: drive.samples,
          positivePeakVolts: drive.positivePeakVolts,
          ...(drive.negativePeakVolts === drive.positivePeakVolts
            ? {}
            : { negativePeakVolts: drive.negativePeakVolts }),
          duty: drive.duty,
          frequencyHertz: drive.frequencyHertz,
          seriesOhms: drive.seriesOhms,
          seriesHenries: drive.seriesHenries,
          maxWatts: drive.maxWatts,
          maxAmps: drive.maxAmps,
        }),
      };
    case 'mains':
      return {
        supply,
        transformer: null,
        driver: driverSchema.parse({ kind, secondaryVolts: Number((peakVolts / Math.SQRT2).toPrecision(4)) }),
      };
    case 'resonant-push-pull':
      return {
        supply,
        transformer: wound(Math.PI * feedVolts),
        driver: driverSchema.parse({ kind, tankFarads: 680e-9, ratedVolts: 200 }),
      };
    case 'flyback':
      return {
        supply,
        transformer: wound(6 * feedVolts, { primaryHenries: 100e-6 }),
        driver: driverSchema.parse({ kind, frequencyHertz: hertz, clampVolts: 7 * feedVolts, ratedVolts: 400 }),
      };
    case 'blocking-oscillator':
      return {
        supply,
        transformer: wound(8 * feedVolts, {
          primaryTurns: 20,
          secondaryTurns: 2 * turnsFor(8 * feedVolts),
          primaryHenries: 200e-6,
        }),
        driver: driverSchema.parse({ kind }),
      };
    case 'inverter':
      return {
        supply,
        transformer: wound(feedVolts),
        driver: driverSchema.parse({ kind, frequencyHertz: hertz }),
      };
    case 'module':
      return {
        supply,
        transformer: null,
        driver: driverSchema.parse({
          kind,
          openVolts: peakVolts,
          frequencyHertz: drive.frequencyHertz,
          seriesOhms: drive.seriesOhms,
        }),
      };
    case 'capacitor-discharge':
      return {
        supply,
        transformer: transformerSchema.parse({
          primaryTurns: 10,
          secondaryTurns: turnsFor(325),
          secondaryFarads: 50e-12,
        }),
        driver: driverSchema.parse({ kind, storeFarads: 1e-6, storeVolts: 325, chargerWatts: 20 }),
      };
  }
}

function supplyFor(kind: DriverKind, { supply }: Design): Design['supply'] {
  const fits: readonly string[] = NEEDS[kind].supply;
  if (fits.length === 0) return null;
  if (supply && fits.includes(supply.kind)) return supply;
  return supplySchema.parse(fits.includes('dc') ? { kind: 'dc', volts: USUAL_SUPPLY_VOLTS } : { kind: 'mains' });
}

/** A supply of another kind, of about the same voltage where that can be said. */
export function supplyOfKind(
  kind: NonNullable<Design['supply']>['kind'],
  volts: number,
): NonNullable<Design['supply']> {
  switch (kind) {
    case 'battery':
      return supplySchema.parse({ kind, cells: Math.max(1, Math.round(volts / 1.5)) });
    case 'dc':
      return supplySchema.parse({ kind, volts });
    case 'smoothed-mains':
      return supplySchema.parse({ kind, secondaryVolts: rough((volts + 2) / Math.SQRT2) });
    case 'mains':
      return supplySchema.parse({ kind });
  }
}
