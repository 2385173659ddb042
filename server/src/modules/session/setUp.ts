import { randomInt } from 'node:crypto';
import type { SetUp, User } from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { countRows, type Database } from '../../db/database.ts';
import type { Services } from '../../services.ts';
import { createUser, hashOf, hasUsers } from './sessions.ts';

/** Letters and digits that are not taken for each other. */
const LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const LENGTH = 10;
const LOCK = 7_240_118;

/**
 * Makes a code by which the first user may be made: whoever starts the server reads it there, and nobody else is first.
 *
 * @returns null where there are users
 */
export async function openSetUp(database: Database): Promise<string | null> {
  if (await hasUsers(database)) return null;
  const code = Array.from({ length: LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
  await database.execute(sql`insert into set_up_codes (code_hash) values (${hashOf(code)})`);
  return `${code.slice(0, LENGTH / 2)}-${code.slice(LENGTH / 2)}`;
}

/** Makes the first user, who is alone in that. @throws {ZubrellError} SET_UP_DONE, SET_UP_CODE_WRONG */
export function makeFirstUser(
  database: Database,
  services: Pick<Services, 'clock'>,
  { code, ...person }: SetUp,
): Promise<User> {
  return database.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${LOCK})`);
    if (await hasUsers(tx)) fail('SET_UP_DONE');
    const typed = code.toUpperCase().replace(/[^A-Z0-9]/g, '');
    const known = await countRows(
      tx,
      sql`select from set_up_codes where code_hash = ${hashOf(typed)}`,
    );
    if (known === 0) fail('SET_UP_CODE_WRONG');
    await tx.execute(sql`delete from set_up_codes`);
    return createUser(tx, services, person);
  });
}
