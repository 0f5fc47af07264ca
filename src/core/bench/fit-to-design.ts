import type { Design } from '../design/design-schema';
import { MOST_NOTES } from '../design/design-schema';
import { withHeight } from '../drive/recorded-driver';
import { formatQuantity } from '../quantity/format-quantity';
import { isExplained, type Fit, type Fitted } from './fit';
import { dropStated, UNKNOWN_INFO, type Point, type UnknownId } from './fit-model';

/** No part is known better than that by a fit, whatever its interval. */
const LEAST_SPREAD = 0.002;

/** Of a fit that explains the readings, what may go into a design: what these readings tell, and what is of the design and not of the test. */
export function takenInto({ driver }: Design, points: readonly Point[], fit: Fit): Fitted[] {
  if (!isExplained(fit)) return [];
  const { fitted, alike } = fit;
  const isOwnDrive =
    driver.kind === 'measured' && points.every((point) => point.kind === 'step' || point.source.kind === 'turned-down');
  const goes: Record<UnknownId, boolean> = {
    source: isOwnDrive,
    ohms: isOwnDrive,
    hertz: isOwnDrive,
    secondary: true,
    forward: true,
    farads: true,
    strays: true,
    // No more than the meter: the design's own figures leave it out.
    leak: false,
    meter: false,
    load: true,
  };
  const ofDesign = (id: UnknownId) => goes[id];
  return fitted.filter(
    ({ id, isCut, value }) => ofDesign(id) && !isCut && (value > 0 || id === 'ohms') && !alike?.ids.includes(id),
  );
}

/**
 * The design with what readings have told of it, its spread narrowed to what
 * they leave open, and a line of its notes that says so; notes that are full
 * stay as they are.
 *
 * @param taken as `takenInto` gives them
 * @param when in words
 */
export function withFitted(design: Design, taken: readonly Fitted[], when: string): Design {
  let changed = design;
  for (const one of taken) changed = withOne(changed, one);
  return withLine(changed, `Bench, ${when}: ${taken.map(inWords).join('; ')}.`);
}

function withLine(design: Design, line: string): Design {
  const notes = design.notes === '' ? line : `${design.notes}\n${line}`;
  return notes.length <= MOST_NOTES ? { ...design, notes } : design;
}

/** What readings of a driver with a tank tell of it; absent where they do not. */
export type DriverFitted = { henries?: number; quality?: number };

/** The design with them, and a line of its notes that says so. */
export function withDriverFit(design: Design, { henries, quality }: DriverFitted, when: string): Design {
  const { transformer, driver } = design;
  if (driver.kind !== 'resonant-push-pull' || !transformer) return design;
  const words = [
    ...(henries === undefined ? [] : [`primary inductance ${formatQuantity(henries, 'H')}`]),
    ...(quality === undefined ? [] : [`Q of the tank ${formatQuantity(quality, '')}`]),
  ];
  return withLine(
    {
      ...design,
      transformer: {
        ...transformer,
        primaryHenries: henries === undefined ? transformer.primaryHenries : told(henries),
      },
      driver: { ...driver, unloadedQuality: quality === undefined ? driver.unloadedQuality : told(quality) },
    },
    `Bench, ${when}: ${words.join('; ')}.`,
  );
}

/** The most that a spread or a tolerance may be. */
const MOST_SPREAD = 0.99;
const spreadOf = (open: number): number => Math.min(MOST_SPREAD, Math.max(LEAST_SPREAD, open));

/** More digits than any fit tells: a field shows none that nobody read. */
const FITTED_DIGITS = 4;
const told = (value: number): number => Number(value.toPrecision(FITTED_DIGITS));

function withOne(design: Design, { id, value, low, high }: Fitted): Design {
  const { ladder, spread, driver } = design;
  const open = told(spreadOf((high - low) / 2 / value));
  switch (id) {
    case 'forward': {
      // Moved as a whole: at the current that it is rated at by as much as at the meter's.
      const forwardVolts = told(Math.max(0, ladder.diode.forwardVolts + value - dropStated(design)));
      return {
        ...design,
        ladder: { ...ladder, diode: { ...ladder.diode, forwardVolts } },
        spread: { ...spread, forward: open },
      };
    }
    case 'farads': {
      const { capacitor, capacitorFarads } = ladder;
      return {
        ...design,
        ladder: {
          ...ladder,
          capacitor: { ...capacitor, farads: told(capacitor.farads * value), tolerance: open },
          capacitorFarads: capacitorFarads && capacitorFarads.map((farads) => told(farads * value)),
        },
      };
    }
    case 'source':
      return driver.kind === 'measured'
        ? {
            ...design,
            driver: withHeight(driver, value),
            spread: { ...spread, peaks: open },
          }
        : design;
    case 'ohms': {
      if (driver.kind !== 'measured') return design;
      const seriesOhms = told(driver.seriesOhms + value);
      return {
        ...design,
        driver: { ...driver, seriesOhms },
        spread: { ...spread, source: told(spreadOf((high - low) / 2 / seriesOhms)) },
      };
    }
    case 'hertz':
      return driver.kind === 'measured'
        ? {
            ...design,
            driver: { ...driver, frequencyHertz: told(driver.frequencyHertz * value) },
            spread: { ...spread, frequency: open },
          }
        : design;
    case 'secondary': {
      const { transformer } = design;
      return { ...design, transformer: transformer && { ...transformer, secondaryFarads: told(value) } };
    }
    case 'strays':
      return {
        ...design,
        ladder: { ...ladder, strayFarads: told(value) },
        spread: { ...spread, strays: told(Math.min(10, Math.max(1, low > 0 ? Math.sqrt(high / low) : 10))) },
      };
    case 'load': {
      const { load } = design;
      if (load.kind === 'current') return { ...design, load: { ...load, amps: told(load.amps * value) } };
      return load.kind === 'resistance' ? { ...design, load: { ...load, ohms: told(load.ohms / value) } } : design;
    }
    case 'leak':
    case 'meter':
      return design;
  }
}

/** "the diodes’ forward drop 640 mV, 567 to 715 mV (500 mV before)". */
const inWords = ({ id, stated, value, low, high }: Fitted): string => {
  const [was, is, from, to] = [stated, value, low, high].map((one) => formatQuantity(one, UNKNOWN_INFO[id].unit));
  return `${UNKNOWN_INFO[id].words} ${is}, ${from} to ${to} with 90 % (${was} before)`;
};
