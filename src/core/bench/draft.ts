import { choice, quantity } from '../schema/fields';
import * as z from '../zod';
import { FAILURE_WAYS, READING_KINDS, type FailureWay, type ReadingKind } from './entries';

/** Readings that have no field of their own in the tables of the test and the steps. */
const FREE_KINDS = [
  'frequency',
  'peak',
  'ripple',
  'loaded',
  'gap',
  'resistance',
  'capacitance',
  'drop',
  'supply-current',
  'tap',
] as const satisfies readonly ReadingKind[];

const WHATS = [...FREE_KINDS, 'failure', 'scope', 'note'] as const;
export type DraftKind = (typeof WHATS)[number];

export const DRAFT_NAMES: Record<DraftKind, string> = {
  ...(Object.fromEntries(FREE_KINDS.map((kind) => [kind, READING_KINDS[kind].name])) as Record<
    (typeof FREE_KINDS)[number],
    string
  >),
  'supply-current': 'Supply current at full drive, without load',
  tap: 'Tap, through another meter',
  failure: 'Failure of a part',
  scope: 'Scope record of a node',
  note: 'Picture or remark',
};

const seconds = quantity('s', '60', 'zero or more').nullable().default(null);

/** An entry as it is being typed: of the browser, so that nothing typed is lost with the page. */
export const draftSchema = z.strictObject({
  designId: z.string().default(''),
  kind: choice(WHATS).default('frequency'),
  at: z.string().max(40).default(''),
  text: z.string().max(60).default(''),
  /** By its name among one's own; empty for the session's. */
  meterName: z.string().max(40).default(''),
  how: choice(Object.keys(FAILURE_WAYS) as [FailureWay, ...FailureWay[]]).default('shorted'),
  remark: z.string().max(500).default(''),
  sinceOnSeconds: seconds,
  heldSeconds: seconds,
});
export type Draft = z.output<typeof draftSchema>;
