import { Leaves, Role } from '@zubrell/contract/books';
import { fail } from '@zubrell/core/errors';
import { hasLeave, type Leave, leaveWords } from '@zubrell/core/people/leaves';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

const LeaveRow = z.object({ role: Role, leaves: Leaves });

/** Refuses a command of somebody whose role the owner has not left this to. @throws {ZubrellError} LEAVE_NEEDED */
export async function needsLeave(
  { tx, booksId, actor }: Pick<BooksCommand, 'tx' | 'booksId' | 'actor'>,
  leave: Leave,
): Promise<void> {
  const [row] = await rowsOf(
    tx,
    LeaveRow,
    sql`select m.role, k.leaves from memberships m join books k on k.id = m.books_id
        where m.books_id = ${booksId} and m.user_id = ${actor.userId}`,
  );
  if (!row || !hasLeave(row.leaves, leave, row.role)) {
    fail('LEAVE_NEEDED', { what: leaveWords[leave] });
  }
}
