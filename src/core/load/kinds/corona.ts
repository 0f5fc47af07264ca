import { quantityField } from '../../quantity/field-description';
import { quantity } from '../../schema/fields';
import * as z from '../../zod';
import { loadKind, rough } from '../load-kind';

/** Share of the present voltage at which a corona of its kind starts. */
const USUAL_ONSET = 0.6;

/** Corona: i = k u (u - u0) above its onset u0 (Townsend's law, from memory), u the voltage at the load. */
export const corona = loadKind(
  z.strictObject({
    kind: z.literal('corona'),
    onsetVolts: quantity('V', '5000', 'zero or more'),
    ampsPerSquareVolt: quantity('A/V²', '1e-12', 'zero or more'),
  }),
  {
    kind: 'corona',
    name: 'corona',
    fields: [
      quantityField('onsetVolts', 'Corona starts at', 'V'),
      quantityField('ampsPerSquareVolt', 'Coefficient', 'A/V²', { hint: 'Draws coefficient × V × (V − start).' }),
    ],
    start: ({ amps, volts }) => {
      const onsetVolts = rough(volts * USUAL_ONSET);
      return { onsetVolts, ampsPerSquareVolt: rough(amps / (volts * (volts - onsetVolts))) };
    },
    ampsAt: ({ onsetVolts, ampsPerSquareVolt }, volts, seriesOhms) => {
      if (volts <= onsetVolts || ampsPerSquareVolt === 0) return 0;
      const loss = seriesOhms * ampsPerSquareVolt;
      const spare = volts - onsetVolts;
      const linear = 1 + loss * onsetVolts;
      // V - u0 = w + Rs k (u0 + w) w for what stands above the onset, solved so that no digits cancel.
      const above = (2 * spare) / (linear + Math.sqrt(linear ** 2 + 4 * loss * spare));
      return ampsPerSquareVolt * (onsetVolts + above) * above;
    },
    steadyAmps: () => null,
    ohms: () => null,
    branch: ({ onsetVolts, ampsPerSquareVolt }) => ({
      amps: (volts) => (volts > onsetVolts ? ampsPerSquareVolt * volts * (volts - onsetVolts) : 0),
      slope: (volts) => (volts > onsetVolts ? ampsPerSquareVolt * (2 * volts - onsetVolts) : 0),
      pieceOf: null,
      gap: null,
    }),
  },
);
