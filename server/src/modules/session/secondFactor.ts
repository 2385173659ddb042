import { randomInt } from 'node:crypto';
import type { SecondFactorBegun } from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { Secret, TOTP } from 'otpauth';
import { z } from 'zod';
import { countRows, type Database, rowsOf, type Tx } from '../../db/database.ts';
import type { Services } from '../../services.ts';
import { hashOf } from './sessions.ts';
import { beginCodeAttempt } from './signInAttempts.ts';

/** Seconds that one code holds (RFC 6238), and how many periods a device's clock may be off. */
const PERIOD = 30;
const WINDOW = 1;
const SECRET_BYTES = 20;
const RECOVERY_CODES = 10;
/** Letters and digits that are not taken for each other. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const CODE_LENGTH = 12;

type Keeping = Pick<Services, 'secrets'>;

const Factor = z.object({ secret: z.string(), isOn: z.boolean() });
type Factor = z.infer<typeof Factor>;

async function factorOf(tx: Tx | Database, userId: UserId): Promise<Factor | null> {
  const [row] = await rowsOf(
    tx,
    Factor,
    sql`select secret, is_on as "isOn" from second_factors where user_id = ${userId}`,
  );
  return row ?? null;
}

function totpOf(secret: string, email: string): TOTP {
  return new TOTP({ issuer: 'Zubrell', label: email, secret, period: PERIOD });
}

/** Whether a user has a second factor, and how many recovery codes are left. */
export async function secondFactorState(
  tx: Tx | Database,
  userId: UserId,
): Promise<{ isOn: boolean; codesLeft: number }> {
  const factor = await factorOf(tx, userId);
  const codes = await countRows(tx, sql`select from recovery_codes where user_id = ${userId}`);
  return { isOn: factor?.isOn ?? false, codesLeft: codes };
}

/**
 * Makes the secret for a user's device. It holds nothing up before a first code was right.
 *
 * @throws {ZubrellError} SECOND_FACTOR_ON
 */
export async function beginSecondFactor(
  database: Database,
  { secrets }: Keeping,
  { id: userId, email }: { readonly id: string; readonly email: string },
): Promise<SecondFactorBegun> {
  const secret = new Secret({ size: SECRET_BYTES }).base32;
  const begun = await countRows(
    database,
    sql`insert into second_factors (user_id, secret, created_at)
        values (${userId}, ${secrets.seal(secret, userId)}, now())
        on conflict (user_id) do update set secret = excluded.secret, created_at = excluded.created_at
        where not second_factors.is_on
        returning user_id`,
  );
  if (begun === 0) fail('SECOND_FACTOR_ON');
  return { secret, uri: totpOf(secret, email).toString() };
}

/**
 * Has the second factor hold from now on, as its first code is right.
 *
 * @returns recovery codes, which are shown this once
 * @throws {ZubrellError} SECOND_FACTOR_WRONG
 */
export async function confirmSecondFactor(
  tx: Tx,
  services: Keeping,
  userId: UserId,
  code: string,
): Promise<string[]> {
  const factor = await factorOf(tx, userId);
  if (!factor || factor.isOn || !(await isCodeRight(tx, services, { userId, ...factor }, code))) {
    fail('SECOND_FACTOR_WRONG');
  }
  await tx.execute(sql`update second_factors set is_on = true where user_id = ${userId}`);
  return makeRecoveryCodes(tx, userId);
}

/** Makes new recovery codes in the place of all others. */
export async function makeRecoveryCodes(tx: Tx, userId: UserId): Promise<string[]> {
  const codes = Array.from({ length: RECOVERY_CODES }, () =>
    Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join(''),
  );
  await tx.execute(sql`delete from recovery_codes where user_id = ${userId}`);
  await tx.execute(
    sql`insert into recovery_codes (code_hash, user_id)
        select unnest(${sql.param(codes.map((code) => hashOf(code)))}::text[]), ${userId}::uuid`,
  );
  return codes.map((code) => code.replace(/(.{4})(?=.)/g, '$1-'));
}

/** Ends a user's second factor. */
export async function endSecondFactor(tx: Tx | Database, userId: UserId): Promise<void> {
  await tx.execute(sql`delete from recovery_codes where user_id = ${userId}`);
  await tx.execute(sql`delete from second_factors where user_id = ${userId}`);
}

/**
 * Checks the code of a user who has a second factor: of the device, or one of the recovery codes, which is used up.
 *
 * @returns what it was; null where the user has no second factor
 * @throws {ZubrellError} SECOND_FACTOR_NEEDED, SECOND_FACTOR_WRONG, SIGN_IN_TOO_OFTEN
 */
export async function checkSecondFactor(
  database: Database,
  services: Keeping,
  userId: UserId,
  code: string | null,
): Promise<'device' | 'recovery' | null> {
  const factor = await factorOf(database, userId);
  if (!factor?.isOn) return null;
  if (code === null) fail('SECOND_FACTOR_NEEDED');
  const attempt = await beginCodeAttempt(database, userId);
  const isDevice = await isCodeRight(database, services, { userId, ...factor }, code);
  if (!isDevice && !(await takeRecoveryCode(database, userId, code))) fail('SECOND_FACTOR_WRONG');
  await attempt.succeeded();
  return isDevice ? 'device' : 'recovery';
}

async function takeRecoveryCode(
  database: Database,
  userId: UserId,
  code: string,
): Promise<boolean> {
  const typed = code.toLowerCase().replace(/[^a-z0-9]/g, '');
  const used = await countRows(
    database,
    sql`delete from recovery_codes where user_id = ${userId} and code_hash = ${hashOf(typed)}
        returning user_id`,
  );
  return used > 0;
}

/** Whether a device's code holds now and was not used before, nor one after it. */
async function isCodeRight(
  tx: Tx | Database,
  { secrets }: Keeping,
  { userId, secret }: Factor & { readonly userId: UserId },
  code: string,
): Promise<boolean> {
  const token = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(token)) return false;
  // The device goes by the real time, whatever day it is in the books.
  const now = Date.now();
  const opened = openedSecret(secrets, secret, userId);
  const delta = totpOf(opened, '').validate({ token, timestamp: now, window: WINDOW });
  if (delta === null) return false;
  const period = Math.floor(now / 1000 / PERIOD) + delta;
  const taken = await countRows(
    tx,
    sql`update second_factors set last_period = ${period}
        where user_id = ${userId} and last_period < ${period} returning user_id`,
  );
  return taken > 0;
}

function openedSecret(secrets: Services['secrets'], secret: string, userId: UserId): string {
  try {
    return secrets.open(secret, userId);
  } catch {
    return fail('SECOND_FACTOR_LOST');
  }
}
