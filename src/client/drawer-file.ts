import Papa from 'papaparse';
import { planDrawerRows, rowsOfDrawer, type DrawerPlan } from '@/core/drawer/drawer-rows';
import type { Part } from '@/core/parts/part-schema';
import { downloadText } from './design-file';

const MOST_BYTES = 5e6;

/** What a CSV file would do to the drawer, or why it cannot be read. */
export async function planDrawerFile(
  file: File,
  standing: readonly Part[],
): Promise<{ ok: true; plan: DrawerPlan } | { ok: false; reason: string }> {
  if (file.size > MOST_BYTES) return { ok: false, reason: 'The file is over 5 MB; a drawer’s is far smaller.' };
  const text = (await file.text()).replace(/^\uFEFF/, '');
  if (text.trim() === '') return { ok: false, reason: 'The file is empty; the first line must name the columns.' };
  // Lines are counted as they stand in the file, so empty ones stay.
  const { data } = Papa.parse<string[]>(text);
  return { ok: true, plan: planDrawerRows(data, standing, () => crypto.randomUUID()) };
}

/** Hands the drawer over as a CSV file. */
export function downloadDrawer(parts: readonly Part[]): void {
  downloadText('drawer.csv', 'text/csv', `${Papa.unparse(rowsOfDrawer(parts), { newline: '\n' })}\n`);
}
