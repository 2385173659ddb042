import { Cycle } from '@zubrell/contract/books';
import { type Period, statementPeriods } from '@zubrell/core/closing/periods';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BankAccountId, BooksId, StatementId } from '@zubrell/core/ids';
import { bankAccountKinds } from '@zubrell/core/ledger/kinds';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { bankDays } from '../proof/bankDays.ts';

/** What statements of a bank account begin with. */
export const AccountFacts = z.object({
  bankAccountId: idRow<BankAccountId>(),
  name: z.string(),
  kind: z.enum(bankAccountKinds),
  /** ISO 4217. */
  currency: z.string(),
  accountId: idRow<AccountId>(),
  cycle: Cycle,
  closedTo: z.string().nullable(),
  openingDate: z.string().nullable(),
  opening: z.int(),
  firstLine: z.string().nullable(),
  lastDay: z.string().nullable(),
});
export type AccountFacts = z.infer<typeof AccountFacts>;

/** The bank accounts of books, with what their statements begin with. @param bankAccountId only this one */
export function accountFacts(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId | null,
): Promise<AccountFacts[]> {
  return rowsOf(
    tx,
    AccountFacts,
    sql`select b.id as "bankAccountId", b.name, b.kind, coalesce(b.currency, k.currency) as currency,
          b.account_id as "accountId", b.cycle,
          b.closed_to as "closedTo", o.date as "openingDate", coalesce(o.amount, 0) as opening,
          span.first as "firstLine", greatest(span.last, told.last, entered.last)::text as "lastDay"
        from bank_accounts b
        join books k on k.id = b.books_id
        join accounts a on a.books_id = b.books_id and a.id = b.account_id
        left join lateral (
          select e.date, g.own as amount from entries e
          join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.account_id = b.account_id
          where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void) o on true
        cross join lateral (
          select min(d.date) as first, max(d.date) as last from ${bankDays(booksId)} d
          where d.bank_account_id = b.id) span
        cross join lateral (
          select max(t.closing_date) as last from batches t
          where t.books_id = b.books_id and t.bank_account_id = b.id and t.status = 'kept') told
        cross join lateral (
          select max(m.date) as last from moved_days m
          where m.books_id = b.books_id and m.account_id = b.account_id and m.count > 0) entered
        where b.books_id = ${booksId} and b.is_here
          and ${bankAccountId === null ? sql`true` : sql`b.id = ${bankAccountId}`}
        order by a.code`,
  );
}

/** What somebody has said of a statement. */
export const SaidStatement = z.object({
  id: idRow<StatementId>(),
  bankAccountId: idRow<BankAccountId>(),
  from: z.string(),
  to: z.string(),
  closing: z.int().nullable(),
  dismissed: z.array(z.string()),
  agreedStep: z.int().nullable(),
  agreedOpening: z.int().nullable(),
  agreedClosing: z.int().nullable(),
  agreedBy: z.string().nullable(),
  agreedAt: z.string().nullable(),
  lastAgreedStep: z.int().nullable(),
});
export type SaidStatement = z.infer<typeof SaidStatement>;

/** What was said of the statements of books, by bank account and day. @param bankAccountId only of this one */
export function saidStatements(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId | null,
): Promise<SaidStatement[]> {
  return rowsOf(
    tx,
    SaidStatement,
    sql`select s.id, s.bank_account_id as "bankAccountId", s.from_date as from, s.to_date as to,
          s.closing, s.dismissed, s.agreed_step as "agreedStep", s.agreed_opening as "agreedOpening",
          s.agreed_closing as "agreedClosing", u.name as "agreedBy",
          to_json(s.agreed_at) #>> '{}' as "agreedAt", s.last_agreed_step as "lastAgreedStep"
        from statements s left join users u on u.id = s.agreed_by
        where s.books_id = ${booksId} and s.is_here
          and ${bankAccountId === null ? sql`true` : sql`s.bank_account_id = ${bankAccountId}`}
        order by s.bank_account_id, s.to_date`,
  );
}

/** A statement's days with what was said of it. */
export interface PlannedStatement extends Period {
  readonly said: SaidStatement | null;
}

/**
 * The statements of an account up to today or its last line, one after the other.
 *
 * @param said of this account
 */
export function plannedStatements(
  { cycle, openingDate, firstLine, lastDay }: AccountFacts,
  said: readonly SaidStatement[],
  today: string,
): PlannedStatement[] {
  const first = openingDate === null ? (said[0]?.from ?? firstLine) : addDays(openingDate, 1);
  if (first === null) return [];
  const until = [today, lastDay ?? today].sort().at(-1) ?? today;
  const byLast = new Map(said.map((each) => [each.to, each]));
  return statementPeriods(cycle, first, said, until).map((period) => ({
    ...period,
    said: byLast.get(period.to) ?? null,
  }));
}

/** A statement of an account with its neighbours. @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, STATEMENT_UNKNOWN */
export async function findStatement(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { to, today }: { readonly to: string; readonly today: string },
): Promise<{
  readonly account: AccountFacts;
  readonly statement: PlannedStatement;
  readonly all: readonly PlannedStatement[];
  readonly at: number;
}> {
  const [account] = await accountFacts(tx, booksId, bankAccountId);
  if (!account) fail('BANK_ACCOUNT_UNKNOWN');
  const said = await saidStatements(tx, booksId, bankAccountId);
  const all = plannedStatements(account, said, today);
  const at = all.findIndex((each) => each.to === to);
  const statement = all[at];
  if (!statement) fail('STATEMENT_UNKNOWN');
  return { account, statement, all, at };
}
