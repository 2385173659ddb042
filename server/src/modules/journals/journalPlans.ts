import type { Board } from '@zubrell/contract/board';
import { JournalPlan, type JournalPlans } from '@zubrell/contract/journals';
import type { BooksId } from '@zubrell/core/ids';
import { dueDates, nextDate } from '@zubrell/core/ledger/recurring';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

const PlanRow = JournalPlan.omit({ amount: true, due: true, next: true });

/**
 * The recurring journals of books with what is due, those with the oldest due date first.
 *
 * @param today up to which day dates are due
 */
export async function journalPlans(tx: Tx, booksId: BooksId, today: string): Promise<JournalPlans> {
  const rows = await rowsOf(
    tx,
    PlanRow,
    sql`select p.id, p.name, p.payee_id as "payeeId", p.note, p.legs, p.rhythm,
          p.start_date as "startDate", p.end_date as "endDate", p.is_reversing as "isReversing",
          p.skipped,
          (select coalesce(json_agg(json_build_object('entryId', e.id, 'date', e.plan_date)
              order by e.plan_date desc), '[]')
            from entries e
            where e.books_id = p.books_id and e.plan_id = p.id and not e.is_void) as posted
        from journal_plans p
        where p.books_id = ${booksId} and p.is_here`,
  );
  const plans = rows.map((row): JournalPlan => {
    const done = new Set([...row.skipped, ...row.posted.map(({ date }) => date)]);
    const isDone = (date: string) => done.has(date);
    return {
      ...row,
      amount: row.legs.reduce((sum, leg) => sum + Math.max(leg.amount, 0), 0),
      due: dueDates(row, today, isDone),
      next: nextDate(row, today, isDone),
    };
  });
  const sooner = (plan: JournalPlan) => plan.due[0] ?? plan.next ?? '9999';
  return {
    plans: plans.sort((a, b) => sooner(a).localeCompare(sooner(b)) || a.name.localeCompare(b.name)),
  };
}

/** How many recurring journals are due, since when, and which is next. */
export async function journalsAhead(
  tx: Tx,
  booksId: BooksId,
  today: string,
): Promise<Board['journals']> {
  const { plans } = await journalPlans(tx, booksId, today);
  const [next] = plans
    .flatMap(({ next: date, name, amount }) => (date === null ? [] : [{ name, date, amount }]))
    .sort((a, b) => a.date.localeCompare(b.date));
  return {
    due: plans.reduce((count, { due }) => count + due.length, 0),
    oldest: plans.flatMap(({ due }) => due).sort()[0] ?? null,
    next: next ?? null,
  };
}
