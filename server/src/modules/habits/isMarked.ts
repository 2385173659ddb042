import { type SQL, sql } from 'drizzle-orm';

/** The condition that mark `m` is about line `l`, which was decided to be of a payee or of none. */
export function isMarked(payeeId: SQL): SQL {
  return sql`(case when m.payee_id is not null then m.payee_id = ${payeeId}
    else ${payeeId} is null and l.stem = any(m.stems) end)`;
}
