import type { Topology } from './network';
import { TOPOLOGY_KINDS } from './topologies';

/** What people call a stage: two capacitors and two diodes, which add twice the peak, or one of each, which adds it once. */
export const COUNTINGS = ['two-of-each', 'one-of-each'] as const;
export type Counting = (typeof COUNTINGS)[number];

export const COUNTING_NAMES: Readonly<Record<Counting, string>> = {
  'two-of-each': 'Two of each',
  'one-of-each': 'One of each',
};

/** How many a design's stage counts as. */
const EACH: Readonly<Record<Counting, number>> = { 'two-of-each': 1, 'one-of-each': 2 };

/** A design's stages as they are counted. */
export const countOf = (stages: number, counting: Counting): number => stages * EACH[counting];

/** A count as a design's stages. */
export const stagesOf = (count: number, counting: Counting): number => count / EACH[counting];

/** "1 stage", "8 stages", "5 stages a side". */
export function stagesInWords(topology: Topology, stages: number, counting: Counting): string {
  const count = countOf(stages, counting);
  return `${count} ${count === 1 ? 'stage' : 'stages'}${TOPOLOGY_KINDS[topology].stagesEach ? ' a side' : ''}`;
}

/**
 * What is wrong with a count as such, in its own terms; null where nothing is,
 * or where the rules for a design's stages say it in the same terms.
 *
 * @param most stages that a design may have
 */
export function countFault(count: number, topology: Topology, counting: Counting, most: number): string | null {
  if (counting === 'two-of-each') return null;
  if (!Number.isInteger(count) || count < 1 || stagesOf(count, counting) > most)
    return `Must be a whole number, 1 to ${countOf(most, counting)}: a stage is one capacitor and one diode.`;
  if (TOPOLOGY_KINDS[topology].stages === 'whole' && count % 2 === 1)
    return `Must be an even number: a ${TOPOLOGY_KINDS[topology].name.toLowerCase()} ladder grows by two at a time.`;
  return null;
}

/** What a stage is made of, for the hint beside the count. */
export function stageHint(topology: Topology, counting: Counting): string {
  const { stageMakes, stagesEach } = TOPOLOGY_KINDS[topology];
  const side = stagesEach ? ' The count is for each side.' : '';
  if (counting === 'two-of-each') return `A stage is ${stageMakes.two}.${side}`;
  return `${stageMakes.one}.${side}`;
}

const ADDED: Readonly<Record<number, string>> = { 0.5: 'Half a stage', 1: 'One stage', 2: 'Two stages' };

/** "One stage", "Half a stage", "Two stages": of a step up or down. */
export const addedStages = (stages: 0.5 | 1, counting: Counting): string => ADDED[countOf(stages, counting)];
