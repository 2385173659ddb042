import { createHash } from 'node:crypto';
import { fail } from '@zubrell/core/errors';
import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, type Database, rowsOf } from '../../db/database.ts';

/** So many attempts in vain are free; each one more doubles the wait until the next, in seconds, up to the longest. */
interface Patience {
  readonly free: number;
  readonly longest: number;
}

/** Of one address with one account: somebody who guesses, or has forgotten. */
const PAIR: Patience = { free: 5, longest: 300 };
/** Of one address with any accounts: an office may have many people behind it. */
const ADDRESS: Patience = { free: 30, longest: 300 };
/** With one account, from anywhere: short, so that strangers can't keep anybody out. */
const ACCOUNT: Patience = { free: 20, longest: 3 };

/** With the second factor of one account, from anywhere: only who knows the password gets there, so it can be long. */
const CODE: Patience = { free: 5, longest: 3_600 };

/** Counts attempts to sign in, in the database: for all servers together, and also over their restarts. */
export interface Attempt {
  /** It was right: the account's count begins anew. */
  succeeded(): Promise<void>;
}

/**
 * Counts an attempt before anything is compared, so that many at once are no way around it.
 *
 * @throws {ZubrellError} SIGN_IN_TOO_OFTEN with the seconds to wait
 */
export async function beginAttempt(
  database: Database,
  email: string,
  address: string,
): Promise<Attempt> {
  const account = email.toLowerCase();
  const pair = keyOf('pair', account, address);
  const ofAccount = keyOf('account', account);
  const ofAddress = keyOf('address', address);
  await count(database, pair, PAIR);
  await count(database, ofAddress, ADDRESS);
  await count(database, ofAccount, ACCOUNT);
  return {
    async succeeded() {
      const keys = sql.param([pair, ofAccount]);
      await database.execute(
        sql`delete from sign_in_attempts
            where key = any(${keys}::text[]) or last_at < now() - interval '1 day'`,
      );
      // Many people of one office sign in from one address: what was right does not count there.
      await database.execute(
        sql`update sign_in_attempts set count = greatest(0, count - 1) where key = ${ofAddress}`,
      );
    },
  };
}

/**
 * Counts an attempt to give the code of an account's second factor: six digits could be guessed otherwise.
 *
 * @throws {ZubrellError} SIGN_IN_TOO_OFTEN with the seconds to wait
 */
export async function beginCodeAttempt(database: Database, userId: UserId): Promise<Attempt> {
  const key = keyOf('code', userId);
  await count(database, key, CODE);
  return {
    async succeeded() {
      await database.execute(sql`delete from sign_in_attempts where key = ${key}`);
    },
  };
}

/** Seconds to wait after the last attempt, by how many there were. */
function waitOf({ free, longest }: Patience) {
  return sql`case when a.count < ${free}::int then 0
    else least(${longest}::int, power(2, least(20, a.count - ${free}::int))) end`;
}

const SecondsRow = z.object({ seconds: z.number() });

async function count(database: Database, key: string, patience: Patience): Promise<void> {
  const wait = waitOf(patience);
  const counted = await countRows(
    database,
    sql`insert into sign_in_attempts as a (key, count, last_at) values (${key}, 1, clock_timestamp())
        on conflict (key) do update set last_at = clock_timestamp(),
          count = case when a.last_at < now() - interval '1 day' then 1 else a.count + 1 end
        where a.last_at + make_interval(secs => ${wait}) <= clock_timestamp()
        returning a.key`,
  );
  if (counted > 0) return;
  const [left] = await rowsOf(
    database,
    SecondsRow,
    sql`select greatest(1, ceil(extract(epoch from
          a.last_at + make_interval(secs => ${wait}) - now())))::int as seconds
        from sign_in_attempts a where a.key = ${key}`,
  );
  fail('SIGN_IN_TOO_OFTEN', { seconds: left?.seconds ?? 1 });
}

function keyOf(...parts: readonly string[]): string {
  return createHash('sha256').update(parts.join('\n')).digest('hex');
}
