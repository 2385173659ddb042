import type { ClosingAccount, MonthClosing } from '@zubrell/contract/closing';
import { closingStates } from '@zubrell/core/closing/months';
import { addDays, lastDayOf, monthOf } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { settingsOf } from '../books/changeBooks.ts';
import { lastStepOf } from '../books/queries.ts';
import { listStatements } from '../statements/listStatements.ts';
import { closingChecks } from './checks.ts';

/** So many months are shown around the one on the screen. */
const MONTHS_BEFORE = 3;

const SignedRow = z.object({ by: z.string(), at: z.string() }).nullable();
const ClosingRow = z.object({
  state: z.enum(closingStates),
  note: z.string(),
  prepared: SignedRow,
  reviewed: SignedRow,
  closed: SignedRow,
});

const CountsRow = z.object({
  lineCount: z.int(),
  openCount: z.int(),
  reviewedCount: z.int(),
  result: z.int(),
});

/** A month on its way to being closed, with all that stands in the way. */
export async function monthClosing(
  tx: Tx,
  booksId: BooksId,
  month: string,
  today: string,
): Promise<MonthClosing> {
  const settings = await settingsOf(tx, booksId);
  const signed = (
    who: string,
  ) => sql`(select json_build_object('by', u.name, 'at', to_json(${sql.raw(`c.${who}_at`)}) #>> '{}')
    from users u where u.id = ${sql.raw(`c.${who}_by`)})`;
  const [[closing], [counts], seenStep] = await together(
    rowsOf(
      tx,
      ClosingRow,
      sql`select c.state, c.note, ${signed('prepared')} as prepared, ${signed('reviewed')} as reviewed,
          ${signed('closed')} as closed
        from closings c where c.books_id = ${booksId} and c.month = ${month} and c.is_here`,
    ),
    rowsOf(tx, CountsRow, countsOf(booksId, month)),
    lastStepOf(tx, booksId),
  );
  const end = lastDayOf(month);
  const { lockDate } = settings;
  return {
    month,
    seenStep,
    state: closing?.state ?? null,
    note: closing?.note ?? '',
    prepared: closing?.prepared ?? null,
    reviewed: closing?.reviewed ?? null,
    closed: closing?.closed ?? null,
    ...(counts ?? { lineCount: 0, openCount: 0, reviewedCount: 0, result: 0 }),
    accounts: await closingAccounts(tx, booksId, end, today),
    checks: await closingChecks(tx, booksId, month, settings),
    months: monthsAround(month).map((each) => ({
      month: each,
      isClosed: lockDate !== null && lastDayOf(each) <= lockDate,
    })),
  };
}

function countsOf(booksId: BooksId, month: string) {
  const days = sql`between ${`${month}-01`} and ${lastDayOf(month)}`;
  return sql`select open.count + decided.count as "lineCount", open.count as "openCount",
      (select count(*)::int from lines l
        join line_reviews r on r.books_id = l.books_id and r.line_id = l.id
        where l.books_id = ${booksId} and l.is_here and l.date ${days}) as "reviewedCount",
      (select coalesce(-sum(m.amount), 0)::bigint from ${accountDays(booksId)} m
        join accounts a on a.books_id = ${booksId} and a.id = m.account_id and a.type in ('income', 'expense')
        where m.date ${days}) as result
    from (select count(*)::int as count from open_lines l
        where l.books_id = ${booksId} and l.date ${days}) open,
      (select coalesce(sum(d.count), 0)::int as count from decided_days d
        where d.books_id = ${booksId} and d.date ${days}) decided`;
}

/** Each bank account with the statement that decides whether it is agreed up to a day. */
export async function closingAccounts(
  tx: Tx,
  booksId: BooksId,
  end: string,
  today: string,
): Promise<ClosingAccount[]> {
  const { accounts } = await listStatements(tx, booksId, today);
  return accounts.map(({ bankAccountId, statements }) => {
    const agreed = statements.findLast(({ state, from }) => state === 'agreed' && from <= end);
    // A statement that ends in the middle of the next month is agreed when it is over: the one before counts until then.
    const next = statements.find(({ state, to }) => state !== 'agreed' && to <= end);
    const isAgreed = next === undefined && (agreed !== undefined || statements.length === 0);
    return { bankAccountId, statement: next ?? agreed ?? null, isAgreed };
  });
}

function monthsAround(month: string): string[] {
  const months = [month];
  for (let before = 0; before < MONTHS_BEFORE; before += 1) {
    months.unshift(monthOf(addDays(`${months[0]}-01`, -1)));
  }
  months.push(monthOf(addDays(lastDayOf(month), 1)));
  return months;
}
