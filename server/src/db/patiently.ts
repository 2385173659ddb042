import { setTimeout as pause } from 'node:timers/promises';
import { isDatabaseAway } from './databaseErrors.ts';

/** How long it waits before it tries again, in milliseconds. */
const AGAIN = 500;
/** How long a server that starts waits for its database, in milliseconds. */
const MOST = 60_000;

/**
 * Does what can be done again from the start, again while the database can't be reached.
 *
 * @param goesOn whether it is to be tried again
 * @throws what the work throws, where that is something else or it is not to be tried again
 */
export async function untilDatabaseIsBack<T>(
  work: () => Promise<T>,
  goesOn: () => boolean,
): Promise<T> {
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (!isDatabaseAway(error) || !goesOn()) throw error;
      await pause(AGAIN);
    }
  }
}

/**
 * The same for a server that starts, whose database may be starting too, or have just been lost.
 *
 * @param most how long it goes on trying, in milliseconds
 */
export function patiently<T>(work: () => Promise<T>, most = MOST): Promise<T> {
  const until = Date.now() + most;
  return untilDatabaseIsBack(work, () => Date.now() <= until);
}
