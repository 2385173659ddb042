import type { Explanation } from '@zubrell/contract/statements';
import type { SingleCause } from '@zubrell/core/closing/causes';
import { explainStatement } from '@zubrell/core/closing/explainStatement';
import type { StatementFacts, StatementLine } from '@zubrell/core/closing/statementFacts';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { AccountLine } from './accountRows.ts';

/** How far back it is looked for what is usual, in days. */
const USUAL_DAYS = 200;
/** So many earlier lines are enough. */
const MOST_EARLIER = 4_000;

const EarlierRow = z.object({ date: z.string(), amount: z.int(), stem: z.string() });
const AnnouncedRow = z.object({
  id: z.string(),
  date: z.string(),
  amount: z.int(),
  text: z.string(),
});

/** A statement that is off, with the lines in it and around it. */
export interface OffStatement
  extends Omit<StatementFacts, 'lines' | 'keptOut' | 'before' | 'after' | 'announced' | 'earlier'> {
  readonly counted: readonly AccountLine[];
  readonly keptOut: readonly AccountLine[];
  /** Lines that count before or after, near the edges. */
  readonly near: readonly AccountLine[];
}

/** What would explain why a statement is off, the likeliest first, but for what somebody said is none. */
export async function explanationsOf(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { period, counted, keptOut, near, ...statement }: OffStatement,
): Promise<Explanation[]> {
  const earlier = await rowsOf(
    tx,
    EarlierRow,
    sql`select l.date, l.amount, l.stem from lines l
        where l.books_id = ${booksId} and l.bank_account_id = ${bankAccountId} and l.is_here
          and l.date between ${addDays(period.from, -USUAL_DAYS)} and ${addDays(period.from, -1)}
        order by l.date desc limit ${MOST_EARLIER}`,
  );
  const announced = await rowsOf(
    tx,
    AnnouncedRow,
    sql`select a.feed_id || ' ' || a.position as id, a.date, a.amount, a.description as text from announced_lines a
        join feeds f on f.books_id = a.books_id and f.id = a.feed_id
        where a.books_id = ${booksId} and f.bank_account_id = ${bankAccountId}
          and a.date between ${period.from} and ${period.to}`,
  );
  const found = explainStatement({
    ...statement,
    period,
    lines: counted.map(lineOf),
    keptOut: keptOut.map(lineOf),
    before: near.filter(({ counts }) => counts < period.from).map(lineOf),
    after: near.filter(({ counts }) => counts > period.to).map(lineOf),
    announced: announced.map((line) => ({
      ...line,
      wording: line.text,
      stem: line.text,
      balance: null,
      isTyped: false,
      isDoubted: false,
    })),
    earlier,
  });
  return found.map(({ causes, likelihood }) => ({ key: keyOf(causes), causes, likelihood }));
}

/** A line that counts by another day is as if it were of that. */
function lineOf({ counts, text, ...line }: AccountLine): StatementLine {
  const { id, amount, balance, stem, isTyped, isDoubted } = line;
  return { id, date: counts, amount, balance, wording: text, stem, isTyped, isDoubted };
}

function keyOf(causes: readonly SingleCause[]): string {
  return causes
    .map(({ kind, lineIds, amount }) => [kind, amount, ...lineIds].join(' '))
    .sort()
    .join(' and ');
}
