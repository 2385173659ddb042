import { weightlessReasons } from '@zubrell/core/ledger/excludeReasons';
import { type SQL, sql } from 'drizzle-orm';

/** Whether a line with decision `d`, or none, weighs in the proof: the bank really moved it on this account. */
export const isWeighed: SQL = sql`
  (d.reason is null or d.reason <> all(${sql.param(weightlessReasons)}::text[]))`;
