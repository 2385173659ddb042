import { Role } from '@zubrell/contract/books';
import { type LetSeeOtherBooks, People } from '@zubrell/contract/people';
import { fail } from '@zubrell/core/errors';
import type { BooksId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { renewAll } from '../proposals/renewProposals.ts';

const MemberRow = People.shape.members.element;

const InvitationRow = People.shape.invitations.element;

/** Who works with books, and who is invited. */
export async function peopleOf(tx: Tx, booksId: BooksId, now: Date): Promise<People> {
  const members = await rowsOf(
    tx,
    MemberRow,
    sql`select u.id as "userId", u.name, u.email, m.role,
          m.sees_other_books as "seesOtherBooks"
        from memberships m join users u on u.id = m.user_id
        where m.books_id = ${booksId} order by lower(u.name)`,
  );
  const invitations = await rowsOf(
    tx,
    InvitationRow,
    sql`select i.id, i.name, i.role, u.name as "invitedBy",
          to_json(i.expires_at) #>> '{}' as "expiresAt"
        from invitations i join users u on u.id = i.invited_by
        where i.books_id = ${booksId} and i.expires_at > ${now.toISOString()}
        order by i.created_at`,
  );
  return { members, invitations };
}

/** Makes sure that somebody works with books. @throws {ZubrellError} MEMBER_UNKNOWN */
export async function checkMember(tx: Tx, booksId: BooksId, userId: UserId): Promise<void> {
  const rows = await countRows(
    tx,
    sql`select from memberships where books_id = ${booksId} and user_id = ${userId}`,
  );
  if (rows === 0) fail('MEMBER_UNKNOWN');
}

const RoleRow = z.object({ userId: idRow<UserId>(), role: Role });

/**
 * Gives a member another role, or none.
 *
 * @returns the role before
 * @throws {ZubrellError} OWNER_NEEDED, MEMBER_UNKNOWN
 */
export async function setRole(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
  role: Role | null,
): Promise<Role> {
  const members = await rowsOf(
    tx,
    RoleRow,
    sql`select user_id as "userId", role from memberships where books_id = ${booksId} for update`,
  );
  const before = members.find((member) => member.userId === userId)?.role;
  const owners = members.filter((member) => member.role === 'owner');
  if (before === undefined) fail('MEMBER_UNKNOWN');
  if (before === 'owner' && owners.length === 1 && role !== 'owner') fail('OWNER_NEEDED');
  await tx.execute(
    role === null
      ? sql`delete from memberships where books_id = ${booksId} and user_id = ${userId}`
      : sql`update memberships set role = ${role}
            where books_id = ${booksId} and user_id = ${userId}`,
  );
  await renewElsewhere(tx, booksId);
  return before;
}

/** Lets a member see what comes from the owner's other books, or no longer. @throws {ZubrellError} MEMBER_UNKNOWN */
export async function letSeeOtherBooks(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
  { seesOtherBooks }: LetSeeOtherBooks,
): Promise<void> {
  const changed = await countRows(
    tx,
    sql`update memberships set sees_other_books = ${seesOtherBooks}
        where books_id = ${booksId} and user_id = ${userId} returning user_id`,
  );
  if (changed === 0) fail('MEMBER_UNKNOWN');
  await renewElsewhere(tx, booksId);
}

/** Computes proposals anew once other people see them, as the owner's other books may not be shown to all. */
export async function renewElsewhere(tx: Tx, booksId: BooksId): Promise<void> {
  const using = await countRows(
    tx,
    sql`select from books where id = ${booksId} and uses_other_books`,
  );
  if (using > 0) await renewAll(tx, booksId);
}
