import type { BooksId } from '@zubrell/core/ids';
import { clockFixedAt } from '@zubrell/server/clock';
import type { Database } from '@zubrell/server/db/database';
import { setFixedDay } from '@zubrell/server/db/fixedDay';
import type { Actor, Services } from '@zubrell/server/services';

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
