import { quantityField } from '../../quantity/field-description';
import { count, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { loadKind, rough } from '../load-kind';
import { softCurrent } from './current';

const USUAL_STEPS = 10;

/** A string of equal resistors whose taps give an electron tube its voltages, and what the tube takes of it. */
export const biasString = loadKind(
  z.strictObject({
    kind: z.literal('bias-string'),
    /** In all. */
    ohms: quantity('Ω', '10e6', 'above zero').default(10e6),
    steps: count(50).default(USUAL_STEPS),
    /** Through the tube, from one end of the string to the other. */
    tubeAmps: quantity('A', '10e-6', 'zero or more').default(0),
  }),
  {
    kind: 'bias-string',
    name: 'bias string of a tube',
    fields: [
      quantityField('ohms', 'String, in all', 'Ω'),
      quantityField('steps', 'Equal steps', ''),
      quantityField('tubeAmps', 'The tube takes', 'A'),
    ],
    start: ({ amps, volts }) => ({ ohms: rough(volts / amps), steps: USUAL_STEPS, tubeAmps: 0 }),
    ampsAt: ({ ohms, tubeAmps }, volts, seriesOhms) => (volts + tubeAmps * ohms) / (ohms + seriesOhms),
    steadyAmps: () => null,
    ohms: ({ tubeAmps, ohms }) => (tubeAmps === 0 ? ohms : null),
    branch: ({ ohms, tubeAmps }, peakToPeakVolts) => {
      if (tubeAmps === 0) return null;
      const tube = softCurrent(tubeAmps, peakToPeakVolts);
      return {
        ...tube,
        amps: (volts, arc) => tube.amps(volts, arc) + volts / ohms,
        slope: (volts, arc) => tube.slope(volts, arc) + 1 / ohms,
      };
    },
  },
);

/** Current of the string over that of the tube, from which its taps stand about still (common practice, no source). */
export const FIRM_STRING = 20;

/** A bias string at a voltage. */
export type StringFigures = {
  /** Between one tap and the next, V, and the heat of its resistor, W. */
  voltsEach: number;
  wattsEach: number;
  stringAmps: number;
  /** Of the string's current over the tube's; null where the tube takes none. */
  overTube: number | null;
};

/**
 * What a bias string's taps stand at with this voltage across it (Ohm's law), with
 * nothing taken at the taps.
 *
 * @param volts mean across it, V
 */
export function stringFigures(
  { ohms, steps, tubeAmps }: z.output<typeof biasString.schema>,
  volts: number,
): StringFigures {
  const stringAmps = volts / ohms;
  return {
    voltsEach: volts / steps,
    wattsEach: (stringAmps * volts) / steps,
    stringAmps,
    overTube: tubeAmps > 0 ? stringAmps / tubeAmps : null,
  };
}
