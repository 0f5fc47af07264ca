import { countOf, stagesOf, type Counting } from '../quantity/counting';
import type { Topology } from './network';
import { TOPOLOGY_KINDS } from './topologies';

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
