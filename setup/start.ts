import { chmodSync, mkdirSync } from 'node:fs';
import { buildIfStale } from './build';
import { answers, startCluster, type Cluster } from './cluster';
import { COPIES, DATA, DATABASE, ENTRY } from './data-folder';
import { prepareDatabase } from './database';
import { entryWords, prepareEntry, type Prepared } from './entry';
import { alone, joinUsers } from './lock';
import { HELP, portFrom, readOptions } from './options';
import { plainly } from './plainly';
import { serve, type Served } from './serve';

/** The application looks how much room is left there. */
process.env.EAGER_LADDER_DATA = DATA;

/** How often an application that ended is started again, and within what time, ms. */
const MOST_RESTARTS = 5;
const RESTARTS_WITHIN_MILLISECONDS = 600_000;
const WATCH_MILLISECONDS = 2000;

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));
const say = (line: string) => process.stdout.write(`${line}\n`);

/** For its owner alone; root hands the database to a user of its own, who must be able to pass through. */
function makeDataFolder(): void {
  mkdirSync(DATA, { recursive: true });
  chmodSync(DATA, process.getuid!() === 0 ? 0o711 : 0o700);
}

async function main(words: string[]): Promise<void> {
  let leave: (() => boolean) | null = null;
  let cluster: Cluster | null = null;
  let serving: Promise<Served> | null = null;
  let ending = false;
  const inSetup = <T>(work: () => Promise<T>) =>
    alone(DATA, 'setup', work, (pid) => say(`Another start (process ${pid}) is setting up; waiting for it.`));
  const end = async (code: number) => {
    // Asked twice, it does not wait for anything any more.
    if (ending) process.exit(code || 1);
    ending = true;
    await serving?.then((served) => served.stop()).catch(() => undefined);
    if (leave)
      await inSetup(async () => {
        if (leave!() && cluster) await cluster.stop();
      });
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void end(0));

  /** Serves, and serves again at the same address when the application has ended by itself. */
  const keepServing = async (port: number, url: () => string, prepared: Prepared): Promise<void> => {
    const ends: number[] = [];
    for (let at = port; ;) {
      serving = serve(url(), at, prepared.entry);
      const { address, networkAddresses, child } = await serving;
      if (ending) return;
      const words = ends.length > 0 ? '' : entryWords(prepared, networkAddresses, process.stdout.isTTY);
      say(`Eager Ladder answers ${ends.length > 0 ? 'again ' : ''}at ${address}${words && `\n${words}`}`);
      at = Number(new URL(address).port);
      await new Promise((resolve) => child.once('exit', resolve));
      if (ending) return;
      ends.push(Date.now());
      const recent = ends.filter((time) => time > Date.now() - RESTARTS_WITHIN_MILLISECONDS);
      if (recent.length > MOST_RESTARTS)
        throw new Error(
          `The application ended ${recent.length} times within ten minutes; see the messages above. What was saved is in ${DATA}.`,
        );
      say('The application ended by itself; starting it again.');
    }
  };

  /** Starts the database again when it has stopped; the application reaches it where it was. */
  const keepDatabase = async (): Promise<void> => {
    let said = '';
    while (!ending) {
      await pause(WATCH_MILLISECONDS);
      const { url } = cluster!;
      const up = await answers(url);
      if (ending || up) continue;
      try {
        await inSetup(async () => {
          if (!ending) cluster = await startCluster(DATABASE, Number(new URL(url).port));
        });
        if (ending) return;
        if (cluster!.startedHere) say('The database had stopped; it was started again.');
        said = '';
        // Its port was taken meanwhile: the application has to be told.
        if (cluster!.url !== url) (await serving)?.child.kill('SIGTERM');
      } catch (error) {
        if (plainly(error) !== said) console.error((said = plainly(error)));
      }
    }
  };

  try {
    const options = readOptions(words);
    if (options.help) return void process.stdout.write(HELP);
    const port = portFrom('PORT', 4180);
    makeDataFolder();
    leave = joinUsers(DATA);
    const own = process.env.DATABASE_URL || null;
    const url = () => own ?? cluster!.url;
    const prepared = await inSetup(async () => {
      await buildIfStale();
      if (!own) cluster = await startCluster(DATABASE);
      await prepareDatabase(url(), { demo: true, copies: own ? null : COPIES });
      return prepareEntry(options, ENTRY);
    });
    if (ending) return;
    if (!own) void keepDatabase();
    await keepServing(port, url, prepared);
  } catch (error) {
    if (ending) return;
    console.error(plainly(error));
    await end(1);
  }
}

await main(process.argv.slice(2));
