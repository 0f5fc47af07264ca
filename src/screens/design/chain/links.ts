import type { Design } from '@/core/design/design-schema';

const LINKS = ['supply', 'driver', 'transformer', 'ladder', 'output', 'load'] as const;
export type Link = (typeof LINKS)[number];

/** The links that this design has: a measured waveform stands for everything before it. */
export function linksOf({ supply, transformer }: Design): Link[] {
  return LINKS.filter((link) => !(link === 'supply' && !supply) && !(link === 'transformer' && !transformer));
}
