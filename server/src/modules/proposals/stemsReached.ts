import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { joinOpenDocument, openOfDocument } from '../../db/openOfDocument.ts';
import { hasOtherCurrency, mayBeHalfOf } from '../../db/otherCurrency.ts';
import { StemRow } from '../../db/rows.ts';
import { isOpenLine, isOpenOfSize } from '../lines/lineState.ts';
import { hasToPair } from '../pairing/hasToPair.ts';

/**
 * The stems of open lines for which what was paired, posted or taken back matters: those of the same amount that
 * something in the books fits, that may be or give back the payment of one of these, or are proposed to be paired
 * with it.
 *
 * @param amounts whatever their sign
 * @param targetIds entries' legs and documents
 */
export async function stemsReached(
  tx: Tx,
  booksId: BooksId,
  amounts: readonly number[],
  targetIds: readonly string[] = [],
): Promise<readonly string[]> {
  if (!(await hasToPair(tx, booksId))) return [];
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from lines l
        left join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId} and ${isOpenOfSize(amounts)}
          and (p.proposal ->> 'source' in ('pair', 'transfer') or exists (
            select from legs g
            join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
            join bank_accounts b on b.books_id = g.books_id and b.account_id = g.account_id
            where g.books_id = l.books_id and g.own = l.amount and g.role = 'bank'
              and b.id = l.bank_account_id and e.kind <> 'opening'
              and not exists (select from decision_legs x
                where x.books_id = g.books_id and x.leg_id = g.id and x.is_live)))`,
  );
  if (targetIds.length === 0) return rows.map(({ stem }) => stem);
  const ids = sql.param(targetIds);
  const others = await rowsOf(
    tx,
    StemRow,
    sql`select l.stem from lines l
        where l.books_id = ${booksId} and ${isOpenOfSize(amounts)}
        union
        select l.stem from documents d
        ${joinOpenDocument}
        join open_lines l on l.books_id = d.books_id
          and abs(l.amount) in (abs(${openOfDocument}), abs(d.amount))
        where d.books_id = ${booksId} and d.id = any(${ids}::uuid[])
        union
        select l.stem from proposals p
        join lines l on l.books_id = p.books_id and l.id = p.line_id
        where p.books_id = ${booksId} and p.proposal ->> 'kind' = 'pair' and exists (
          select from jsonb_array_elements(p.proposal -> 'targets') t
          where (t ->> 'id')::uuid = any(${ids}::uuid[]))`,
  );
  return [...rows, ...others].map(({ stem }) => stem);
}

/**
 * The stems of open lines, beside those with these stems, for which it matters that these came or went: rivals for
 * what is in the books, and what may be their other halves on other own accounts.
 */
export async function stemsBeside(
  tx: Tx,
  booksId: BooksId,
  stems: readonly string[],
): Promise<readonly string[]> {
  if (!(await hasToPair(tx, booksId))) return [];
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem
        from (
          select distinct abs(n.amount) as size, n.bank_account_id from lines n
          where n.books_id = ${booksId} and n.stem = any(${sql.param(stems)}::text[])) own
        join open_lines l on l.books_id = ${booksId} and abs(l.amount) = own.size
        left join proposals p on p.books_id = l.books_id and p.line_id = l.line_id
        where l.stem <> all(${sql.param(stems)}::text[])
          and (l.bank_account_id <> own.bank_account_id or p.proposal ->> 'source' in ('pair', 'transfer'))`,
  );
  if (!(await hasOtherCurrency(tx, booksId))) return rows.map(({ stem }) => stem);
  const halves = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from lines n
        join lines l on l.books_id = n.books_id and ${isOpenLine} and ${mayBeHalfOf(sql`n`)}
        where n.books_id = ${booksId} and n.stem = any(${sql.param(stems)}::text[])
          and l.stem <> all(${sql.param(stems)}::text[])`,
  );
  return [...new Set([...rows, ...halves].map(({ stem }) => stem))];
}
