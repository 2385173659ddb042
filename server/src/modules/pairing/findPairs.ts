import { groupBy } from '@zubrell/core/groupBy';
import type { BankAccountId, BooksId, PayeeId } from '@zubrell/core/ids';
import { accountsNamed, findHalves, type HalfFound } from '@zubrell/core/pair/findHalves';
import type { NamedPayee } from '@zubrell/core/pair/namesIn';
import type { PairLine } from '@zubrell/core/pair/pairing';
import { type NearlyFound, type PairFound, proposePairs } from '@zubrell/core/pair/proposePairs';
import { lineReader, payeesOf } from '@zubrell/core/pair/weighPair';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { hasOtherCurrency, mayBeHalfOf } from '../../db/otherCurrency.ts';
import { idRow, NamedRow } from '../../db/rows.ts';
import { loadMoney } from '../books/money.ts';
import { taxRatesOf } from '../books/queries.ts';
import { booksCandidates } from '../ledger/candidates.ts';
import { isOpenLine, isOpenOfSize } from '../lines/lineState.ts';
import { hasToPair } from './hasToPair.ts';
import { nearCandidates } from './nearCandidates.ts';

/** What was found for open lines. */
export interface BooksPairs {
  readonly pairs: ReadonlyMap<string, PairFound>;
  /** What lines nearly are. */
  readonly nearly: ReadonlyMap<string, NearlyFound>;
  readonly halves: ReadonlyMap<string, HalfFound>;
  /** The other own account that a line's wording names. */
  readonly named: ReadonlyMap<string, string>;
}

/** Payees and own bank accounts by name, as they may stand in wordings. */
export interface BooksNames {
  readonly payees: readonly NamedPayee[];
  readonly own: readonly NamedPayee[];
}

/** The names of the books. An own account is known by the end of its number too. */
export async function booksNames(tx: Tx, booksId: BooksId): Promise<BooksNames> {
  const payees = await rowsOf(
    tx,
    NamedRow,
    sql`select id, name from payees where books_id = ${booksId} and is_here and merged_into is null`,
  );
  const own = await rowsOf(
    tx,
    NamedRow,
    sql`select id, name || coalesce(' ' || right(regexp_replace(number, '\\D', '', 'g'), 4), '') as name
        from bank_accounts where books_id = ${booksId} and is_here`,
  );
  return { payees, own };
}

/**
 * Finds what stands in the books already, and the other halves of moves, for all open lines of some stems, together
 * with all other lines that it might be as well.
 */
export async function findPairs(
  tx: Tx,
  booksId: BooksId,
  stems: readonly string[],
): Promise<BooksPairs> {
  if (!(await hasToPair(tx, booksId))) return NOTHING;
  const own = await openLines(tx, booksId, sql`l.stem = any(${sql.param(stems)}::text[])`);
  const names = await booksNames(tx, booksId);
  const all = [...names.payees, ...names.own];
  const read = lineReader(all);
  const payeeIds = new Set<string>();
  const numbers = new Set<string>();
  for (const each of own.map(read)) {
    for (const id of payeesOf(each)) payeeIds.add(id);
    for (const number of each.numbers) numbers.add(number);
  }
  const amounts = [...new Set(own.map(({ amount }) => amount))];
  const candidates = await booksCandidates(tx, booksId, {
    amounts,
    payeeIds: [...payeeIds],
    numbers: [...numbers],
  });
  const isHalf = (await hasOtherCurrency(tx, booksId))
    ? sql`exists (select from lines n where n.books_id = l.books_id
        and n.stem = any(${sql.param(stems)}::text[]) and ${mayBeHalfOf(sql`n`)})`
    : sql`false`;
  const rivals = await openLines(
    tx,
    booksId,
    sql`l.stem <> all(${sql.param(stems)}::text[])
        and (${isOpenOfSize(amounts)}
          or ${isHalf})`,
  );
  const lines = [...own, ...rivals];
  const rates = await taxRatesOf(tx, booksId);
  const money = await loadMoney(tx, booksId, lines);
  const pairs = new Map<string, PairFound>();
  const nearly = new Map<string, NearlyFound>();
  for (const [currency, group] of groupBy(lines, (line) => line.currency)) {
    const near = nearCandidates(candidates, { lines: group, currency, payees: all }, money);
    const found = proposePairs(group, near, all, rates);
    for (const [id, pair] of found.pairs) pairs.set(id, pair);
    for (const [id, nearlyFound] of found.nearly) nearly.set(id, nearlyFound);
  }
  const free = lines.filter(({ id }) => !pairs.has(id));
  return {
    pairs,
    nearly,
    halves: findHalves(
      free.map((line) => ({ ...line, worth: money.worth(line) })),
      names.own,
      names.payees,
    ),
    named: accountsNamed(own, names.own, names.payees),
  };
}

