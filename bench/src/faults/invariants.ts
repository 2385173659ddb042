import { type Database, rowsOf } from '@zubrell/server/db/database';
import { keptWrong } from '@zubrell/server/db/keptTables';
import { IdRow } from '@zubrell/server/db/rows';
import { verifyRecords, verifySteps } from '@zubrell/server/modules/audit/verifyChains';
import { sql } from 'drizzle-orm';
import { z } from 'zod';

/** What was done, as far as who did it was told. */
export interface Done {
  readonly batches: readonly string[];
  /** How many lines each of them has. */
  readonly lines: number;
}

const CountRow = z.object({ count: z.number() });

/** What does not hold in a database of which servers and cluster were killed; asked as its owner. */
export async function faultsIn(owner: Database, { batches, lines }: Done): Promise<string[]> {
  const count = async (what: string, query: ReturnType<typeof sql>): Promise<string[]> => {
    const [row] = await rowsOf(owner, CountRow, query);
    return Number(row?.count ?? 0) === 0 ? [] : [`${row?.count} ${what}`];
  };
  const checks = [
    count(
      'entries that do not balance',
      sql`select count(*) from (
            select 1 from legs group by books_id, entry_id having sum(amount) <> 0) wrong`,
    ),
    count(
      'batches that are being read still',
      sql`select count(*) from batches where status = 'reading'`,
    ),
    count(
      'batches that were begun and are not kept with all lines, unless they were taken back',
      sql`select count(*) from batches t
          where t.id = any(${sql.param([...batches])}::uuid[]) and t.status = 'kept'
            and (select count(*) from sightings s
                 where s.books_id = t.books_id and s.batch_id = t.id) <> ${lines}`,
    ),
    count(
      'batches that were begun and are not there',
      sql`select ${batches.length} - count(*) as count from batches
          where id = any(${sql.param([...batches])}::uuid[])`,
    ),
    count('batches that were refused', sql`select count(*) from batches where status = 'refused'`),
    count(
      'bank lines that came in twice',
      sql`select count(*) from (
            select 1 from lines where is_here group by books_id, bank_account_id, bank_id
            having count(*) > 1) twice`,
    ),
    count(
      'lines with two decisions at once',
      sql`select count(*) from (
            select 1 from decision_lines where is_live group by books_id, line_id
            having count(*) > 1) wrong`,
    ),
    count(
      'steps that are missing in the history',
      sql`select count(*) from books b
          where b.last_step <> (select count(*) from steps s where s.books_id = b.id)`,
    ),
  ];
  const wrong = await keptWrong(owner, null);
  return [
    ...(await Promise.all(checks)).flat(),
    ...wrong.map((what) => `${what} that are kept wrong`),
    ...(await brokenChains(owner)),
  ];
}

/** Steps and records that are not as they were written, or are missing. */
async function brokenChains(owner: Database): Promise<string[]> {
  const all = await rowsOf(owner, IdRow, sql`select id from books`);
  return owner.transaction(async (tx) => {
    const checks = [await verifyRecords(tx, null)];
    for (const { id } of all) checks.push(await verifySteps(tx, id), await verifyRecords(tx, id));
    return checks.flatMap(({ chain, faults }) =>
      faults.map(({ no, what }) => `${chain} ${no}: ${what}`),
    );
  });
}
