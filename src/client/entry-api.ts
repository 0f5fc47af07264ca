import { nothingSchema, passPhraseSchema } from '@/core/schema/entry-messages';
import { answer, call } from './answers';

/** @throws Refusal where it is not the pass phrase, or too many that were not have been tried */
export async function enter(passPhrase: string): Promise<void> {
  await answer(await call('/api/session', { method: 'POST', body: JSON.stringify({ passPhrase }) }), nothingSchema);
}

export async function leave(): Promise<void> {
  await answer(await call('/api/session', { method: 'DELETE', body: '{}' }), nothingSchema);
}

/** Makes another pass phrase; the one before is no good any more. */
export async function makePassPhrase(): Promise<string> {
  return (await answer(await call('/api/pass-phrase', { method: 'POST', body: '{}' }), passPhraseSchema)).passPhrase;
}
