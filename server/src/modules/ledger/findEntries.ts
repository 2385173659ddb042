import { FoundEntry } from '@zubrell/contract/ledger';
import type { BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';
import { hasText } from '../../db/textSearch.ts';

/** So many are shown. */
const FOUND = 8;

/** Entries in force that say what was typed, the newest first; lines are found by their wording elsewhere. */
export function findEntries(tx: Tx, booksId: BooksId, search: string): Promise<FoundEntry[]> {
  return rowsOf(
    tx,
    FoundEntry,
    sql`with found as (
          select * from entries e
          where e.books_id = ${booksId} and not e.is_void and ${saysText(search.trim())}
          order by e.date desc, e.step desc, e.id limit ${FOUND})
        select e.id as "entryId", coalesce(a.merged_into, a.id) as "accountId", e.date, e.number, e.reference,
          coalesce(src.description, e.note, '') as text, coalesce(q.name, p.name) as payee, g.amount
        from found e
        join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.position = 0
        join accounts a on a.books_id = g.books_id and a.id = g.account_id
        left join payees p on p.books_id = e.books_id and p.id = e.payee_id
        left join payees q on q.books_id = p.books_id and q.id = p.merged_into
        left join lateral (${lineBehind(sql`e.books_id`, sql`e.id`)}) src on true
        order by e.date desc, e.step desc, e.id`,
  );
}

/** That entry `e` has a text in its note, number, reference or way of payment. */
export function saysText(typed: string): SQL {
  const has = (text: SQL) => hasText(text, typed);
  // Whether there is any text at all is in an index of its own.
  return sql`(coalesce(e.note, e.number, e.reference, e.method) is not null and (${has(sql`e.note`)} or ${has(sql`e.number`)} or ${has(sql`e.reference`)} or ${has(sql`e.method`)}))`;
}
