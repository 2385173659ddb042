import { sql } from 'drizzle-orm';
import type { BooksCommand } from './booksCommand.ts';

/** More keys and clicks than this for one step were not somebody's work. */
const MOST = 5_000;

/**
 * Keeps how many keys and clicks led to the command's step, if that posted or paired lines: by the months of these, parted
 * evenly among all that it decided. What a browser says of it is a figure for people and proves nothing: what is no such
 * number is left out.
 *
 * @param said the request's header
 */
export async function keepPresses(
  { tx, booksId, step }: Pick<BooksCommand, 'tx' | 'booksId' | 'step'>,
  said: unknown,
): Promise<void> {
  const presses = typeof said === 'string' && /^\d{1,4}$/.test(said) ? Number(said) : null;
  if (presses === null || presses > MOST) return;
  await tx.execute(
    sql`insert into step_presses (books_id, step_no, month, presses)
        select ${booksId}, ${step}, month, ${presses}::float8 * coded / decided
        from (
          select date_trunc('month', l.date)::date as month, sum(count(*)) over () as decided,
            count(*) filter (where d.kind in ('posted', 'paired')) as coded
          from decisions d
          join decision_lines t on t.books_id = d.books_id and t.decision_id = d.id
          join lines l on l.books_id = t.books_id and l.id = t.line_id
          where d.books_id = ${booksId} and d.step = ${step}
          group by 1) m
        where coded > 0`,
  );
}
