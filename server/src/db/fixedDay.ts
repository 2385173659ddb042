import type { CalendarDate } from '@zubrell/core/dates/calendarDate';
import { sql } from 'drizzle-orm';
import type { DatabaseUrls } from './cluster.ts';
import { type Database, openBackground } from './database.ts';

/**
 * Has the database's clock stand on one day, as in the demo, or go with the machine's.
 *
 * @param owner the database as the tables' owner: the running program can't turn its clock
 * @param day null for the machine's
 */
export async function setFixedDay(owner: Database, day: CalendarDate | null): Promise<void> {
  await owner.transaction(async (tx) => {
    await tx.execute(sql`delete from fixed_day`);
    if (day !== null) await tx.execute(sql`insert into fixed_day (day) values (${day})`);
  });
}

/** The same for a server that starts, which opens the database as the owner for this alone. */
export async function keepDay(urls: DatabaseUrls, day: CalendarDate | null): Promise<void> {
  const owner = openBackground(urls.owner, 1);
  try {
    await setFixedDay(owner, day);
  } finally {
    await owner.$client.end();
  }
}
