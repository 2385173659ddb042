import { randomUUID } from 'node:crypto';
import { type Database, rowsOf } from '@zubrell/server/db/database';
import { keepAnew } from '@zubrell/server/db/keptTables';
import { sql } from 'drizzle-orm';
import { z } from 'zod';

/** What is copied of books, in the order in which it rests on each other. */
const COPIED = [
  'memberships',
  'accounts',
  'tax_codes',
  'tax_rates',
  'payees',
  'bank_accounts',
  'steps',
  'step_items',
  'batches',
  'lines',
  'sightings',
  'entries',
  'legs',
  'decisions',
  'decision_lines',
  'decision_legs',
  'proposals',
  'learned_habits',
];

const ColumnRow = z.object({ name: z.string() });

/** Copies books, with all that proposals come from. @returns the ids of the copies */
export async function copyBooks(owner: Database, from: string, count: number): Promise<string[]> {
  const ids = Array.from({ length: count }, () => randomUUID());
  await owner.transaction(async (tx) => {
    for (const table of ['books', ...COPIED]) {
      const key = table === 'books' ? 'id' : 'books_id';
      const columns = await rowsOf(
        tx,
        ColumnRow,
        sql`select column_name as name from information_schema.columns
            where table_schema = 'public' and table_name = ${table} and column_name <> ${key}
              and is_generated = 'NEVER' order by ordinal_position`,
      );
      const names = sql.join(
        columns.map(({ name }) => sql.identifier(name)),
        sql`, `,
      );
      // What triggers hold together was held together where it comes from.
      await tx.execute(sql`alter table ${sql.identifier(table)} disable trigger user`);
      await tx.execute(
        sql`insert into ${sql.identifier(table)} (${sql.identifier(key)}, ${names})
            select copied.books, ${names} from ${sql.identifier(table)}
            cross join unnest(${sql.param(ids)}::uuid[]) as copied (books)
            where ${sql.identifier(table)}.${sql.identifier(key)} = ${from}`,
      );
      await tx.execute(sql`alter table ${sql.identifier(table)} enable trigger user`);
    }
    for (const id of ids) await keepAnew(tx, id);
  });
  await owner.execute(sql`analyze`);
  return ids;
}
