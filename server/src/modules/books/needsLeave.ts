import { Leaves, Role } from '@zubrell/contract/books';
import { fail } from '@zubrell/core/errors';
import { hasLeave, type Leave, leaveWords } from '@zubrell/core/people/leaves';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

const LeaveRow = z.object({ leaves: Leaves });
const RoleRow = z.object({ role: Role });

/** Refuses a command of somebody whose role the owner has not left this to. @throws {ZubrellError} LEAVE_NEEDED */
export async function needsLeave(
  command: Pick<BooksCommand, 'tx' | 'booksId' | 'actor'>,
  leave: Leave,
): Promise<void> {
  const { tx, booksId } = command;
  const role = await roleOf(command);
  const [row] = await rowsOf(tx, LeaveRow, sql`select leaves from books where id = ${booksId}`);
  if (role === null || !row || !hasLeave(row.leaves, leave, role)) {
    fail('LEAVE_NEEDED', { what: leaveWords[leave] });
  }
}

/** The role in which somebody acts; null where they have none any more. */
export async function roleOf({
  tx,
  booksId,
  actor,
}: Pick<BooksCommand, 'tx' | 'booksId' | 'actor'>): Promise<Role | null> {
  const [row] = await rowsOf(
    tx,
    RoleRow,
    sql`select role from memberships where books_id = ${booksId} and user_id = ${actor.userId}`,
  );
  return row?.role ?? null;
}
