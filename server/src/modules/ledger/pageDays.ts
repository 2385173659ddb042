import type { LedgerQuery, LedgerRows } from '@zubrell/contract/ledger';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

const PlaceRow = z.object({
  accountId: idRow<AccountId>().nullable(),
  from: z.string(),
  to: z.string(),
  opening: z.int(),
  ownOpening: z.int(),
  before: z.int(),
  count: z.int(),
  debits: z.int(),
  credits: z.int(),
});

/** What all legs that are asked for come to. */
export type LedgerTotals = Pick<LedgerRows, 'count' | 'debits' | 'credits'>;

/** The days that a page of legs is of, and what all pages come to. */
export interface PageDays {
  /** By account, or of all where nothing is asked by account: from which day to which, and what it stands at before. */
  readonly places: readonly z.infer<typeof PlaceRow>[];
  /** So many legs come before those of these days. */
  readonly before: number;
  readonly totals: LedgerTotals;
}

const orders: Readonly<Record<LedgerQuery['order'], SQL>> = {
  newest: sql`date desc`,
  date: sql`date`,
  account: sql`code collate "C", account_id, date`,
};

/**
 * Finds a page of legs by what moved on each day, so that only the legs of its days have to be put in order: the last
 * page costs what the first does.
 *
 * @param wanted nothing that a leg is asked for beside its account, that account's type, and its date
 * @param page after how many legs it begins, and how many it shows
 */
export async function pageDays(
  tx: Tx,
  booksId: BooksId,
  { from, to, accountId, order, of }: LedgerQuery,
  page: { readonly after: number; readonly limit: number },
): Promise<PageDays> {
  const isByAccount = accountId !== undefined || order === 'account';
  const conditions = [
    accountId === undefined ? sql`true` : sql`s.id = ${accountId}`,
    to === undefined ? sql`true` : sql`m.date <= ${to}`,
    of === undefined ? sql`true` : isOfType(sql`s.type`, of),
  ];
  const isIn = from === undefined ? sql`true` : sql`date >= ${from}`;
  const places = await rowsOf(
    tx,
    PlaceRow,
    sql`with day as (
          select ${isByAccount ? sql`s.id` : sql`null::uuid`} as account_id, ${isByAccount ? sql`s.code` : sql`''`} as code,
            m.date, sum(m.count) as count, sum(m.amount) as amount, sum(m.debits) as debits, sum(m.own) as own
          from ${accountDays(booksId)} m
          join accounts s on s.books_id = ${booksId} and s.id = m.account_id
          where ${sql.join(conditions, sql` and `)}
          group by 1, 2, 3),
        placed as (
          select *, sum(count) filter (where ${isIn}) over (order by ${orders[order]}) as through,
            sum(amount) over (partition by account_id order by date) - amount as opening,
            sum(own) over (partition by account_id order by date) - own as own_opening
          from day)
        select p.account_id as "accountId", min(p.date) as from, max(p.date) as to,
          (array_agg(p.opening order by p.date))[1]::bigint as opening,
          (array_agg(p.own_opening order by p.date))[1]::bigint as "ownOpening",
          min(p.through - p.count)::int as before, t.count, t.debits, t.credits
        from placed p
        cross join (
          select sum(count)::int as count, sum(debits)::bigint as debits, sum(amount - debits)::bigint as credits
          from day where ${isIn}) t
        where ${isIn} and p.through > ${page.after} and p.through - p.count < ${page.after + page.limit}
        group by p.account_id, p.code, t.count, t.debits, t.credits order by p.code collate "C", p.account_id`,
  );
  const { count = 0, debits = 0, credits = 0 } = places[0] ?? {};
  const [before = 0] = places.map((place) => place.before).sort((a, b) => a - b);
  return { places, before, totals: { count, debits, credits } };
}

/** That a type of account is what is asked for: neither income nor expense is other. */
export function isOfType(type: SQL, of: NonNullable<LedgerQuery['of']>): SQL {
  return of === 'other' ? sql`${type} not in ('income', 'expense')` : sql`${type} = ${of}`;
}
