import { randomBytes, randomUUID } from 'node:crypto';
import { Role } from '@zubrell/contract/books';
import type { InvitationShown, Invite, Invited } from '@zubrell/contract/people';
import { fail } from '@zubrell/core/errors';
import type { BooksId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, inBooks, rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, idRow, NameRow } from '../../db/rows.ts';
import { invitations } from '../../db/schema/people.ts';
import { isSameText } from '../../db/textSearch.ts';
import type { Services } from '../../services.ts';
import { hashOf } from '../session/sessions.ts';
import type { Acting } from '../steps/booksCommand.ts';
import { renewElsewhere } from './queries.ts';

/** An invitation can be taken up for so long. */
const DAYS = 14;

/** Makes an invitation. @returns its secret, of which only the hash is kept */
export async function invite(
  { tx, booksId, clock, actor }: Acting,
  { name, role }: Invite,
): Promise<Invited> {
  const secret = randomBytes(24).toString('base64url');
  const id = randomUUID();
  const createdAt = clock.now();
  await tx.insert(invitations).values({
    booksId,
    id,
    secretHash: hashOf(secret),
    name,
    role,
    invitedBy: actor.userId,
    createdAt,
    expiresAt: new Date(createdAt.getTime() + DAYS * 86_400_000),
  });
  return { id, secret };
}

/**
 * Takes an invitation back, so that its link leads nowhere.
 *
 * @returns whom it was meant for; null where it was gone already
 */
export async function withdrawInvitation(
  tx: Tx,
  booksId: BooksId,
  id: string,
): Promise<string | null> {
  const [gone] = await rowsOf(
    tx,
    NameRow,
    sql`delete from invitations where books_id = ${booksId} and id = ${id} returning name`,
  );
  return gone?.name ?? null;
}

const InvitationRow = z.object({
  booksId: idRow<BooksId>(),
  name: z.string(),
  role: Role,
  invitedBy: z.string(),
});

/** What a secret invites to. @throws {ZubrellError} INVITATION_UNKNOWN */
export async function invitationOf(
  database: Database,
  { clock }: Pick<Services, 'clock'>,
  secret: string,
): Promise<InvitationShown> {
  const [found] = await rowsOf(
    database,
    InvitationRow,
    sql`select i.books_id as "booksId", i.name, i.role, u.name as "invitedBy"
        from invitations i join users u on u.id = i.invited_by
        where i.secret_hash = ${hashOf(secret)} and i.expires_at > ${clock.now().toISOString()}`,
  );
  if (!found) fail('INVITATION_UNKNOWN');
  return inBooks(database, found.booksId, async (tx) => {
    const [books] = await rowsOf(
      tx,
      NameRow,
      sql`select name from books where id = ${found.booksId}`,
    );
    return { ...found, booksName: books?.name ?? fail('BOOKS_UNKNOWN') };
  });
}

/**
 * Makes a user a member as invited; the invitation is used up, and open questions to the invited name
 * are theirs. Who is a member already keeps their role.
 *
 * @returns the invitation's id
 * @throws {ZubrellError} INVITATION_UNKNOWN
 */
export async function join(
  tx: Tx,
  { booksId, name, role }: InvitationShown,
  secret: string,
  userId: UserId,
): Promise<string> {
  const [used] = await rowsOf(
    tx,
    IdRow,
    sql`delete from invitations where secret_hash = ${hashOf(secret)} returning id`,
  );
  if (!used) fail('INVITATION_UNKNOWN');
  await tx.execute(
    sql`insert into memberships (books_id, user_id, role) values (${booksId}, ${userId}, ${role})
        on conflict (books_id, user_id) do nothing`,
  );
  await tx.execute(
    sql`update questions set asked_user_id = ${userId}
        where books_id = ${booksId} and asked_user_id is null and ${isSameText(sql`asked_of`, sql`${name}::text`)}`,
  );
  await renewElsewhere(tx, booksId);
  return used.id;
}
