import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  type RegistrationResponseJSON,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
} from '@simplewebauthn/server';
import {
  type AddPasskey,
  Passkey,
  type PasskeyOptions,
  type SignInByPasskey,
  User,
} from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, type Database, rowsOf, type Tx } from '../../db/database.ts';
import { passkeys } from '../../db/schema/people.ts';

/** A challenge has to be signed so soon. */
const MINUTES = 5;
const NAME = 'Zubrell';

/** Where a page is open: a passkey holds for its host alone. */
export interface Page {
  readonly origin: string;
  readonly host: string;
}

/** The ways to a device that the browser is told of; those unknown here are left out. */
const transports = ['ble', 'cable', 'hybrid', 'internal', 'nfc', 'smart-card', 'usb'] as const;
const Transports = z.array(z.enum(transports)).catch([]);

const BeginPasskeyRow = z.object({
  id: z.string(),
  transports: Transports,
});

/**
 * Asks a user's device for a new passkey.
 *
 * @throws {ZubrellError} PASSKEY_ADDRESS where the page is open under an address instead of a name
 */
export async function beginPasskey(
  database: Database,
  page: Page,
  { id: userId, email, name }: User,
): Promise<PasskeyOptions> {
  checkName(page);
  const known = await rowsOf(
    database,
    BeginPasskeyRow,
    sql`select id, transports from passkeys where user_id = ${userId}`,
  );
  const options = await generateRegistrationOptions({
    rpName: NAME,
    rpID: page.host,
    userName: email,
    userDisplayName: name,
    userID: new TextEncoder().encode(userId),
    attestationType: 'none',
    excludeCredentials: known,
    // Whoever has the device alone can't use it, so it counts for both factors.
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  });
  await keepChallenge(database, options.challenge, userId);
  return { ...options };
}

/** Keeps the passkey that a device made. @throws {ZubrellError} PASSKEY_WRONG */
export async function addPasskey(
  tx: Tx,
  page: Page,
  userId: UserId,
  { name, made }: AddPasskey,
): Promise<void> {
  const { registrationInfo: found } = await verifyRegistrationResponse({
    response: made as RegistrationResponseJSON,
    expectedChallenge: (challenge) => takeChallenge(tx, challenge, userId),
    expectedOrigin: page.origin,
    expectedRPID: page.host,
    requireUserVerification: true,
  }).catch(() => fail('PASSKEY_WRONG'));
  if (!found) fail('PASSKEY_WRONG');
  const { id, publicKey, counter, transports = [] } = found.credential;
  await tx.insert(passkeys).values({
    id,
    userId,
    name,
    publicKey: Buffer.from(publicKey).toString('base64url'),
    counter,
    transports,
  });
}

/** The passkeys of a user, the newest first. */
export function passkeysOf(tx: Tx | Database, userId: UserId): Promise<Passkey[]> {
  return rowsOf(
    tx,
    Passkey,
    sql`select id, name, to_json(created_at) #>> '{}' as "createdAt",
          to_json(last_used_at) #>> '{}' as "lastUsedAt"
        from passkeys where user_id = ${userId} order by created_at desc`,
  );
}

/** Removes a passkey of a user. @throws {ZubrellError} PASSKEY_UNKNOWN */
export async function removePasskey(tx: Tx, userId: UserId, id: string): Promise<void> {
  const gone = await countRows(
    tx,
    sql`delete from passkeys where user_id = ${userId} and id = ${id} returning id`,
  );
  if (gone === 0) fail('PASSKEY_UNKNOWN');
}

/** Asks any device for a signature with a passkey of this host. @throws {ZubrellError} PASSKEY_ADDRESS */
export async function beginPasskeySignIn(database: Database, page: Page): Promise<PasskeyOptions> {
  checkName(page);
  const options = await generateAuthenticationOptions({
    rpID: page.host,
    userVerification: 'required',
  });
  await keepChallenge(database, options.challenge, null);
  return { ...options };
}

const KeyRow = User.extend({
  publicKey: z.string(),
  counter: z.number(),
  transports: Transports,
});

/** The user whose passkey signed the challenge. @throws {ZubrellError} PASSKEY_WRONG */
export async function userByPasskey(
  database: Database,
  page: Page,
  signed: SignInByPasskey,
): Promise<User> {
  return database.transaction(async (tx) => {
    const [key] = await rowsOf(
      tx,
      KeyRow,
      sql`select u.id, u.name, u.email, u.locale, p.public_key as "publicKey", p.counter, p.transports
          from passkeys p join users u on u.id = p.user_id where p.id = ${signed.id} for update of p`,
    );
    if (!key) fail('PASSKEY_WRONG');
    const { publicKey, counter, transports, ...user } = key;
    const { response, ...rest } = signed;
    const { userHandle, ...answer } = response;
    const { verified, authenticationInfo } = await verifyAuthenticationResponse({
      response: {
        ...rest,
        response: userHandle === undefined ? answer : { ...answer, userHandle },
      },
      expectedChallenge: (challenge) => takeChallenge(tx, challenge, null),
      expectedOrigin: page.origin,
      expectedRPID: page.host,
      requireUserVerification: true,
      credential: {
        id: signed.id,
        publicKey: new Uint8Array(Buffer.from(publicKey, 'base64url')),
        counter,
        transports,
      },
    }).catch(() => fail('PASSKEY_WRONG'));
    if (!verified) fail('PASSKEY_WRONG');
    await tx.execute(
      sql`update passkeys set counter = ${authenticationInfo.newCounter}, last_used_at = now()
          where id = ${signed.id}`,
    );
    return user;
  });
}

/** WebAuthn knows hosts by their names. */
function checkName({ host }: Page): void {
  if (/^[\d.]+$|^\[/.test(host)) fail('PASSKEY_ADDRESS');
}

async function keepChallenge(
  database: Database,
  challenge: string,
  userId: UserId | null,
): Promise<void> {
  await database.execute(
    sql`delete from passkey_challenges where created_at < now() - make_interval(mins => ${MINUTES})`,
  );
  await database.execute(
    sql`insert into passkey_challenges (challenge, user_id) values (${challenge}, ${userId})`,
  );
}

/** Whether a challenge was asked of this user, or of whoever signs in, and not signed yet. */
async function takeChallenge(tx: Tx, challenge: string, userId: UserId | null): Promise<boolean> {
  const taken = await countRows(
    tx,
    sql`delete from passkey_challenges
        where challenge = ${challenge} and user_id is not distinct from ${userId}::uuid
          and created_at > now() - make_interval(mins => ${MINUTES})
        returning challenge`,
  );
  return taken > 0;
}