const NOTHING: BooksPairs = {
  pairs: new Map(),
  nearly: new Map(),
  halves: new Map(),
  named: new Map(),
};

const OpenLinesRow = z.object({
  id: z.string(),
  bankAccountId: idRow<BankAccountId>(),
  date: z.string(),
  /** In positive, out negative. */
  amount: z.int(),
  currency: z.string(),
  /** All the bank says of it: description, reference, payee. */
  text: z.string(),
  chequeNumber: z.string().nullable(),
  /** Who look-alikes were paid to or by, where that is known. */
  usualPayeeId: idRow<PayeeId>().nullable(),
}) satisfies z.ZodType<PairLine>;
export type OpenPairLine = z.infer<typeof OpenLinesRow>;

/** Open lines as pairing looks at them, with who their look-alikes were, of those that nobody doubts. */
export function openLines(tx: Tx, booksId: BooksId, which: SQL): Promise<readonly OpenPairLine[]> {
  return rowsOf(tx, OpenLinesRow, openLinesQuery(booksId, which));
}

/** The query for them: whose the stems are is worked out once, not for each line, however few the database expects. */
export function openLinesQuery(booksId: BooksId, which: SQL): SQL {
  return sql`with wanted as (
          select l.id, l.bank_account_id, l.date, l.amount, l.stem, l.cheque_number,
            concat_ws(' ', l.description, l.payee, l.reference) as text
          from lines l
          where l.books_id = ${booksId} and ${isOpenLine} and ${which}),
        usual as materialized (
          select w.stem, mode() within group (order by coalesce(there.id, y.merged_into, e.payee_id)) as payee_id
          from (select distinct stem from wanted) w
          cross join lateral (
            select x.leg_id from lines o
            join decision_lines t on t.books_id = o.books_id and t.line_id = o.id and t.is_live
            join decision_legs x on x.books_id = t.books_id and x.decision_id = t.decision_id
            where o.books_id = ${booksId} and o.stem = w.stem
            order by o.date desc limit 12) decided
          join legs g on g.books_id = ${booksId} and g.id = decided.leg_id
          join entries e on e.books_id = g.books_id and e.id = g.entry_id
          left join payees y on y.books_id = e.books_id and y.id = e.payee_id
          left join lateral (
            select a.id from legs z
            join bank_accounts a on a.books_id = z.books_id and a.account_id = z.account_id
            where z.books_id = g.books_id and z.entry_id = g.entry_id and z.id <> g.id
              and z.role = 'bank' limit 1) there on true
          group by w.stem)
        select w.id, w.bank_account_id as "bankAccountId", w.date, w.amount,
          coalesce(b.currency, k.currency) as currency, w.text,
          w.cheque_number as "chequeNumber", u.payee_id as "usualPayeeId"
        from wanted w
        join books k on k.id = ${booksId}
        join bank_accounts b on b.books_id = k.id and b.id = w.bank_account_id
        left join usual u on u.stem = w.stem
        order by w.date, w.id`;
}
