import { airSchema } from '@/core/load/air/air';
import { airGapSchema } from '@/core/load/air/air-gap';
import { keptSettings } from './kept-settings';

/** The air in the workshop. */
export const useAir = keptSettings('eager-ladder-air', airSchema);

/** The gap that was looked at last. */
export const useAirGap = keptSettings('eager-ladder-gap', airGapSchema);
