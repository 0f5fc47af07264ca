import { benchSettingsSchema } from '@/core/bench/low-source';
import { keptSettings } from './kept-settings';

/** What there is in this workshop to try a ladder on. */
export const useBenchSettings = keptSettings('eager-ladder-bench', benchSettingsSchema);
