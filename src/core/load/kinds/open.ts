import * as z from '../../zod';
import { loadKind } from '../load-kind';

/** Nothing at all. */
export const open = loadKind(z.strictObject({ kind: z.literal('open') }), {
  kind: 'open',
  name: 'open',
  fields: [],
  start: () => ({}),
  ampsAt: () => 0,
  steadyAmps: () => 0,
  ohms: () => null,
  branch: () => null,
});
