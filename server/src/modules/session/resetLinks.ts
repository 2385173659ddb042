import { randomBytes } from 'node:crypto';
import { hash } from '@node-rs/argon2';
import { fail } from '@zubrell/core/errors';
import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, type Database, rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import type { Services } from '../../services.ts';
import { endSecondFactor } from './secondFactor.ts';
import { hashOf } from './sessions.ts';

/** A link holds for so long. */
const HOURS = 24;

/**
 * Makes a link by which a user sets a new password; one that was made before leads nowhere then.
 *
 * @param endsSecondFactor whether second factor and passkeys go too, because their device is lost
 * @returns the link's secret, of which only the hash is kept
 */
export async function makeResetLink(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  userId: UserId,
  endsSecondFactor: boolean,
): Promise<string> {
  const secret = randomBytes(24).toString('base64url');
  const expiresAt = new Date(clock.now().getTime() + HOURS * 3_600_000);
  await tx.execute(sql`delete from reset_links where user_id = ${userId}`);
  await tx.execute(
    sql`insert into reset_links (secret_hash, user_id, ends_second_factor, expires_at)
        values (${hashOf(secret)}, ${userId}, ${endsSecondFactor}, ${expiresAt.toISOString()})`,
  );
  return secret;
}

const LinkRow = z.object({
  userId: idRow<UserId>(),
  name: z.string(),
  email: z.string(),
  endsSecondFactor: z.boolean(),
});

/** Whose password a link sets. @throws {ZubrellError} RESET_UNKNOWN */
export async function resetLinkOf(
  tx: Tx | Database,
  { clock }: Pick<Services, 'clock'>,
  secret: string,
): Promise<{ userId: UserId; name: string; email: string; endsSecondFactor: boolean }> {
  const [row] = await rowsOf(
    tx,
    LinkRow,
    sql`select u.id as "userId", u.name, u.email, r.ends_second_factor as "endsSecondFactor"
        from reset_links r join users u on u.id = r.user_id
        where r.secret_hash = ${hashOf(secret)} and r.expires_at > ${clock.now().toISOString()}
          and u.erased_at is null`,
  );
  return row ?? fail('RESET_UNKNOWN');
}

/**
 * Sets a new password by a link, which is used up. All sessions of the user end.
 *
 * @returns whose it was
 * @throws {ZubrellError} RESET_UNKNOWN
 */
export async function resetPassword(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  secret: string,
  password: string,
): Promise<string> {
  const { userId, endsSecondFactor } = await resetLinkOf(tx, services, secret);
  const passwordHash = await hash(password);
  const used = await countRows(
    tx,
    sql`delete from reset_links where secret_hash = ${hashOf(secret)} returning user_id`,
  );
  if (used === 0) fail('RESET_UNKNOWN');
  await tx.execute(sql`update users set password_hash = ${passwordHash} where id = ${userId}`);
  await tx.execute(sql`delete from sessions where user_id = ${userId}`);
  if (endsSecondFactor) {
    await endSecondFactor(tx, userId);
    await tx.execute(sql`delete from passkeys where user_id = ${userId}`);
  }
  return userId;
}
