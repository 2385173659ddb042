import type { Balances, Entry, Register, RegisterRow } from '@zubrell/contract/ledger';
import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { cursorOf, placeOf } from '../cursor.ts';

/** The balance of every account that has entries, debit positive. */
export async function balances(tx: Tx, booksId: string): Promise<Balances> {
  const rows = await rowsOf<Balances['balances'][number]>(
    tx,
    sql`select g.account_id as "accountId", sum(g.amount)::bigint as amount,
          count(distinct g.entry_id)::int as "entryCount"
        from legs g join entries e on e.books_id = g.books_id and e.id = g.entry_id
        where g.books_id = ${booksId} and not e.is_void
        group by g.account_id`,
  );
  return { balances: rows };
}

const PAGE = 200;

/** One account's legs, the newest first, each with the balance after it. */
export async function register(
  tx: Tx,
  booksId: string,
  accountId: string,
  cursor: string | undefined,
): Promise<Register> {
  const place = placeOf(cursor, 2);
  const rows = await rowsOf<RegisterRow & { readonly rank: number }>(
    tx,
    sql`with numbered as (
          select e.id as entry_id, g.id as leg_id, e.date, e.payee_id, e.note, g.amount,
            sum(g.amount) over later as balance, row_number() over later as rank
          from legs g join entries e on e.books_id = g.books_id and e.id = g.entry_id
          where g.books_id = ${booksId} and g.account_id = ${accountId} and not e.is_void
          window later as (order by e.date, e.step, e.id, g.position)
        )
        select n.entry_id as "entryId", n.leg_id as "legId", n.date, n.payee_id as "payeeId",
          coalesce(src.description, n.note, '') as text,
          (select coalesce(json_agg(distinct o.account_id), '[]') from legs o
            where o.books_id = ${booksId} and o.entry_id = n.entry_id
              and o.account_id <> ${accountId} and o.role <> 'tax') as "otherAccountIds",
          n.amount, n.balance::bigint as balance, n.rank
        from numbered n
        left join lateral (
          select l.description from decision_legs x
          join legs b on b.books_id = x.books_id and b.id = x.leg_id
          join decision_lines dl
            on dl.books_id = x.books_id and dl.decision_id = x.decision_id and dl.is_live
          join lines l on l.books_id = dl.books_id and l.id = dl.line_id
          where x.books_id = ${booksId} and b.entry_id = n.entry_id and x.is_live
          limit 1) src on true
        where ${place === null ? sql`true` : sql`n.rank < ${Number(place[1])}`}
        order by n.rank desc limit ${PAGE}`,
  );
  const last = rows.at(-1);
  return {
    items: rows.map(({ rank: _rank, ...row }) => row),
    next: last && rows.length === PAGE ? cursorOf(last.legId, last.rank) : null,
  };
}

/** An entry with its legs and the line it came from. */
export async function entryOf(tx: Tx, booksId: string, entryId: string): Promise<Entry> {
  const [entry] = await rowsOf<Omit<Entry, 'legs'>>(
    tx,
    sql`select e.id, e.date, e.kind, e.payee_id as "payeeId", e.note, e.is_void as "isVoid",
          e.step, u.name as who, to_json(s.at) #>> '{}' as at,
          (select json_build_object('id', l.id, 'date', l.date, 'amount', l.amount,
              'description', l.description)
            from legs g
            join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id
            join decision_lines dl
              on dl.books_id = x.books_id and dl.decision_id = x.decision_id
            join lines l on l.books_id = dl.books_id and l.id = dl.line_id
            where g.books_id = e.books_id and g.entry_id = e.id limit 1) as line
        from entries e
        join steps s on s.books_id = e.books_id and s.no = e.step
        join users u on u.id = s.user_id
        where e.books_id = ${booksId} and e.id = ${entryId}`,
  );
  if (!entry) fail('ENTRY_UNKNOWN');
  const legs = await rowsOf<Entry['legs'][number]>(
    tx,
    sql`select id, account_id as "accountId", amount, tax_code_id as "taxCodeId", role,
          cost_centre_id as "costCentreId", job_id as "jobId", is_recharged as "isRecharged"
        from legs where books_id = ${booksId} and entry_id = ${entryId} order by position`,
  );
  return { ...entry, legs };
}
