import { planOptionsSchema } from '@/core/dead/plan';
import { keptSettings } from './kept-settings';

/** How somebody in this workshop makes things dead. */
export const useDeadOptions = keptSettings('eager-ladder-dead', planOptionsSchema);
