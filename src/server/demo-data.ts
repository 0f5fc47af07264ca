import { randomUUID } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import Papa from 'papaparse';
import { readDesignText } from '@/core/design/read-design';
import { planDrawerRows } from '@/core/drawer/drawer-rows';
import type { Part } from '@/core/parts/part-schema';
import { insertDesign } from './designs';
import { applyChange } from './drawer';
import { transaction } from './pool';

const FACT = 'demo data loaded';

/**
 * Loads the demo designs and the drawer's demo stock once into a database that
 * holds no design.
 *
 * @param folder with `*.ladder.json` files, and a `drawer.csv` or none
 * @returns how many were loaded; 0 when they, or designs of the user's own, are there already
 * @throws Error naming file and fault when a demo file is bad
 */
export async function loadDemoData(folder: string): Promise<number> {
  const files = (await readdir(folder)).filter((file) => file.endsWith('.ladder.json')).sort();
  const designs = await Promise.all(
    files.map(async (file) => {
      const reading = readDesignText(await readFile(path.join(folder, file), 'utf8'));
      if (!reading.ok) throw new Error(`${file}: ${reading.faults[0].path} ${reading.faults[0].message}`);
      return reading.design;
    }),
  );
  const parts = await demoParts(path.join(folder, 'drawer.csv'));
  return transaction(async (client) => {
    // Two starters at once: the second waits here and then finds the fact.
    await client.query('LOCK TABLE facts IN SHARE ROW EXCLUSIVE MODE');
    const { rows } = await client.query<{ ready: boolean }>(
      'SELECT EXISTS (SELECT 1 FROM facts WHERE name = $1) OR EXISTS (SELECT 1 FROM designs) AS ready',
      [FACT],
    );
    await client.query('INSERT INTO facts (name) VALUES ($1) ON CONFLICT DO NOTHING', [FACT]);
    if (rows[0].ready) return 0;
    for (const design of designs) await insertDesign(client, design);
    await applyChange(client, { put: parts, remove: [] });
    return designs.length;
  });
}

async function demoParts(file: string): Promise<Part[]> {
  const text = await readFile(file, 'utf8').catch(() => null);
  if (text === null) return [];
  const { rows, faults } = planDrawerRows(Papa.parse<string[]>(text).data, [], randomUUID);
  if (faults.length > 0) throw new Error(`${file}: line ${faults[0].line} ${faults[0].message}`);
  return rows.map(({ part }) => part);
}
