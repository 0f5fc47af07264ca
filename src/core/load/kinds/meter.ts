import { quantityField } from '../../quantity/field-description';
import { quantity } from '../../schema/fields';
import * as z from '../../zod';
import { loadKind, throughOhms } from '../load-kind';

/** What most digital meters draw through, Ω (common practice, no source). */
const METER_OHMS = 10e6;

export const meter = loadKind(
  z.strictObject({ kind: z.literal('meter'), ohms: quantity('Ω', '10e6', 'above zero').default(METER_OHMS) }),
  {
    kind: 'meter',
    name: 'meter',
    fields: [
      quantityField('ohms', 'Probe resistance', 'Ω', {
        hint: 'Many meters draw through 10M; a high-voltage probe through 1G or so.',
      }),
    ],
    start: () => ({ ohms: METER_OHMS }),
    ampsAt: ({ ohms }, volts, seriesOhms) => throughOhms(ohms, volts, seriesOhms),
    steadyAmps: () => null,
    ohms: ({ ohms }) => ohms,
    branch: () => null,
  },
);
