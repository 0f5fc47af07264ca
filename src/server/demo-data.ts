import { randomUUID } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import Papa from 'papaparse';
import { sessionReadingsSchema } from '@/core/bench/session';
import { readDesignText } from '@/core/design/read-design';
import { planDrawerRows } from '@/core/drawer/drawer-rows';
import type { Part } from '@/core/parts/part-schema';
import { faultsOf, formatFaults } from '@/core/schema/faults';
import * as z from '@/core/zod';
import { insertReadings } from './bench';
import { insertDesign } from './designs';
import { applyChange } from './drawer';
import { transaction } from './pool';

const FACT = 'demo data loaded';

/**
 * Loads the demo designs and the drawer's demo stock once into a database that
 * holds no design.
 *
 * @param folder with `*.ladder.json` files, and a `drawer.csv` and a `bench.json` or none
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
  const measured = await demoReadings(path.join(folder, 'bench.json'));
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
    for (const design of designs) {
      const { id } = await insertDesign(client, design);
      for (const one of measured.filter(({ design: name }) => name === design.name))
        for (const session of one.sessions) await insertReadings(client, id, session);
    }
    await applyChange(client, { put: parts, remove: [] });
    return designs.length;
  });
}

/** Readings of a demo design, by its name. */
const measuredSchema = z.array(z.strictObject({ design: z.string(), sessions: z.array(sessionReadingsSchema) }));

async function demoReadings(file: string): Promise<z.output<typeof measuredSchema>> {
  const text = await readFile(file, 'utf8').catch(() => null);
  if (text === null) return [];
  const read = measuredSchema.safeParse(JSON.parse(text));
  if (!read.success) throw new Error(`${file}: ${formatFaults(faultsOf(read.error))}`);
  return read.data;
}

async function demoParts(file: string): Promise<Part[]> {
  const text = await readFile(file, 'utf8').catch(() => null);
  if (text === null) return [];
  const { rows, faults } = planDrawerRows(Papa.parse<string[]>(text).data, [], randomUUID);
  if (faults.length > 0) throw new Error(`${file}: line ${faults[0].line} ${faults[0].message}`);
  return rows.map(({ part }) => part);
}
