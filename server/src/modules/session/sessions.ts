import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import {
  type ChangePassword,
  type FirstUser,
  OpenSession,
  type SignIn,
  User,
} from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import type { UserId } from '@zubrell/core/ids';
import { type Locale, usualLocale } from '@zubrell/core/people/locales';
import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, type Database, rowsOf, type Tx } from '../../db/database.ts';
import { sessions, users } from '../../db/schema/people.ts';
import type { OpenedFrom } from '../../openedFrom.ts';
import type { Services } from '../../services.ts';

/** The cookie that carries the session's id. */
export const sessionCookie = 'zubrell_session';

/** How long a session lasts at most, and while nothing is asked in it. */
export const sessionDays = 30;
const IDLE_DAYS = 7;
const DAY = 86_400_000;
/** It is written down that often that a session is used, in milliseconds. */
const SEEN_EVERY = 300_000;

/** Checked against where the address is unknown, so that both take the same time. */
const NOBODY =
  '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$x5c4bYMYEpJm6nZ9qXBkOSSuEsqWhTGcvUgVS2fIbZQ';

/** Makes a user with an argon2id hash of the password. */
export async function createUser(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  { name, email, password }: FirstUser,
): Promise<User> {
  const user = { id: randomUUID(), name, email: email.toLowerCase(), locale: usualLocale };
  const passwordHash = await hash(password);
  await tx.insert(users).values({ ...user, passwordHash, createdAt: clock.now() });
  return user;
}

/** The user with this address. */
export async function userByEmail(tx: Tx | Database, email: string): Promise<User | null> {
  const [row] = await rowsOf(
    tx,
    User,
    sql`select id, name, email, locale from users where email = ${email.toLowerCase()}`,
  );
  return row ?? null;
}

/** Whether there is any user yet. */
export async function hasUsers(tx: Tx | Database): Promise<boolean> {
  const rows = await countRows(tx, sql`select from users limit 1`);
  return rows > 0;
}

const CheckCredentialsRow = User.extend({ passwordHash: z.string() });

/** The user these credentials are of. @throws {ZubrellError} SIGN_IN_WRONG */
export async function checkCredentials(
  tx: Tx | Database,
  { email, password }: Pick<SignIn, 'email' | 'password'>,
): Promise<User> {
  const [row] = await rowsOf(
    tx,
    CheckCredentialsRow,
    sql`select id, name, email, locale, password_hash as "passwordHash" from users
        where email = ${email.toLowerCase()}`,
  );
  const isRight = await verify(row?.passwordHash ?? NOBODY, password).catch(() => false);
  if (!row || !isRight) fail('SIGN_IN_WRONG');
  return User.parse(row);
}

/** Opens a session. @returns the id to be put in the cookie; only its hash is kept */
export async function openSession(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  userId: UserId,
  from: OpenedFrom = { address: '', browser: '' },
): Promise<string> {
  const id = randomBytes(32).toString('base64url');
  const createdAt = clock.now();
  const expiresAt = new Date(createdAt.getTime() + sessionDays * DAY);
  await tx
    .insert(sessions)
    .values({ idHash: hashOf(id), userId, createdAt, expiresAt, lastSeenAt: createdAt, ...from });
  return id;
}

const UserOfSessionRow = User.extend({ lastSeenAt: z.string() });

/** The user of a session that has not ended. */
export async function userOfSession(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  id: string,
): Promise<User | null> {
  const now = clock.now();
  const [row] = await rowsOf(
    tx,
    UserOfSessionRow,
    sql`select u.id, u.name, u.email, u.locale, s.last_seen_at as "lastSeenAt"
        from sessions s join users u on u.id = s.user_id
        where s.id_hash = ${hashOf(id)} and ${isOpenAt(now)}`,
  );
  if (!row) return null;
  const { lastSeenAt, ...user } = row;
  if (now.getTime() - Date.parse(lastSeenAt) > SEEN_EVERY) {
    await tx.execute(
      sql`update sessions set last_seen_at = ${now.toISOString()} where id_hash = ${hashOf(id)}`,
    );
  }
  return user;
}

/** Neither too old nor unused for too long. */
function isOpenAt(now: Date) {
  const idle = new Date(now.getTime() - IDLE_DAYS * DAY);
  return sql`s.expires_at > ${now.toISOString()} and s.last_seen_at > ${idle.toISOString()}`;
}

const IdHashRow = z.object({ idHash: z.string() });

/** Which of some sessions have not ended, by their ids. */
export async function openSessionsOf(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  ids: readonly string[],
): Promise<ReadonlySet<string>> {
  const hashes = new Map(ids.map((id) => [hashOf(id), id]));
  const rows = await rowsOf(
    tx,
    IdHashRow,
    sql`select s.id_hash as "idHash" from sessions s
        where s.id_hash = any(${sql.param([...hashes.keys()])}::text[]) and ${isOpenAt(clock.now())}`,
  );
  return new Set(rows.flatMap(({ idHash }) => hashes.get(idHash) ?? []));
}

/** The browsers in which a user is signed in, the one used last first. */
export async function sessionsOf(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  userId: UserId,
  own: string,
): Promise<OpenSession[]> {
  return rowsOf(
    tx,
    OpenSession,
    sql`select s.id, s.browser, s.address, to_json(s.created_at) #>> '{}' as "createdAt",
          to_json(s.last_seen_at) #>> '{}' as "lastSeenAt", s.id_hash = ${hashOf(own)} as "isThis"
        from sessions s where s.user_id = ${userId} and ${isOpenAt(clock.now())}
        order by "isThis" desc, s.last_seen_at desc, s.created_at desc`,
  );
}

/** Ends all sessions of a user but one, or the one of them that is named. */
export async function endOthers(
  tx: Tx | Database,
  userId: UserId,
  own: string,
  only: string | null = null,
): Promise<void> {
  await tx.execute(
    sql`delete from sessions where user_id = ${userId} and id_hash <> ${hashOf(own)}
          and (${only}::uuid is null or id = ${only}::uuid)`,
  );
}

/** Chooses how a user reads and writes dates and amounts. */
export async function chooseLocale(
  database: Database,
  userId: UserId,
  locale: Locale,
): Promise<void> {
  await database.update(users).set({ locale }).where(eq(users.id, userId));
}

const PasswordHashRow = z.object({ passwordHash: z.string() });

/**
 * Changes a user's password and ends their other sessions.
 *
 * @param onRecord puts it on record, in the same transaction
 * @throws {ZubrellError} PASSWORD_WRONG
 */
export async function changePassword(
  database: Database,
  { userId, session: own }: { readonly userId: UserId; readonly session: string },
  { present, fresh }: ChangePassword,
  onRecord: (tx: Tx) => Promise<void>,
): Promise<void> {
  const [row] = await rowsOf(
    database,
    PasswordHashRow,
    sql`select password_hash as "passwordHash" from users where id = ${userId}`,
  );
  const isRight = row && (await verify(row.passwordHash, present).catch(() => false));
  if (!isRight) fail('PASSWORD_WRONG');
  const passwordHash = await hash(fresh);
  await database.transaction(async (tx) => {
    await tx.execute(sql`update users set password_hash = ${passwordHash} where id = ${userId}`);
    await endOthers(tx, userId, own);
    await onRecord(tx);
  });
}

/** Ends a session. */
export async function closeSession(tx: Tx | Database, id: string): Promise<void> {
  await tx.execute(sql`delete from sessions where id_hash = ${hashOf(id)}`);
}

/** What is kept of a secret that somebody else holds: a session's id, an invitation. */
export function hashOf(id: string): string {
  return createHash('sha256').update(id).digest('hex');
}
