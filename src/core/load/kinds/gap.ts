import { quantityField } from '../../quantity/field-description';
import { quantity } from '../../schema/fields';
import * as z from '../../zod';
import { loadKind, rough } from '../load-kind';

/** How far above the present voltage a gap of its kind strikes. */
const USUAL_STRIKE = 1.1;

/** A spark gap: nothing until it strikes, then a resistance until its arc goes out. */
export const gap = loadKind(
  z.strictObject({
    kind: z.literal('gap'),
    strikeVolts: quantity('V', '9000', 'above zero'),
    arcOhms: quantity('Ω', '1000', 'above zero').default(1000),
    quenchAmps: quantity('A', '0.001', 'above zero').default(1e-3),
  }),
  {
    kind: 'gap',
    name: 'spark gap',
    fields: [
      quantityField('strikeVolts', 'Gap strikes at', 'V'),
      quantityField('arcOhms', 'Arc resistance', 'Ω'),
      quantityField('quenchAmps', 'Arc goes out under', 'A'),
    ],
    start: ({ volts }) => ({ strikeVolts: rough(volts * USUAL_STRIKE), arcOhms: 1000, quenchAmps: 1e-3 }),
    ampsAt: () => 0,
    steadyAmps: () => null,
    ohms: () => null,
    branch: ({ strikeVolts, arcOhms, quenchAmps }) => ({
      amps: (volts, arc) => (arc ? volts / arcOhms : 0),
      slope: (_volts, arc) => (arc ? 1 / arcOhms : 0),
      pieceOf: () => 0,
      gap: { strikeVolts, quenchAmps },
    }),
  },
);
