import { setTimeout as pause } from 'node:timers/promises';
import { isDatabaseAway } from './databaseErrors.ts';

/** How long it waits before it tries again, and how long it goes on trying, in milliseconds. */
const AGAIN = 500;
const MOST = 60_000;

/**
 * Does what can be done again from the start, again while the database can't be reached: as a server starts, its
 * database may be starting too, or have just been lost.
 *
 * @param most how long it goes on trying, in milliseconds
 * @throws what the work throws, where that is something else or it took too long
 */
export async function patiently<T>(work: () => Promise<T>, most = MOST): Promise<T> {
  const until = Date.now() + most;
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (!isDatabaseAway(error) || Date.now() > until) throw error;
      await pause(AGAIN);
    }
  }
}
