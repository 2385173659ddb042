import type { UserId } from '@zubrell/core/ids';
import type { Clock } from './clock.ts';
import type { BankConnector } from './connectors/connector.ts';
import { type Database, openBackground, openDatabase } from './db/database.ts';
import type { Secrets } from './secrets.ts';

/** Who acts, as the session and the books' membership say. */
export interface Actor {
  readonly userId: UserId;
  readonly name: string;
  /** The secret of the session in which they act; null where a job does what they asked for earlier. */
  readonly session: string | null;
  /** The key that their browser gave the request, if any. */
  readonly key?: string | null;
}

/** What a command works with. */
export interface Services {
  /** The connections of requests. */
  readonly database: Database;
  /** The connections of the queue, of jobs, and of what tells whether the server is well. */
  readonly background: Database;
  readonly clock: Clock;
  /** Keeps what others trusted us with. */
  readonly secrets: Secrets;
  /** The banks that lines can be fetched from, by name. */
  readonly connectors: ReadonlyMap<string, BankConnector>;
  /** The folder with a folder for each books from which files come in by themselves; null where there is none. */
  readonly watchFolder: string | null;
}

/**
 * Opens the connections that services need, through the runtime role.
 *
 * @param url of requests, which may go through a pooler that gives a connection for one transaction
 * @param backgroundUrl of the queue and of what listens, which keep a connection
 */
export function openDatabases(
  url: string,
  connections?: number,
  backgroundUrl = url,
): Pick<Services, 'database' | 'background'> {
  return {
    database: openDatabase(url, connections),
    background: openBackground(backgroundUrl, connections),
  };
}

/** Closes the connections of services. */
export async function closeDatabases({
  database,
  background,
}: Pick<Services, 'database' | 'background'>): Promise<void> {
  await Promise.all([database.$client.end(), background.$client.end()]);
}
