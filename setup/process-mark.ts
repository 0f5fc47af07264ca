import { readFileSync } from 'node:fs';

/**
 * A process as no later one of the same number is: its number, and when it was
 * started, in the kernel's ticks since boot (proc(5), field 22 of stat); null
 * where it is gone.
 */
export function processMark(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name before it is in brackets and may hold anything.
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return fields[0] === 'Z' ? null : `${pid} ${fields[19]}`;
  } catch {
    return null;
  }
}

/** Whether the very process that a mark was taken of still runs. */
export const isRunning = (mark: string): boolean => processMark(Number(mark.split(' ')[0])) === mark;
