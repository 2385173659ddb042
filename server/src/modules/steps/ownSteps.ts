import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { countRows } from '../../db/database.ts';
import type { BooksCommand } from './booksCommand.ts';

/**
 * Refuses a reviewer who would turn steps that others made.
 *
 * @throws {ZubrellError} ROLE_TOO_LOW
 */
export async function refuseOthersSteps(
  { tx, booksId, actor }: BooksCommand,
  steps: readonly number[],
): Promise<void> {
  const count = await countRows(
    tx,
    sql`select from steps s
        join memberships m on m.books_id = s.books_id and m.user_id = ${actor.userId}
          and m.role = 'reviewer'
        where s.books_id = ${booksId} and s.user_id <> m.user_id
          and s.no = any(${sql.param(steps)}::bigint[])`,
  );
  if (count > 0) fail('ROLE_TOO_LOW', { role: 'reviewer' });
}
