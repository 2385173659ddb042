import { type SQL, sql } from 'drizzle-orm';
import { rowsOf } from '../../db/database.ts';
import { StemRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { joinLiveDecision } from './lineState.ts';

/**
 * Has decided lines learned anew, though nothing was decided on them.
 *
 * @param condition on line `l`, its decision `d` and `y`, the decision's payee where it has one
 * @returns their stems, each once
 */
export async function relearnLines(
  { tx, booksId, step }: Pick<BooksCommand, 'tx' | 'booksId' | 'step'>,
  condition: SQL,
): Promise<readonly string[]> {
  const touched = await rowsOf(
    tx,
    StemRow,
    sql`with touched as (
          update lines set relearn_step = ${step}
          where books_id = ${booksId} and id in (
            select l.id from lines l ${joinLiveDecision}
            join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
            left join payees y on y.books_id = d.books_id and y.id = d.payee_id
            where l.books_id = ${booksId} and ${condition})
          returning stem)
        select distinct stem from touched`,
  );
  return touched.map(({ stem }) => stem);
}
