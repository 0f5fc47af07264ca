import { existsSync } from 'node:fs';
import path from 'node:path';
import { contents, type Contents, dumpTo, keepCopy, refuseToOverwrite, restoreFrom } from './backup';
import { startCluster } from './cluster';
import { COPIES, DATA, DATABASE } from './data-folder';
import { prepareDatabase } from './database';
import { alone, joinUsers } from './lock';
import { plainly } from './plainly';

const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;
const inWords = ({ designs, parts }: Contents) => `${counted(designs, 'design')} and ${counted(parts, 'part')}`;

async function backUp(url: string, file: string, overwrite: boolean): Promise<string> {
  if (!overwrite) refuseToOverwrite(file);
  await dumpTo(url, file);
  return `${file} holds ${inWords(await contents(url))}, with their revisions.`;
}

async function restore(url: string, file: string, overwrite: boolean): Promise<string> {
  if (!existsSync(file)) throw new Error(`${file} is not there.`);
  const held = await contents(url);
  const isEmpty = held.designs + held.parts === 0;
  if (!isEmpty && !overwrite)
    throw new Error(
      `There are ${inWords(held)} already, which this would replace; add --overwrite to do so. A copy of them is kept first.`,
    );
  const kept = isEmpty ? null : await keepCopy(url, COPIES, 'restore');
  await restoreFrom(url, file);
  await prepareDatabase(url, { demo: false });
  return `There are ${inWords(await contents(url))} now.${kept ? ` What was there before is in ${kept}.` : ''} Reload pages that are open.`;
}

const VERBS = { backup: backUp, restore };

async function main([verb, ...words]: string[]): Promise<void> {
  const overwrite = words.includes('--overwrite');
  const [file, ...more] = words.filter((word) => word !== '--overwrite');
  if (!(verb in VERBS) || !file || more.length > 0)
    throw new Error(`Say ./${verb} FILE, or ./${verb} --overwrite FILE.`);
  const leave = joinUsers(DATA);
  const told = await alone(DATA, 'setup', async () => {
    const cluster = await startCluster(DATABASE);
    try {
      return await VERBS[verb as keyof typeof VERBS](
        cluster.url,
        path.resolve(process.env.CALLED_FROM ?? '.', file),
        overwrite,
      );
    } finally {
      if (leave()) await cluster.stop();
    }
  });
  process.stdout.write(`${told}\n`);
}

await main(process.argv.slice(2)).catch((error: unknown) => {
  console.error(plainly(error));
  process.exitCode = 1;
});
