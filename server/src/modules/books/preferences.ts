import type { Preferences } from '@zubrell/contract/books';
import type { BooksId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';

/** Keeps what a user wants to see of books. It is nobody else's business, so it is no step. */
export async function savePreferences(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
  preferences: Preferences,
): Promise<Preferences> {
  await tx.execute(
    sql`update memberships set preferences = ${JSON.stringify(preferences)}::jsonb
        where books_id = ${booksId} and user_id = ${userId}`,
  );
  return preferences;
}
