import type { StatementSummary } from '@zubrell/contract/statements';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import type { DatedBalance } from '@zubrell/core/intake/balanceChain';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { statedBalances } from '../proof/statedBalances.ts';
import {
  type AccountFacts,
  findStatement,
  type PlannedStatement,
  type SaidStatement,
} from './accountFacts.ts';
import { isTicked, movedByDay, summaries } from './listStatements.ts';

/** Which statement: its last day, and the day that it is. */
export interface StatementWanted {
  readonly to: string;
  readonly today: string;
}

/** What moved on a day of a statement. */
export interface StatementDay {
  readonly date: string;
  readonly count: number;
  readonly amount: number;
}

/** A statement as sums by day tell of it: its lines need not be read. */
export interface StatementFrame {
  readonly account: AccountFacts;
  readonly statement: PlannedStatement;
  readonly before: PlannedStatement | null;
  readonly after: PlannedStatement | null;
  /** Balances that the bank states, the oldest first. */
  readonly stated: readonly DatedBalance[];
  readonly summary: StatementSummary;
  /** What was said of it, if it is agreed. */
  readonly agreed: SaidStatement | null;
  /**
   * The days of its lines with what they come to, the oldest first: of an agreed statement those that they are dated, of
   * another those on which they count.
   */
  readonly days: readonly StatementDay[];
  /** No file or feed brings lines: entries are ticked. */
  readonly isTickedHere: boolean;
}

/** A statement as sums by day tell of it. @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, STATEMENT_UNKNOWN */
export async function frameOf(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  wanted: StatementWanted,
): Promise<StatementFrame> {
  const [{ account, statement, all, at }, stated, moved] = await together(
    findStatement(tx, booksId, bankAccountId, wanted),
    statedBalances(tx, booksId, bankAccountId),
    movedByDay(tx, booksId, bankAccountId),
  );
  const summary = summaries(account, all.slice(0, at + 1), moved, stated).at(-1);
  if (!summary) throw new Error('a statement that was found has a summary');
  const { from, to, said } = statement;
  const agreed = said !== null && said.agreedStep !== null ? said : null;
  const own = moved
    .filter(({ day }) => day >= from && day <= to)
    .map(({ day, lineCount, amount }) => ({ date: day, count: lineCount, amount }))
    .sort((a, b) => (a.date < b.date ? -1 : 1));
  const days = agreed ? await countedDays(tx, booksId, agreed) : own;
  const lineCount = days.reduce((sum, { count }) => sum + count, 0);
  return {
    account,
    statement,
    before: all[at - 1] ?? null,
    after: all[at + 1] ?? null,
    stated,
    summary: agreed ? { ...summary, lineCount, openCount: 0, askedCount: 0 } : summary,
    agreed,
    days,
    isTickedHere: isTicked(account),
  };
}

const CountedDay = z.object({ date: z.string(), count: z.int(), amount: z.int() });

/** What an agreed statement counts, by day. */
function countedDays(tx: Tx, booksId: BooksId, { id }: SaidStatement): Promise<StatementDay[]> {
  return rowsOf(
    tx,
    CountedDay,
    sql`select date, sum(count)::int as count, sum(amount)::bigint as amount from counted_days
        where books_id = ${booksId} and statement_id = ${id} group by date order by date`,
  );
}
