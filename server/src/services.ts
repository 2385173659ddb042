import type { Clock } from './clock.ts';
import type { Database } from './db/database.ts';
import type { BankConnector } from './modules/feeds/connector.ts';

/** Who acts, as the session and the books' membership say. */
export interface Actor {
  readonly userId: string;
  readonly name: string;
}

/** What a command works with. */
export interface Services {
  readonly database: Database;
  readonly clock: Clock;
  /** The banks that lines can be fetched from, by name. */
  readonly connectors: ReadonlyMap<string, BankConnector>;
}
