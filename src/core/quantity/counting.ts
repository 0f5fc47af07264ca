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

const ADDED: Readonly<Record<number, string>> = { 0.5: 'Half a stage', 1: 'One stage', 2: 'Two stages' };

/** "One stage", "Half a stage", "Two stages": of a step up or down. */
export const addedStages = (stages: 0.5 | 1, counting: Counting): string => ADDED[countOf(stages, counting)];
