import { meterSchema, ownMetersSchema } from '@/core/drive/meter-sense';
import { keptSettings } from './kept-settings';

/** The meter on one's own bench. */
export const useMeter = keptSettings('eager-ladder-meter', meterSchema);

/** All that one has, each under a name. */
export const useOwnMeters = keptSettings('eager-ladder-own-meters', ownMetersSchema);
