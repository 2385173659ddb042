import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { FirstUser, SignIn, User } from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { type Database, rowsOf, type Tx } from '../../db/database.ts';
import { sessions, users } from '../../db/schema/people.ts';
import type { Services } from '../../services.ts';

/** The cookie that carries the session's id. */
export const sessionCookie = 'zubrell_session';

/** How long a session lasts. */
export const sessionDays = 30;

/** Checked against where the address is unknown, so that both take the same time. */
const NOBODY =
  '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$x5c4bYMYEpJm6nZ9qXBkOSSuEsqWhTGcvUgVS2fIbZQ';

/** Makes a user with an argon2id hash of the password. */
export async function createUser(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  { name, email, password }: FirstUser,
): Promise<User> {
  const user = { id: randomUUID(), name, email: email.toLowerCase() };
  const passwordHash = await hash(password);
  await tx.insert(users).values({ ...user, passwordHash, createdAt: clock.now() });
  return user;
}

/** The user with this address. */
export async function userByEmail(tx: Tx | Database, email: string): Promise<User | null> {
  const [row] = await rowsOf<User>(
    tx,
    sql`select id, name, email from users where email = ${email.toLowerCase()}`,
  );
  return row ?? null;
}

/** Whether there is any user yet. */
export async function hasUsers(tx: Tx | Database): Promise<boolean> {
  const rows = await rowsOf(tx, sql`select from users limit 1`);
  return rows.length > 0;
}

/** The user these credentials are of. @throws {ZubrellError} SIGN_IN_WRONG */
export async function checkCredentials(
  tx: Tx | Database,
  { email, password }: SignIn,
): Promise<User> {
  const [row] = await rowsOf<User & { passwordHash: string }>(
    tx,
    sql`select id, name, email, password_hash as "passwordHash" from users
        where email = ${email.toLowerCase()}`,
  );
  const isRight = await verify(row?.passwordHash ?? NOBODY, password).catch(() => false);
  if (!row || !isRight) fail('SIGN_IN_WRONG');
  return { id: row.id, name: row.name, email: row.email };
}

/** Opens a session. @returns the id to be put in the cookie; only its hash is kept */
export async function openSession(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  userId: string,
): Promise<string> {
  const id = randomBytes(32).toString('base64url');
  const createdAt = clock.now();
  const expiresAt = new Date(createdAt.getTime() + sessionDays * 86_400_000);
  await tx.insert(sessions).values({ idHash: hashOf(id), userId, createdAt, expiresAt });
  return id;
}

/** The user of a session that has not expired. */
export async function userOfSession(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  id: string,
): Promise<User | null> {
  const [row] = await rowsOf<User>(
    tx,
    sql`select u.id, u.name, u.email from sessions s join users u on u.id = s.user_id
        where s.id_hash = ${hashOf(id)} and s.expires_at > ${clock.now().toISOString()}`,
  );
  return row ?? null;
}

/** Ends a session. */
export async function closeSession(tx: Tx | Database, id: string): Promise<void> {
  await tx.execute(sql`delete from sessions where id_hash = ${hashOf(id)}`);
}

/** What is kept of a secret that somebody else holds: a session's id, an invitation. */
export function hashOf(id: string): string {
  return createHash('sha256').update(id).digest('hex');
}
