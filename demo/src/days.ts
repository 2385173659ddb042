import type { BooksId } from '@zubrell/core/ids';
import { clockFixedAt } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { type Database, inBooks, rowsOf } from '@zubrell/server/db/database';
import { setFixedDay } from '@zubrell/server/db/fixedDay';
import { NamedRow } from '@zubrell/server/db/rows';
import type { BooksCommand } from '@zubrell/server/modules/steps/booksCommand';
import type { Actor, Services } from '@zubrell/server/services';
import type { SQL } from 'drizzle-orm';

/** Has the database stand on a day, and gives the clock of that day. */
export type StandOn = (day: string) => Promise<Pick<Services, 'clock'>>;

/** Books that are filled day by day, and in whose name. */
export interface Seeding {
  readonly database: Database;
  readonly at: StandOn;
  readonly booksId: BooksId;
  readonly actor: Actor;
}

/** Goes from day to day in a database, of which it needs the owner's connection. */
export function daysOf(owner: Database): StandOn {
  return async (day) => {
    await setFixedDay(owner, day);
    return { clock: clockFixedAt(day) };
  };
}

/** What runs each command as a step of its own, on a day. */
export async function commandsOn({ database, at, booksId, actor }: Seeding, day: string) {
  const services = await at(day);
  return <Done>(work: (command: BooksCommand) => Promise<Done>): Promise<Done> =>
    inBooks(database, booksId, async (tx) =>
      work(await beginCommand(tx, services, booksId, actor)),
    );
}

/** The ids that a query gives, by its names. */
export async function idsByName(
  { database, booksId }: Seeding,
  query: SQL,
): Promise<ReadonlyMap<string, string>> {
  const rows = await inBooks(database, booksId, (tx) => rowsOf(tx, NamedRow, query));
  return new Map(rows.map(({ id, name }) => [name, id]));
}
