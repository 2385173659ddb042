import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';

/** So long others are waited for, in milliseconds; making a cluster takes a few seconds. */
const LONGEST = 90_000;
const AGAIN = 100;

/**
 * Does work while no other process does such work in the folder: whoever comes later waits. The lock of a process that
 * ended is no lock.
 *
 * @throws where the lock is not free in time; the message names the file
 */
export async function withFolderLock<T>(folder: string, work: () => Promise<T>): Promise<T> {
  const file = join(folder, 'lock');
  const until = Date.now() + LONGEST;
  while (!take(file)) {
    if (Date.now() > until) throw new Error(`${file} is held by process ${holder(file)}`);
    await pause(AGAIN);
  }
  try {
    return await work();
  } finally {
    rmSync(file, { force: true });
  }
}

function take(file: string): boolean {
  try {
    writeFileSync(file, String(process.pid), { flag: 'wx' });
    return true;
  } catch {
    const pid = holder(file);
    if (pid !== null && !isAlive(pid)) rmSync(file, { force: true });
    return false;
  }
}

/** The process that holds a lock; null while it is just being taken or let go. */
function holder(file: string): number | null {
  try {
    const pid = Number(readFileSync(file, 'utf8'));
    return pid > 0 ? pid : null;
  } catch {
    return null;
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
