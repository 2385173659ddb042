import type { BankAccountId, BooksId, PayeeId } from '@zubrell/core/ids';
import { accountsNamed, findHalves, type HalfFound } from '@zubrell/core/pair/findHalves';
import type { NamedPayee } from '@zubrell/core/pair/namesIn';
import type { PairLine } from '@zubrell/core/pair/pairing';
import { type NearlyFound, type PairFound, proposePairs } from '@zubrell/core/pair/proposePairs';
import { lineReader, payeesOf } from '@zubrell/core/pair/weighPair';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow, NamedRow } from '../../db/rows.ts';
import { taxRatesOf } from '../books/queries.ts';
import { booksCandidates } from '../ledger/candidates.ts';
import { isOpenLine } from '../lines/lineState.ts';
import { hasToPair } from './hasToPair.ts';

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
  const rivals = await openLines(
    tx,
    booksId,
    sql`abs(l.amount) = any(${sql.param([...new Set(amounts.map(Math.abs))])}::bigint[])
        and l.stem <> all(${sql.param(stems)}::text[])`,
  );
  const lines = [...own, ...rivals];
  const rates = await taxRatesOf(tx, booksId);
  const { pairs, nearly } = proposePairs(lines, candidates, all, rates);
  const free = lines.filter(({ id }) => !pairs.has(id));
  return {
    pairs,
    nearly,
    halves: findHalves(free, names.own, names.payees),
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
  /** All the bank says of it: description, reference, payee. */
  text: z.string(),
  chequeNumber: z.string().nullable(),
  /** Who look-alikes were paid to or by, where that is known. */
  usualPayeeId: idRow<PayeeId>().nullable(),
});

/** Open lines as pairing looks at them, with who their look-alikes were, of those that nobody doubts. */
export function openLines(tx: Tx, booksId: BooksId, which: SQL): Promise<readonly PairLine[]> {
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
        select w.id, w.bank_account_id as "bankAccountId", w.date, w.amount, w.text,
          w.cheque_number as "chequeNumber", u.payee_id as "usualPayeeId"
        from wanted w left join usual u on u.stem = w.stem
        order by w.date, w.id`;
}
