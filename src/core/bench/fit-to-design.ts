import type { Design } from '../design/design-schema';
import { MOST_NOTES } from '../design/design-schema';
import { withHeight } from '../drive/recorded-driver';
import { formatQuantity } from '../quantity/format-quantity';
import { isExplained, type Fit, type Fitted } from './fit';
import { dropStated, UNKNOWN_WORDS, UNKNOWN_UNITS, type UnknownId } from './fit-model';
import type { LowSource } from './low-source';

/** No part is known better than that by a fit, whatever its interval. */
const LEAST_SPREAD = 0.002;

/** Of a fit that explains the readings, what may go into a design: what these readings tell, and what is of the design and not of the test. */
export function takenInto(design: Design, sources: readonly LowSource[], fit: Fit): Fitted[] {
  if (!isExplained(fit)) return [];
  const { fitted, alike } = fit;
  const ofDesign = (id: UnknownId) =>
    id === 'forward' ||
    id === 'farads' ||
    (id === 'source' && sources.every(({ kind }) => kind === 'turned-down') && design.driver.kind === 'measured');
  return fitted.filter(({ id, isCut, value }) => ofDesign(id) && !isCut && value > 0 && !alike?.ids.includes(id));
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
  const line = `Bench, ${when}: ${taken.map(inWords).join('; ')}.`;
  const notes = design.notes === '' ? line : `${design.notes}\n${line}`;
  return notes.length <= MOST_NOTES ? { ...changed, notes } : changed;
}

function withOne(design: Design, { id, value, low, high }: Fitted): Design {
  const { ladder, spread, driver } = design;
  const open = Math.min(1, Math.max(LEAST_SPREAD, (high - low) / 2 / value));
  switch (id) {
    case 'forward': {
      // Moved as a whole: at the current that it is rated at by as much as at the meter's.
      const forwardVolts = Math.max(0, ladder.diode.forwardVolts + value - dropStated(design));
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
          capacitor: { ...capacitor, farads: capacitor.farads * value, tolerance: open },
          capacitorFarads: capacitorFarads && capacitorFarads.map((farads) => farads * value),
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
    case 'meter':
      return design;
  }
}

/** "the diodes’ forward drop 640 mV, 567 to 715 mV (500 mV before)". */
const inWords = ({ id, stated, value, low, high }: Fitted): string => {
  const [was, is, from, to] = [stated, value, low, high].map((one) => formatQuantity(one, UNKNOWN_UNITS[id]));
  return `${UNKNOWN_WORDS[id]} ${is}, ${from} to ${to} with 90 % (${was} before)`;
};
