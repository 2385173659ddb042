import { fail } from '@zubrell/core/errors';
import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, rowsOf, type Tx } from '../../db/database.ts';
import { NameRow } from '../../db/rows.ts';
import { renewElsewhere } from './queries.ts';

/** What signs somebody in, and what came of that. */
const SIGN_IN_TABLES = [
  'sessions',
  'recovery_codes',
  'second_factors',
  'reset_links',
  'passkeys',
  'passkey_challenges',
] as const;

/** What stands where a name stood. */
const ERASED = 'Erased person';

/**
 * Makes sure that somebody may decide on a person's account: an owner of all books that the person works with.
 *
 * @throws {ZubrellError} MEMBER_ELSEWHERE
 */
export async function checkOwnsAllOf(tx: Tx, ownerId: string, userId: UserId): Promise<void> {
  const [others] = await rowsOf(
    tx,
    NameRow,
    sql`select u.name from users u where u.id = ${userId} and exists (
          select from memberships m where m.user_id = u.id and not exists (
            select from memberships o
            where o.books_id = m.books_id and o.user_id = ${ownerId} and o.role = 'owner'))`,
  );
  if (others) fail('MEMBER_ELSEWHERE', { name: others.name });
}

const BookRow = z.object({ id: z.string(), isAlone: z.boolean() });

/**
 * Forgets a person: name and address are replaced, their sign-in, sessions and memberships go, and what is personal on
 * record. What they did in books stays, as done by somebody who is erased.
 *
 * @param onRecord puts it on record, or refuses it, once their memberships can't change any more
 * @throws {ZubrellError} OWNER_NEEDED where they alone own books
 */
export async function eraseUser(
  database: Database,
  userId: UserId,
  onRecord: (tx: Tx) => Promise<void>,
): Promise<void> {
  await database.transaction(async (tx) => {
    const books = await rowsOf(
      tx,
      BookRow,
      sql`select m.books_id as id, m.role = 'owner' and not exists (
            select from memberships o
            where o.books_id = m.books_id and o.role = 'owner' and o.user_id <> m.user_id) as "isAlone"
          from memberships m where m.user_id = ${userId} for update of m`,
    );
    // While there is a session still that it can be recorded from.
    await onRecord(tx);
    if (books.some(({ isAlone }) => isAlone)) fail('OWNER_NEEDED');
    await tx.execute(sql`delete from memberships where user_id = ${userId}`);
    for (const { id } of books) {
      await tx.execute(sql`select set_config('app.books_id', ${id}, true)`);
      await renewElsewhere(tx, id);
    }
    for (const table of SIGN_IN_TABLES) {
      await tx.execute(sql`delete from ${sql.identifier(table)} where user_id = ${userId}`);
    }
    await tx.execute(
      sql`update users set name = ${ERASED}, email = id || '@erased.invalid', password_hash = '',
            erased_at = now()
          where id = ${userId}`,
    );
    await tx.execute(sql`select erase_personal(${userId})`);
  });
}
