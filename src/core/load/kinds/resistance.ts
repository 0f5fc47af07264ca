import { quantityField } from '../../quantity/field-description';
import { quantity } from '../../schema/fields';
import * as z from '../../zod';
import { loadKind, rough, throughOhms } from '../load-kind';

export const resistance = loadKind(
  z.strictObject({ kind: z.literal('resistance'), ohms: quantity('Ω', '1e9', 'above zero') }),
  {
    kind: 'resistance',
    name: 'resistance',
    fields: [quantityField('ohms', 'Load resistance', 'Ω')],
    start: ({ amps, volts }) => ({ ohms: rough(volts / amps) }),
    ampsAt: ({ ohms }, volts, seriesOhms) => throughOhms(ohms, volts, seriesOhms),
    steadyAmps: () => null,
    ohms: ({ ohms }) => ohms,
    branch: () => null,
  },
);
