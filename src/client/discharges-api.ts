import { keptRunSchema, runsSchema, type DeadRun } from '@/core/dead/run';
import { answer, call } from './answers';

const path = (designId: string) => `/api/designs/${designId}/discharges`;

/** Keeps a run of a design's plan on the server; the same again does no harm. */
export async function keepDischarge(designId: string, run: DeadRun): Promise<void> {
  await answer(await call(path(designId), { method: 'PUT', body: JSON.stringify(run) }), keptRunSchema);
}

/** Every run of a design's plans, newest first. */
export async function fetchDischarges(designId: string): Promise<DeadRun[]> {
  return answer(await call(path(designId)), runsSchema);
}
