import { choice, count, quantity } from '../schema/fields';
import * as z from '../zod';

/** What the ladder works in; `other` is one of which no figures are known here. */
export const MEDIA = ['air', 'oil', 'wax', 'resin', 'other'] as const;
export type Medium = (typeof MEDIA)[number];

/** What settles on surfaces in air: pollution degrees 1, 2 and 3 of IEC 60664-1. */
export const SURROUNDINGS = ['clean', 'indoor', 'damp'] as const;
export type Surroundings = (typeof SURROUNDINGS)[number];

export const ARRANGEMENTS = ['opposite', 'zigzag', 'boards', 'tube'] as const;
export type Arrangement = (typeof ARRANGEMENTS)[number];

const typed = (example: string) => quantity('m', example, 'above zero').nullable().default(null);

/** What holds the parts: a surface along which they creep, or pins and leads with nothing but the medium between. */
export const HELD = ['surface', 'free'] as const;

/** How a design is put together. */
export const buildSchema = z.strictObject({
  medium: choice(MEDIA).default('air'),
  surroundings: choice(SURROUNDINGS).default('indoor'),
  arrangement: choice(ARRANGEMENTS).default('zigzag'),
  held: choice(HELD).default('surface'),
  /** On one board, where there are several. */
  boardStages: count(50).default(3),
  /** From a stage to the next, from a column to the next, from a board to the next; null: found. */
  pitchMetres: typed('0.03'),
  rowMetres: typed('0.03'),
  boardMetres: typed('0.04'),
  /** Body of one diode; null: the usual one for its rating. */
  diodeLengthMetres: typed('0.012'),
  diodeDiameterMetres: typed('0.003'),
  /** Diameter of leads, and radius of a solder joint. */
  leadMetres: quantity('m', '0.0008', 'above zero').default(0.8e-3),
  jointRadiusMetres: quantity('m', '0.001', 'above zero').default(1e-3),
});
export type Build = z.output<typeof buildSchema>;
