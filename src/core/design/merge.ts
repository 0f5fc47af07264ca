import deepEqual from 'fast-deep-equal';
import { withField } from './change-design';
import { differences } from './differences';
import type { Design } from './design-schema';
import { readDesign } from './read-design';

/** What came of joining two changes of one design. */
export type Merge =
  | { kind: 'merged'; design: Design }
  /** Paths that both changed, each to something else; empty where only the whole of both is no design. */
  | { kind: 'overlap'; paths: string[] };

/** Fields that only make sense together. */
const TOGETHER: readonly (readonly string[])[] = [
  ['$.ladder.topology', '$.ladder.stages', '$.ladder.capacitorFarads', '$.ladder.grading'],
];
/** A link whose kind is changed has other fields: it is taken as a whole. */
const LINKS = ['$.supply', '$.driver', '$.transformer', '$.winding', '$.load', '$.target'];

const at = (design: unknown, path: string): unknown =>
  path
    .split('.')
    .slice(1)
    .reduce<unknown>((node, key) => (node as Record<string, unknown> | null | undefined)?.[key], design);

/** What is to be taken together of the fields that one side changed. */
function changedParts(base: Design, changed: Design): string[] {
  // A list is one thing, whichever of its values differ.
  const paths = differences(base, changed).map(({ path }) => path.replace(/\[.*$/, ''));
  const whole = LINKS.filter((link) => paths.includes(link) || paths.includes(`${link}.kind`));
  const parts = paths.map((path) => whole.find((link) => path.startsWith(`${link}.`)) ?? path);
  const joined = parts.flatMap((path) => TOGETHER.find((group) => group.includes(path)) ?? [path]);
  return [...new Set(joined)];
}

const touches = (one: string, other: string) =>
  one === other || one.startsWith(`${other}.`) || other.startsWith(`${one}.`);

/**
 * Joins two changes of one design, field by field.
 *
 * @param base what both were made from
 * @param overlapping whose value counts where both changed a field: nobody's, so that it is asked, or mine
 * @returns theirs with what was changed here, or the fields that both changed
 */
export function mergeDesigns(base: Design, mine: Design, theirs: Design, overlapping: 'ask' | 'mine' = 'ask'): Merge {
  const here = changedParts(base, mine);
  const there = changedParts(base, theirs);
  const overlap = here.filter((path) =>
    there.some((other) => touches(path, other) && !(path === other && deepEqual(at(mine, path), at(theirs, path)))),
  );
  if (overlap.length > 0 && overlapping === 'ask') return { kind: 'overlap', paths: overlap };
  const joined = here.reduce<unknown>(
    (design, path) => withField(design, path.split('.').slice(1), at(mine, path)),
    theirs,
  );
  const reading = readDesign(joined);
  return reading.ok ? { kind: 'merged', design: reading.design } : { kind: 'overlap', paths: [] };
}
