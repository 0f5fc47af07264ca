import { meterSchema } from '@/core/drive/meter-sense';
import { keptSettings } from './kept-settings';

/** The meter on one's own bench. */
export const useMeter = keptSettings('eager-ladder-meter', meterSchema);
