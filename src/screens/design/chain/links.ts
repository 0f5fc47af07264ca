import type { Design } from '@/core/design/design-schema';

/** Links of the chain in the order of energy: what each is called, and where the document has what stands on its card. */
export const LINKS = {
  supply: { name: 'Supply', paths: ['$.supply'] },
  driver: { name: 'Driver', paths: ['$.driver'] },
  transformer: { name: 'Transformer', paths: ['$.transformer'] },
  ladder: { name: 'Ladder', paths: ['$.ladder'] },
  output: { name: 'Output', paths: ['$.output'] },
  divider: { name: 'Divider', paths: ['$.output.divider'] },
  farEnd: { name: 'Far end', paths: ['$.load', '$.output.electrodeFarads'] },
} as const;
export type Link = keyof typeof LINKS;

/** The links that this design has: a measured waveform stands for everything before it. */
export function linksOf({ supply, transformer }: Design): Link[] {
  return (Object.keys(LINKS) as Link[]).filter(
    (link) => !(link === 'supply' && !supply) && !(link === 'transformer' && !transformer),
  );
}

/** The link on whose card a field of the document stands, by the longest path that leads to it. */
export function linkOf(path: string): Link | undefined {
  const found = (Object.keys(LINKS) as Link[]).flatMap((link) =>
    LINKS[link].paths.filter((one) => path.startsWith(one)).map((one) => ({ link, length: one.length })),
  );
  return found.sort((one, other) => other.length - one.length)[0]?.link;
}

/** The same where the design has that link. */
export function linkAt(path: string, design: Design): Link | undefined {
  const link = linkOf(path);
  return link && linksOf(design).includes(link) ? link : undefined;
}
