import type { Design } from '../design/design-schema';
import type { Prediction } from '../predict/prediction';
import { formatQuantity } from '../quantity/format-quantity';
import * as z from '../zod';
import { FAILURE_WAYS, failureSchema, type Failure, type PartType } from './entries';

/** A failure, and the design in which it happened. */
export const failureRecordSchema = z.strictObject({
  designId: z.string(),
  designName: z.string(),
  revision: z.number(),
  failure: failureSchema,
});
export type FailureRecord = z.output<typeof failureRecordSchema>;

/** Within this fraction two capacitances are of one type (common practice, no source). */
const ALIKE = 0.02;

/** What a design has as its capacitors or diodes, as a type; `id` for one that is not like the others. */
function partTypeOf(
  { ladder }: Pick<Design, 'ladder'>,
  kind: PartType['kind'],
  farads: number = ladder.capacitor.farads,
): PartType {
  const { capacitor, diode } = ladder;
  return kind === 'capacitor'
    ? { kind, partId: capacitor.partId, ratedVolts: capacitor.ratedVolts, farads }
    : { kind, partId: diode.partId, ratedVolts: diode.peakInverseVolts, farads: null };
}

/** A part of a ladder as what it is and what one of it stands at by the prediction, V; null for what is none. */
export function failedPart(
  design: Pick<Design, 'ladder'>,
  { capacitors, diodes, places }: Pick<Prediction, 'capacitors' | 'diodes' | 'places'>,
  id: string,
): Pick<Failure, 'type' | 'stressVolts'> {
  const capacitor = capacitors.find((one) => one.id === id);
  const { capacitor: bank } = design.ladder;
  if (capacitor)
    return {
      type: partTypeOf(design, 'capacitor', (capacitor.farads / bank.parallel) * bank.series),
      stressVolts: capacitor.workingVolts * places.capacitor.worstShare,
    };
  const diode = diodes.find((one) => one.id === id);
  return diode
    ? { type: partTypeOf(design, 'diode'), stressVolts: diode.reverseVolts * places.diode.worstShare }
    : { type: null, stressVolts: null };
}

/** Whether two parts are of one type: the same from the drawer, or, where one is from nowhere, of the same ratings. */
function isSameType(one: PartType, other: PartType): boolean {
  if (one.kind !== other.kind) return false;
  if (one.partId !== null && other.partId !== null) return one.partId === other.partId;
  if (one.ratedVolts === null || one.ratedVolts !== other.ratedVolts) return false;
  return one.farads === null || other.farads === null
    ? one.farads === other.farads
    : Math.abs(one.farads / other.farads - 1) <= ALIKE;
}

/** What has failed among parts of one type, in words. Null where nothing has. */
function failedWords(type: PartType, records: readonly FailureRecord[]): string | null {
  const own = records.filter(({ failure }) => failure.type && isSameType(type, failure.type));
  if (own.length === 0) return null;
  const [latest] = own.toSorted((one, other) => other.failure.takenAt.localeCompare(one.failure.takenAt));
  const { how, stressVolts, type: failed } = latest.failure;
  const at =
    stressVolts === null
      ? ''
      : ` at ${formatQuantity(stressVolts, 'V')}${failed!.ratedVolts === null ? '' : ` of ${formatQuantity(failed!.ratedVolts, 'V')}`}`;
  return own.length === 1
    ? `One ${type.kind} of this type failed: ${FAILURE_WAYS[how]}${at}, in ${latest.designName}.`
    : `${own.length} ${type.kind}s of this type failed, the last: ${FAILURE_WAYS[how]}${at}, in ${latest.designName}.`;
}

/** The same of all parts that a design's ladder is made of. */
export const failedWordsOf = (design: Pick<Design, 'ladder'>, records: readonly FailureRecord[]): string[] =>
  (['capacitor', 'diode'] as const).flatMap((kind) => failedWords(partTypeOf(design, kind), records) ?? []);
