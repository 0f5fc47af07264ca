import type { Design } from '@/core/design/design-schema';

/** Links of the chain with where the document has them; what lies deeper stands first. */
const PATHS = {
  supply: '$.supply',
  driver: '$.driver',
  transformer: '$.transformer',
  ladder: '$.ladder',
  divider: '$.output.divider',
  output: '$.output',
  load: '$.load',
} as const;
export type Link = keyof typeof PATHS;

/** In the order of energy. */
const LINKS = ['supply', 'driver', 'transformer', 'ladder', 'output', 'divider', 'load'] as const satisfies Link[];

/** The links that this design has: a measured waveform stands for everything before it. */
export function linksOf({ supply, transformer }: Design): Link[] {
  return LINKS.filter((link) => !(link === 'supply' && !supply) && !(link === 'transformer' && !transformer));
}

/** The link in which a field of the document stands, where the design has it. */
export function linkAt(path: string, design: Design): Link | undefined {
  const links = linksOf(design);
  return (Object.keys(PATHS) as Link[]).find((link) => path.startsWith(PATHS[link]) && links.includes(link));
}
