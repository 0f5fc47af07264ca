import { placeSchema } from '@/core/bench/faults/next-reading';
import * as z from '@/core/zod';
import { keptSettings } from './kept-settings';

const roundSchema = z.strictObject({ ladder: z.string().max(40), seed: z.int().positive() });

const answerSchema = z.strictObject({ kind: z.string().max(60), place: z.string().max(40) });

/** Rounds that are remembered. */
const MOST_SCORES = 500;

const trainingSchema = z.object({
  /** The round under way: what was read so far, and the answer given; "sound" where it is that nothing is wrong. */
  round: roundSchema
    .extend({ taken: z.array(placeSchema), answer: z.union([answerSchema, z.literal('sound')]).nullable() })
    .nullable()
    .default(null),
  scores: z
    .array(roundSchema.extend({ isRight: z.boolean(), readings: z.int().nonnegative(), best: z.int().nonnegative() }))
    .default([]),
});
type Kept = z.output<typeof trainingSchema>;
export type TrainingRound = NonNullable<Kept['round']>;
export type Score = Kept['scores'][number];

/** Rounds of the trainer, in this browser. */
export const useTrainingStore = keptSettings('eager-ladder-training', trainingSchema);

/** Adds a score, each round once. */
export function keepScore(score: Score): void {
  const { settings, change } = useTrainingStore.getState();
  if (settings.scores.some(({ ladder, seed }) => ladder === score.ladder && seed === score.seed)) return;
  change({ scores: [...settings.scores, score].slice(-MOST_SCORES) });
}
