import { randomUUID } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/**
 * Runs work while no other process of this folder runs its own under the same
 * name. A lock left by a process that died is taken over.
 */
export async function alone<T>(folder: string, name: string, work: () => Promise<T>): Promise<T> {
  const lock = path.join(folder, `${name}.lock`);
  const claim = path.join(folder, `${name}.claim-${process.pid}-${randomUUID()}`);
  mkdirSync(folder, { recursive: true });
  for (;;) {
    try {
      // A link appears with its content or not at all, so that nobody ever reads a lock without a holder.
      writeFileSync(claim, String(process.pid));
      linkSync(claim, lock);
      break;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      const holder = Number(tryRead(lock));
      if (holder > 0 && !alive(holder)) rmSync(lock, { force: true });
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
  writeFileSync(mine, '');
  return () => {
    rmSync(mine, { force: true });
    const others = readdirSync(users).filter((name) => {
      if (alive(Number(name))) return true;
      rmSync(path.join(users, name), { force: true });
      return false;
    });
    return others.length === 0;
  };
}
