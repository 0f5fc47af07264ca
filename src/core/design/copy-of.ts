import { MOST_NAME_LETTERS, type Design } from './design-schema';

/** The design under a name of its own: that of the original, shortened where it must be, and what tells the two apart. */
export function copyOf(design: Design, apart = 'copy'): Design {
  const tail = `, ${apart}`;
  // Cut between characters, never through one that takes two units.
  const kept = design.name.slice(0, MOST_NAME_LETTERS - tail.length).replace(/[\uD800-\uDBFF]$/, '');
  return { ...design, name: `${kept}${tail}` };
}
