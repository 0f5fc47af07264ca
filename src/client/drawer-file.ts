import { proxy } from 'comlink';
import Papa from 'papaparse';
import { rowsOfDrawer, type DrawerPlan } from '@/core/drawer/drawer-rows';
import type { Part } from '@/core/parts/part-schema';
import type { DrawerWork } from '@/worker/drawer.worker';
import { lazyWorker } from '@/worker/lazy-worker';
import { downloadText } from './design-file';

const MOST_BYTES = 5e6;

export type ReadFile = { ok: true; plan: DrawerPlan } | { ok: false; reason: string };

/**
 * What a CSV file would do to the drawer, or why it cannot be read, worked out
 * beside the page.
 *
 * @param report is told how many of how many rows are done
 * @returns what comes of it, null where it was cancelled, and what cancels it
 */
export function planDrawerFile(
  file: File,
  standing: readonly Part[],
  report: (done: number, of: number) => void,
): { read: Promise<ReadFile | null>; cancel: () => void } {
  const worker = lazyWorker<DrawerWork>(
    () => new Worker(new URL('../worker/drawer.worker.ts', import.meta.url), { type: 'module' }),
  );
  let cancelled: (nothing: null) => void = () => {};
  const read = async (): Promise<ReadFile | null> => {
    if (file.size > MOST_BYTES) return { ok: false, reason: 'The file is over 5 MB; a drawer’s is far smaller.' };
    const text = (await file.text()).replace(/^\uFEFF/, '');
    if (text.trim() === '') return { ok: false, reason: 'The file is empty; the first line must name the columns.' };
    const plan = await worker.work().plan(text, [...standing], proxy(report));
    return plan && { ok: true, plan };
  };
  return {
    read: Promise.race([read(), new Promise<null>((resolve) => (cancelled = resolve))]).finally(worker.end),
    cancel: () => cancelled(null),
  };
}

/** Hands the drawer over as a CSV file. */
export function downloadDrawer(parts: readonly Part[]): void {
  downloadText('drawer.csv', 'text/csv', `${Papa.unparse(rowsOfDrawer(parts), { newline: '\n' })}\n`);
}
