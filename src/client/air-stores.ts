import { airSchema } from '@/core/load/air/air';
import { airGapSchema } from '@/core/load/air/air-gap';
import { climbingArcSchema } from '@/core/load/air/climbing-arc';
import { electrodeSchema } from '@/core/load/air/electrode';
import { coronaGeometrySchema } from '@/core/load/air/corona-geometry';
import { keptSettings } from './kept-settings';

/** The air in the workshop. */
export const useAir = keptSettings('eager-ladder-air', airSchema);

/** The gap in air that was asked about last. */
export const useAirGap = keptSettings('eager-ladder-gap', airGapSchema);

/** The corona that was asked about last. */
export const useCoronaGeometry = keptSettings('eager-ladder-corona', coronaGeometrySchema);

/** What hung on an output last. */
export const useElectrode = keptSettings('eager-ladder-electrode', electrodeSchema);

/** The two rods that were asked about last. */
export const useClimbingArc = keptSettings('eager-ladder-arc', climbingArcSchema);
