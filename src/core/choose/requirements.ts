import { designSchema, stages, targetSchema, type Design } from '../design/design-schema';
import { choice, count, quantity, saying } from '../schema/fields';
import { newDesign } from '../design/new-design';
import { TOPOLOGIES, type Topology } from '../topology/network';
import { CHOSEN_MARGIN } from '../quantity/margin';
import * as z from '../zod';

/** A clamp is not smoothed, so that nothing is built on one alone, a rectifier is half a stage of half-wave, and two ends want a floating winding. */
const NOT_CHOOSABLE: readonly Topology[] = ['none', 'rectifier', 'clamp', 'two-ended'];
export const CHOOSABLE = TOPOLOGIES.filter((topology) => !NOT_CHOOSABLE.includes(topology));

/** Where parts may come from: what lies free in the drawer, what else it lists, or values as they are sold. */
export const PART_SOURCES = ['drawer', 'drawer-or-buy', 'any'] as const;

const yes = z.boolean({ error: saying('true or false') });

/** What is wanted of a ladder, and what is fixed. SI base units. */
export const requirementsSchema = z
  .strictObject({
    target: targetSchema.extend({ polarity: choice(['positive', 'negative']).default('positive') }),
    /** The drive at the ladder's input, where it does not come from a design. */
    drive: z
      .strictObject({
        peakVolts: quantity('V', '5200', 'above zero').default(5000),
        frequencyHertz: quantity('Hz', '38000', 'above zero').default(30_000),
        seriesOhms: quantity('Ω', '12000', 'zero or more').default(10_000),
        maxWatts: quantity('W', '20', 'above zero').nullable().default(null),
      })
      .prefault({}),
    topologies: z
      .array(choice(TOPOLOGIES), { error: saying('a list of topologies') })
      .min(1, { error: () => 'is empty; must name at least one topology' })
      .refine((list) => !list.some((topology) => NOT_CHOOSABLE.includes(topology)), {
        error: () => `names what is no smoothed ladder; must have ladders only: ${CHOOSABLE.join(', ')}`,
      })
      .default(['half-wave']),
    fewestStages: stages.default(0.5),
    mostStages: stages.default(16),
    /** Whether capacitors may differ along the ladder. */
    graded: yes.default(true),
    /** Capacitors in parallel in one place, at most. */
    mostParallel: count(12).default(3),
    /** Of a ladder part's voltage, with the drive at its highest, and of its average current, as a fraction of the stress. */
    leastMargin: quantity('', '0.25', 'zero or more').default(CHOSEN_MARGIN),
    parts: choice(PART_SOURCES).default('drawer'),
    /** Whether the drive may be turned down to half. */
    turnDown: yes.default(false),
    /** Whether its frequency may be halved to doubled. */
    otherFrequency: yes.default(false),
  })
  .superRefine(({ fewestStages, mostStages }, context) => {
    if (fewestStages > mostStages)
      context.addIssue({
        code: 'custom',
        path: ['mostStages'],
        message: 'is less than the fewest stages; must be at least as many',
      });
  });

export type Requirements = z.output<typeof requirementsSchema>;

/**
 * The design that every candidate is a variant of: the drive of a given design,
 * or the asked one measured at the ladder's input, at the target's load.
 */
export function baseOf(requirements: Requirements, design: Design | null): Design {
  const { polarity, ...target } = requirements.target;
  const { amps } = target;
  const load = amps > 0 ? { kind: 'current' as const, amps } : { kind: 'open' as const };
  if (design) return { ...design, target, load, ladder: { ...design.ladder, polarity } };
  const fresh = newDesign('Chosen ladder');
  const { peakVolts, frequencyHertz, seriesOhms, maxWatts } = requirements.drive;
  return designSchema.parse({
    ...fresh,
    target,
    load,
    ladder: { ...fresh.ladder, polarity },
    driver: { kind: 'measured', positivePeakVolts: peakVolts, frequencyHertz, seriesOhms, maxWatts },
  });
}
