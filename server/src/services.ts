import type { Clock } from './clock.ts';
import type { Database } from './db/database.ts';

/** Who acts, as the session and the books' membership say. */
export interface Actor {
  readonly userId: string;
  readonly name: string;
}

/** What a command works with. */
export interface Services {
  readonly database: Database;
  readonly clock: Clock;
}
