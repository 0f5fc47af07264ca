import { expose } from 'comlink';
import Papa from 'papaparse';
import { planningDrawerRows, type DrawerPlan } from '@/core/drawer/drawer-rows';
import { MOST_PARTS_A_CHANGE } from '@/core/drawer/drawer-messages';
import type { Part } from '@/core/parts/part-schema';
import { slicer } from './in-slices';

const slices = slicer(['plan'] as const);

const work = {
  /** Reads a table of parts; tells how many of how many rows are done. */
  plan(text: string, standing: Part[], report: (done: number, of: number) => void): Promise<DrawerPlan | null> {
    // Lines are counted as they stand in the file, so empty ones stay; what is past the limit need not be read.
    const { data } = Papa.parse<string[]>(text, { preview: MOST_PARTS_A_CHANGE + 3 });
    // The end of the last line is no line.
    if (data.at(-1)?.every((cell) => cell === '')) data.pop();
    const plan = planningDrawerRows(data, standing, () => crypto.randomUUID());
    return slices.run('plan', plan, (done) => report(done, data.length));
  },
};

export type DrawerWork = typeof work;

expose(work);
