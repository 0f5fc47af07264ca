import { randomUUID } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { isRunning, processMark } from './process-mark';

/** After which whoever waits is told for whom, ms. */
const TOLD_AFTER_MILLISECONDS = 2000;

/**
 * Runs work while no other process of this folder runs its own under the same
 * name. A lock left by a process that died is taken over, also where another
 * has its number now.
 *
 * @param onWait is told whose lock is waited for, after a while
 */
export async function alone<T>(
  folder: string,
  name: string,
  work: () => Promise<T>,
  onWait?: (pid: string) => void,
): Promise<T> {
  const lock = path.join(folder, `${name}.lock`);
  const claim = path.join(folder, `${name}.claim-${process.pid}-${randomUUID()}`);
  mkdirSync(folder, { recursive: true });
  const tellAt = Date.now() + TOLD_AFTER_MILLISECONDS;
  let told = false;
  for (;;) {
    try {
      // A link appears with its content or not at all, so that nobody ever reads a lock without a holder.
      writeFileSync(claim, processMark(process.pid)!);
      linkSync(claim, lock);
      break;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      const holder = tryRead(lock);
      if (holder !== '' && !isRunning(holder)) rmSync(lock, { force: true });
      else if (!told && Date.now() > tellAt) {
        told = true;
        onWait?.(holder.split(' ')[0]);
      }
      await new Promise((resolve) => setTimeout(resolve, 100));
    } finally {
      rmSync(claim, { force: true });
    }
  }
  try {
    return await work();
  } finally {
    rmSync(lock, { force: true });
  }
}

function tryRead(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return '';
  }
}

/** Notes that this process uses the cluster; the returned function ends that and says whether it was the last one. */
export function joinUsers(folder: string): () => boolean {
  const users = path.join(folder, 'users');
  mkdirSync(users, { recursive: true });
  const mine = path.join(users, String(process.pid));
  writeFileSync(mine, processMark(process.pid)!);
  return () => {
    rmSync(mine, { force: true });
    const others = readdirSync(users).filter((name) => {
      if (isRunning(tryRead(path.join(users, name)))) return true;
      rmSync(path.join(users, name), { force: true });
      return false;
    });
    return others.length === 0;
  };
}
