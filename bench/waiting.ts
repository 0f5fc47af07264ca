import { Client } from 'pg';
import { median, say, verdict } from './measure';

/** How much longer a small request takes beside each kind of page than alone, with a shelf and a drawer of thousands. */

const COPIES = 1000;
const ASKED = 30;
const MOST_MILLISECONDS = 50;
const PAGE_MILLISECONDS = 1000;

async function fill(databaseUrl: string): Promise<string> {
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query(
      `INSERT INTO designs (document, shelf, shelf_core, shelf_of)
       SELECT document, shelf, shelf_core, shelf_of FROM designs, generate_series(1, $1)`,
      [COPIES],
    );
    await client.query(
      `INSERT INTO parts (id, kind, name, count, price, note, fields, checked)
       SELECT gen_random_uuid(), kind, name || ' ' || at, count, price, note, fields, checked
       FROM parts, generate_series(1, (SELECT 5 * $1::int / count(*) FROM parts)) AS at`,
      [COPIES],
    );
    await client.query('ANALYZE');
    const { rows } = await client.query<{ id: string }>('SELECT id FROM designs ORDER BY saved_at DESC LIMIT 1');
    return rows[0].id;
  } finally {
    await client.end();
  }
}

const pause = (milliseconds: number) => new Promise((resume) => setTimeout(resume, milliseconds));

/** Milliseconds that a request takes which asks for next to nothing. */
async function small(address: string): Promise<number> {
  const asked = performance.now();
  await (await fetch(`${address}/api/health`)).text();
  return performance.now() - asked;
}

async function beside(address: string, path: string): Promise<{ page: number; waits: number[] }> {
  const pages: number[] = [];
  const waits: number[] = [];
  for (let time = 0; time < ASKED; time += 1) {
    let longest = 0;
    let done = false;
    const asking = (async () => {
      while (!done) {
        longest = Math.max(longest, await small(address));
        await pause(2);
      }
    })();
    const asked = performance.now();
    await (await fetch(address + path)).text();
    pages.push(performance.now() - asked);
    done = true;
    await asking;
    waits.push(longest);
    await pause(100);
  }
  return { page: median(pages), waits };
}

export async function benchWaiting(address: string, databaseUrl: string): Promise<void> {
  const id = await fill(databaseUrl);
  const times: number[] = [];
  while (times.length < ASKED) times.push(await small(address));
  const alone = median(times);
  say(
    `Beside pages, with ${5 * COPIES} designs and as many parts: a small request, ${alone.toFixed(1)} ms alone, waits at longest (median of ${ASKED})`,
  );
  const paths = {
    shelf: '/',
    drawer: '/drawer',
    'whole drawer': '/api/drawer',
    Choose: '/choose',
    design: `/designs/${id}`,
  };
  for (const [name, path] of Object.entries(paths)) {
    const { page, waits } = await beside(address, path);
    say(
      `  ${name.padEnd(13)} ${verdict(median(waits) - alone, MOST_MILLISECONDS)}; itself ${verdict(page, PAGE_MILLISECONDS)}`,
    );
  }
}
