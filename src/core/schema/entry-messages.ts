import * as z from '../zod';
import { saying } from './fields';

/** What the browser and the server say to each other about the way in; declared once for both. */

const MOST_CHARACTERS = 200;

const passPhrase = z
  .string({ error: saying('the pass phrase') })
  .trim()
  .min(1, { error: () => 'is empty; must be the pass phrase' })
  .max(MOST_CHARACTERS, { error: () => `is longer than ${MOST_CHARACTERS} characters; must be the pass phrase` });

/** As it is tried, and as it is told to whoever had it made. */
export const passPhraseSchema = z.strictObject({ passPhrase });

/** What is asked without anything to say. */
export const nothingSchema = z.strictObject({});
