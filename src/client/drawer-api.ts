import {
  changedDrawerSchema,
  madeChangesSchema,
  readingDrawer,
  type Drawer,
  type DrawerRequest,
} from '@/core/drawer/drawer-messages';
import type { Part } from '@/core/parts/part-schema';
import { slicer } from '@/worker/in-slices';
import { answer, answerAs, call } from './answers';

/** Characters: of several bytes each at worst, three to one. */
const MOST_KEPT_ALIVE = 20_000;

/** Which of these changes have arrived, though nobody was told. */
export async function fetchMade(changeIds: readonly string[]): Promise<ReadonlySet<string>> {
  const response = await call(`/api/drawer?made=${changeIds.join(',')}`);
  return new Set((await answer(response, madeChangesSchema)).made);
}

/** A drawer as the server tells it, read in slices: the page takes keystrokes between them. */
async function drawerIn(body: unknown, known: readonly Part[]): Promise<{ data: Drawer } | null> {
  const data = await slicer(['drawer']).run('drawer', readingDrawer(body, known), () => {});
  return data && { data };
}

/** @param known parts that stay the same objects where they stand as they were, so that nothing draws them anew */
export async function fetchDrawer(known: readonly Part[]): Promise<Drawer> {
  return answerAs(await call('/api/drawer'), (body) => drawerIn(body, known));
}

/** The drawer as it stands where that is later than what is known, else null. */
export async function fetchNewerDrawer({ revision, parts }: Drawer): Promise<Drawer | null> {
  const response = await call(`/api/drawer?after=${revision}`);
  return response.status === 204 ? null : answerAs(response, (body) => drawerIn(body, parts));
}

/**
 * Changes the drawer.
 *
 * @returns whether it had changed since, so that nothing was done; the drawer
 *   as it stands, or the revision that the change alone led to
 */
export async function changeDrawer(
  request: DrawerRequest,
): Promise<{ conflict: boolean; drawer: Drawer | null; revision: number }> {
  const body = JSON.stringify(request);
  // Outlives the page where it may: browsers let no more than 64 KiB do so.
  const response = await call('/api/drawer', { method: 'POST', body, keepalive: body.length < MOST_KEPT_ALIVE });
  const told = await answerAs(response, changedIn, 409);
  return { ...told, conflict: response.status === 409 };
}

/** What came of a change; the whole drawer stands where something else was changed besides. */
async function changedIn(body: unknown): Promise<{ data: { drawer: Drawer | null; revision: number } } | null> {
  const changed = changedDrawerSchema.safeParse(body);
  if (changed.success) return { data: { drawer: null, revision: changed.data.revision } };
  const read = await drawerIn(body, []);
  return read && { data: { drawer: read.data, revision: read.data.revision } };
}
