import { keptTicksSchema, ticksSchema, type Tick, type TickChange } from '@/core/build/ticks';
import { answer, call } from './answers';

const path = (designId: string) => `/api/designs/${designId}/ticks`;

/** Keeps steps of a design's sheets as done, or as not done any more; the same again does no harm. */
export async function keepTicks(designId: string, changes: readonly TickChange[]): Promise<void> {
  await answer(await call(path(designId), { method: 'PUT', body: JSON.stringify(changes) }), keptTicksSchema);
}

/** Every step done of a design's sheets. */
export async function fetchTicks(designId: string): Promise<Tick[]> {
  return answer(await call(path(designId)), ticksSchema);
}
