import type { Design } from '../design/design-schema';
import { editDesign } from '../drawer/edit-design';
import { readDesign } from '../design/read-design';
import type { Requirements } from './requirements';

/** A design's drive turned down, or at another frequency. */
export type DriveVariant = {
  design: Design;
  /** Fractions of the design's own drive and of its frequency. */
  driveScale: number;
  frequencyFactor: number;
};

const DRIVE_SCALES = [0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6, 0.55, 0.5];
const FREQUENCIES = [0.5, 0.7, 1.4, 2];

/**
 * The design's drives that a search may use, its own first. A drive is turned
 * down where its voltage is set; a battery is what it is, and a frequency that
 * a tank or the mains sets stays.
 */
export function driveVariants(
  design: Design,
  requirements: Pick<Requirements, 'turnDown' | 'otherFrequency'>,
): DriveVariant[] {
  const own: DriveVariant = { design, driveScale: 1, frequencyFactor: 1 };
  const turnedDown = requirements.turnDown
    ? DRIVE_SCALES.flatMap((driveScale) => {
        const lower = turnedTo(design, driveScale);
        return lower ? [{ ...own, design: lower, driveScale }] : [];
      })
    : [];
  const all = [own, ...turnedDown];
  if (!requirements.otherFrequency) return all;
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

function turnedTo(design: Design, scale: number): Design | null {
  const { driver, supply } = design;
  if (driver.kind === 'module')
    return editDesign(design, { path: '$.driver.openVolts', value: rounded(driver.openVolts * scale) });
  if (driver.kind === 'capacitor-discharge')
    return editDesign(design, { path: '$.driver.storageVolts', value: rounded(driver.storageVolts * scale) });
  if (driver.kind === 'measured') {
    const { positivePeakVolts, negativePeakVolts, samples } = driver;
    return {
      ...design,
      driver: {
        ...driver,
        positivePeakVolts: rounded(positivePeakVolts * scale),
        ...(negativePeakVolts === undefined ? {} : { negativePeakVolts: rounded(negativePeakVolts * scale) }),
        samples: samples && samples.map((volts) => volts * scale),
      },
    };
  }
  if (supply?.kind === 'dc')
    return editDesign(design, { path: '$.supply.volts', value: rounded(supply.volts * scale) });
  if (supply?.kind === 'mains' || supply?.kind === 'smoothed-mains')
    return editDesign(design, { path: '$.supply.setting', value: rounded(supply.setting * scale) });
  return null;
}

function withFrequency(design: Design, factor: number): Design | null {
  const { driver } = design;
  if (!('frequencyHertz' in driver) || driver.frequencyHertz === null) return null;
  const changed = editDesign(design, {
    path: '$.driver.frequencyHertz',
    value: rounded(driver.frequencyHertz * factor),
  });
  return readDesign(changed).ok ? changed : null;
}
