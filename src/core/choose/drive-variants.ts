import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { readDesign } from '../design/read-design';
import type { Ask } from './requirements';

/** A design's drive turned down, or at another frequency. */
export type DriveVariant = {
  design: Design;
  /** Part of the design's own drive, and of its frequency. */
  level: number;
  frequencyFactor: number;
};

const LEVELS = [0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5];
const FREQUENCIES = [0.5, 0.7, 1.4, 2];

/**
 * The design's drives that a search may use, its own first. A drive is turned
 * down where its voltage is set; a battery is what it is, and a frequency that
 * a tank or the mains sets stays.
 */
export function driveVariants(design: Design, ask: Pick<Ask, 'turnDown' | 'otherFrequency'>): DriveVariant[] {
  const own: DriveVariant = { design, level: 1, frequencyFactor: 1 };
  const levelled = ask.turnDown
    ? LEVELS.flatMap((level) => {
        const lower = turnedTo(design, level);
        return lower ? [{ ...own, design: lower, level }] : [];
      })
    : [];
  const all = [own, ...levelled];
  if (!ask.otherFrequency) return all;
  return [
    ...all,
    ...all.flatMap((variant) =>
      FREQUENCIES.flatMap((frequencyFactor) => {
        const other = withFrequency(variant.design, frequencyFactor);
        return other ? [{ ...variant, design: other, frequencyFactor }] : [];
      }),
    ),
  ];
}

const rounded = (value: number) => Number(value.toPrecision(4));

function turnedTo(design: Design, level: number): Design | null {
  const { driver, supply } = design;
  if (driver.kind === 'module')
    return changeDesign(design, { path: '$.driver.openVolts', value: rounded(driver.openVolts * level) });
  if (driver.kind === 'capacitor-discharge')
    return changeDesign(design, { path: '$.driver.storeVolts', value: rounded(driver.storeVolts * level) });
  if (driver.kind === 'measured') {
    const { positivePeakVolts, negativePeakVolts, samples } = driver;
    return {
      ...design,
      driver: {
        ...driver,
        positivePeakVolts: rounded(positivePeakVolts * level),
        ...(negativePeakVolts === undefined ? {} : { negativePeakVolts: rounded(negativePeakVolts * level) }),
        samples: samples && samples.map((volts) => volts * level),
      },
    };
  }
  if (supply?.kind === 'dc')
    return changeDesign(design, { path: '$.supply.volts', value: rounded(supply.volts * level) });
  if (supply?.kind === 'mains' || supply?.kind === 'smoothed-mains')
    return changeDesign(design, { path: '$.supply.setting', value: rounded(supply.setting * level) });
  return null;
}

function withFrequency(design: Design, factor: number): Design | null {
  const { driver } = design;
  if (!('frequencyHertz' in driver) || driver.frequencyHertz === null) return null;
  const changed = changeDesign(design, {
    path: '$.driver.frequencyHertz',
    value: rounded(driver.frequencyHertz * factor),
  });
  return readDesign(changed).ok ? changed : null;
}
