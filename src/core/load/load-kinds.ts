import { kindOf } from '../schema/fields';
import * as z from '../zod';
import { biasString } from './kinds/bias-string';
import { corona } from './kinds/corona';
import { current } from './kinds/current';
import { gap } from './kinds/gap';
import { meter } from './kinds/meter';
import { open } from './kinds/open';
import { resistance } from './kinds/resistance';
import type { AnyLoadKind } from './load-kind';

/** Every kind of load, in the order in which they are offered: one line each. */
const KINDS = [open, current, resistance, meter, biasString, corona, gap] as const;

type SchemasOf<T extends readonly { schema: unknown }[]> = { [At in keyof T]: T[At]['schema'] };
export type LoadKindId = (typeof KINDS)[number]['kind'];

export const loadSchema = z.discriminatedUnion(
  'kind',
  KINDS.map(({ schema }) => schema) as unknown as SchemasOf<typeof KINDS>,
  {
    error: kindOf(KINDS.map(({ kind }) => kind)),
  },
);
export type Load = z.output<typeof loadSchema>;

/** The kinds by their ids; each knows only loads of its own, which the id has made sure of. */
export const LOAD_KINDS = Object.fromEntries(KINDS.map((kind) => [kind.kind, kind])) as unknown as Record<
  LoadKindId,
  AnyLoadKind
>;
export const LOAD_KIND_IDS: readonly LoadKindId[] = KINDS.map(({ kind }) => kind);

/**
 * Current a load draws from a voltage through a resistance before it, A. A gap
 * that has not struck draws nothing.
 *
 * @param volts magnitude, zero or more
 */
export const loadAmpsAt = (load: Load, volts: number, seriesOhms: number): number =>
  LOAD_KINDS[load.kind].ampsAt(load, volts, seriesOhms);

/** Current that a load draws whatever its voltage, A; null where it depends on that. */
export const steadyAmpsOf = (load: Load): number | null => LOAD_KINDS[load.kind].steadyAmps(load);

/** Resistance of a load, Ω; null where it is none. */
export const loadOhms = (load: Load): number | null => LOAD_KINDS[load.kind].ohms(load);

/** What a load's current changes by for each volt about a voltage, S; of a gap before it strikes. */
export function loadSiemensAt(load: Load, volts: number): number {
  const kind = LOAD_KINDS[load.kind];
  const ohms = kind.ohms(load);
  return ohms === null ? (kind.branch(load, volts)?.slope(volts, false) ?? 0) : 1 / ohms;
}

/**
 * A load of another kind that draws about the same, rounded to three digits. A
 * corona starts at 60 % of the voltage, a gap strikes a tenth above it.
 *
 * @param drawn what is drawn now: A, and the mean V it is drawn at; both above zero
 */
export const loadOfKind = (kind: LoadKindId, drawn: { amps: number; volts: number }): Load =>
  loadSchema.parse({ ...LOAD_KINDS[kind].start(drawn), kind });
