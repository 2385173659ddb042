import { EDGE_DAYS } from '@zubrell/core/closing/adjustments';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { type Tx, together } from '../../db/database.ts';
import { bankDays } from '../proof/bankDays.ts';
import type { PlannedStatement, SaidStatement } from './accountFacts.ts';
import { type AccountLine, accountLines, type DayRange, linesAmong } from './accountRows.ts';

/** The lines that an agreed statement counts and that are dated between two days, in its order. */
export function agreedLines(
  tx: Tx,
  booksId: BooksId,
  { id, bankAccountId, agreedStep }: SaidStatement,
  { from, to }: DayRange,
): Promise<AccountLine[]> {
  return linesAmong(
    tx,
    booksId,
    bankAccountId,
    sql`select n.id from lines n
        where n.books_id = ${booksId} and n.bank_account_id = ${bankAccountId} and n.date between ${from} and ${to}
          and exists (select from statement_parts p
            where p.books_id = n.books_id and p.thing_id = n.id and p.statement_id = ${id} and p.step = ${agreedStep})`,
  );
}

/**
 * The lines of an account that are dated in a statement's period and count elsewhere. Whole days are told apart by sums
 * first, so that lines are read only of days of which something may.
 */
export async function linesElsewhere(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { from, to, said }: PlannedStatement,
): Promise<AccountLine[]> {
  const ofAccount = sql`n.books_id = ${booksId} and n.bank_account_id = ${bankAccountId} and n.date between ${from} and ${to}`;
  const counted = sql`counted_days c
    where c.books_id = ${booksId} and c.bank_account_id = ${bankAccountId} and c.kind = 'line' and c.date between ${from} and ${to}`;
  if (said !== null && said.agreedStep !== null) {
    return linesAmong(
      tx,
      booksId,
      bankAccountId,
      sql`select n.id from lines n
          where ${ofAccount} and n.date = any(array(
              select date from (
                select d.date, d.count, d.amount from ${bankDays(booksId)} d
                where d.bank_account_id = ${bankAccountId} and d.date between ${from} and ${to}
                union all
                select c.date, -c.count, -c.amount from ${counted} and c.statement_id = ${said.id}) days
              group by date having sum(count) <> 0 or sum(amount) <> 0))
            and not exists (select from statement_parts p
              where p.books_id = n.books_id and p.thing_id = n.id and p.statement_id = ${said.id} and p.step = ${said.agreedStep})`,
    );
  }
  const found = await linesAmong(
    tx,
    booksId,
    bankAccountId,
    sql`select n.id from lines n join bank_accounts b on b.books_id = n.books_id and b.id = n.bank_account_id
        where ${ofAccount} and n.date <= b.closed_to
        union all
        select n.id from lines n where ${ofAccount} and n.date = any(array(select c.date from ${counted}))
        union all
        select n.id from statement_days own
        join lines n on n.books_id = own.books_id and n.id = own.thing_id
        where own.books_id = ${booksId} and ${ofAccount}`,
  );
  return found.filter(({ counts }) => counts < from || counts > to);
}

/** The lines that count shortly before or after a statement, or are dated then. */
export async function linesAround(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { from, to }: DayRange,
): Promise<readonly AccountLine[]> {
  const [before, after] = await together(
    accountLines(tx, booksId, bankAccountId, {
      from: addDays(from, -EDGE_DAYS),
      to: addDays(from, -1),
    }),
    accountLines(tx, booksId, bankAccountId, { from: addDays(to, 1), to: addDays(to, EDGE_DAYS) }),
  );
  return [...before, ...after];
}
