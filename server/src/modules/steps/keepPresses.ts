import { sql } from 'drizzle-orm';
import type { BooksCommand } from './booksCommand.ts';

/** More keys and clicks than this for one step were not somebody's work. */
const MOST = 5_000;

/**
 * Keeps how many keys and clicks led to the command's step, if it made one. What a browser says of it is a figure
 * for people and proves nothing: what is no such number is left out.
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
    sql`insert into step_presses (books_id, step_no, presses)
        select books_id, no, ${presses} from steps where books_id = ${booksId} and no = ${step}`,
  );
}
