import type { Place } from '../parts/place';
import { quantityField } from '../quantity/field-description';
import { formatQuantity } from '../quantity/format-quantity';
import type { Rating } from '../quantity/ratings';
import type { PowerCheck } from './driver-kind';
import type { DriveFigures } from './figures';
import { fraction, partId, quantity } from '../schema/fields';

/** What drivers with transistors have of them in the document; ratings are each one's. */
export const TRANSISTOR_SCHEMA = {
  ratedVolts: quantity('V', '200', 'above zero').nullable().default(null),
  /** Continuous. */
  ratedAmps: quantity('A', '30', 'above zero').nullable().default(null),
  transistorPartId: partId,
};

export const TRANSISTOR_FIELDS = [
  quantityField('ratedVolts', 'Transistor rated', 'V', { optional: true }),
  quantityField('ratedAmps', 'Transistor rated, continuous', 'A', { optional: true, more: true }),
];

/** How long a transistor takes to stop conducting, by its usual of field effect or bipolar ones (common practice, no source). */
export const switchSeconds = (usual: number) => quantity('s', '50e-9', 'zero or more').default(usual);
export const SWITCH_SECONDS_FIELD = quantityField('switchSeconds', 'Takes to turn off', 's', {
  more: true,
  hint: 'For its loss at the edges alone: usually 20n to 100n, of a bipolar one 0.2u to 1u.',
});

/**
 * Lost as a current falls evenly while the voltage across its switch rises, W:
 * V I t f / 2, and no more than I^2 t^2 f / 24 C where a capacitance across the
 * switch holds the voltage back meanwhile (handbook: turn-off with a capacitive
 * snubber).
 */
export function turnOffWatts(
  { volts, amps, farads = 0 }: { volts: number; amps: number; farads?: number },
  seconds: number,
  hertz: number,
): number {
  const overlapped = (volts * amps * seconds * hertz) / 2;
  return farads > 0 ? Math.min(overlapped, ((amps * seconds) ** 2 * hertz) / (24 * farads)) : overlapped;
}

/** Share of the supply's power that reaches the ladder's input. */
export const efficiency = fraction('0.8');
export const EFFICIENCY_FIELD = quantityField('efficiency', 'Efficiency, guessed', '%', {
  more: true,
  hint: 'Of driver and transformer together; measure it if you can.',
});

export const transistorRatings = ({
  ratedVolts,
  ratedAmps,
}: {
  ratedVolts: number | null;
  ratedAmps: number | null;
}): Rating[] => [
  { id: 'transistorVoltage', rated: ratedVolts },
  { id: 'transistorCurrent', rated: ratedAmps },
];

/** What a switch that lets its primary fly asks before power. */
export const unloadedSwitch = ({ transistorPeakVolts = 0 }: DriveFigures): PowerCheck => ({
  code: 'switch-unloaded',
  text: `Without load the switch sees ${formatQuantity(transistorPeakVolts, 'V')} peak: have clamp and ladder connected before the first pulse.`,
});

/**
 * Transistors of one type in all places of a driver.
 *
 * @param countOf how many a driver of this kind switches with
 * @param holdsItsPulse whether its pulse climbs to whatever the transistor holds it at, so that any type serves
 * @param known which fields beside the ratings the driver has of a transistor
 */
export function transistorPlace(
  countOf: Place['count'],
  {
    holdsItsPulse = false,
    known = [],
  }: { holdsItsPulse?: boolean; known?: readonly ('transistorOhms' | 'gateThresholdVolts')[] } = {},
): Place {
  return {
    id: 'transistor',
    name: 'Transistors',
    takes: 'transistor',
    partId: 'driver.transistorPartId',
    fields: ['ratedVolts', 'ratedAmps', 'transistorOhms', 'gateThresholdVolts'].map((field) => `driver.${field}`),
    count: countOf,
    fit: (read, part, { transistorVolts }) => {
      if (part.kind !== 'transistor') return null;
      const { ratedVolts, averageAmps, onOhms, gateThresholdVolts } = part;
      const blocks = holdsItsPulse ? null : transistorVolts;
      if (blocks !== null && ratedVolts < blocks) return null;
      const count = countOf(read);
      const values = { transistorOhms: onOhms, gateThresholdVolts };
      return {
        words: `${count === 1 ? 'one' : count}${blocks === null ? '' : `, ${formatQuantity(ratedVolts / blocks - 1, '%', 2)} margin`}`,
        values: {
          'driver.ratedVolts': ratedVolts,
          'driver.ratedAmps': averageAmps,
          ...Object.fromEntries(
            known.flatMap((field) => (values[field] === null ? [] : [[`driver.${field}`, values[field]]])),
          ),
        },
      };
    },
  };
}
