import { addDays, monthOf } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from './database.ts';

const LockRow = z.object({ lockDate: z.string().nullable(), summedTo: z.string().nullable() });

/**
 * Up to which day, exclusive, what moved is taken from `closed_totals`, month by month: months that are wholly closed
 * and end before a day. What moved from then on is taken from `movements`.
 *
 * @param before a day that no month may hold which is taken as a whole
 * @returns the first day of a month; of the first that the books know where none is closed
 */
export async function firstOpenMonth(tx: Tx, booksId: BooksId, before: string): Promise<string> {
  const [books] = await rowsOf(
    tx,
    LockRow,
    sql`select lock_date as "lockDate", summed_to as "summedTo" from books where id = ${booksId}`,
  );
  const { lockDate = null, summedTo = null } = books ?? {};
  if (lockDate === null || summedTo === null) return FIRST;
  // Until its transaction ends, a lock date that was moved is not what was summed.
  const days = [`${monthOf(addDays(lockDate, 1))}-01`, summedTo, `${monthOf(before)}-01`];
  return days.sort()[0] ?? FIRST;
}

/** Before anything that books may hold. */
const FIRST = '1900-01-01';
