import { type CodingRecord, type MonthWork, RecordMonth } from '@zubrell/contract/habits';
import { groupBy } from '@zubrell/core/groupBy';
import type { BooksId } from '@zubrell/core/ids';
import { READY_FROM } from '@zubrell/core/propose/habit/lanes';
import { oddsAt, probabilityOf } from '@zubrell/core/propose/habit/sureness';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { shiftOf } from './booksMemory.ts';

const PressedRow = z.object({ month: z.string(), presses: z.number() });

/** Month by month, what each source proposed for lines that are posted, and how much of it was kept. */
export async function codingRecord(tx: Tx, booksId: BooksId): Promise<CodingRecord> {
  const months = await rowsOf(
    tx,
    RecordMonth,
    sql`select to_char(date, 'YYYY-MM') as month, source, sum(count)::int as lines, sum(looked)::int as looked,
          sum(kept)::int as kept, sum(unseen)::int as unseen
        from decided_days
        where books_id = ${booksId} and kind in ('posted', 'paired')
        group by 1, 2 having sum(count) > 0 order by 1, 2`,
  );
  const pressed = await rowsOf(
    tx,
    PressedRow,
    sql`select to_char(month, 'YYYY-MM') as month, sum(presses) as presses from step_presses
        where books_id = ${booksId} group by 1`,
  );
  const pressesOf = new Map(pressed.map(({ month, presses }) => [month, presses]));
  const work = [...groupBy(months, ({ month }) => month)].map(([month, sources]): MonthWork => {
    const lines = sources.reduce((sum, each) => sum + each.lines, 0);
    const presses = pressesOf.get(month);
    return {
      month,
      lines,
      untouched: sources.reduce((sum, { unseen }) => sum + unseen, 0),
      presses: presses === undefined ? null : presses / lines,
    };
  });
  const shift = await shiftOf(tx, booksId);
  return { months, work, readyFrom: probabilityOf(oddsAt(READY_FROM) - shift) };
}
