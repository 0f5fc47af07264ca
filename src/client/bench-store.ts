import { draftSchema, type DraftKind } from '@/core/bench/draft';
import { benchSettingsSchema } from '@/core/bench/low-source';
import { switchedOnSchema } from '@/core/bench/session';
import { keptSettings } from './kept-settings';

/** What there is in this workshop to try a ladder on. */
export const useBenchSettings = keptSettings('eager-ladder-bench', benchSettingsSchema);

/** The entry that is being typed. */
export const useBenchDraft = keptSettings('eager-ladder-bench-draft', draftSchema);

/** Since when it is on, for the readings that follow. */
export const useSwitchedOn = keptSettings('eager-ladder-switched-on', switchedOnSchema);

/** Begins another entry, at a place of a design. */
export function beginDraft(designId: string, at: string, kind: DraftKind): void {
  useBenchDraft.getState().change({ ...draftSchema.parse({}), designId, at, kind });
}
