import { sql } from 'drizzle-orm';
import { afterAll, expect, it } from 'vitest';
import { z } from 'zod';
import { closeDatabases } from '../services.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import { rowsOf } from './database.ts';
import { errorOfDatabase } from './databaseErrors.ts';

const Constraint = z.object({
  name: z.string(),
  table: z.string(),
  /** The table that a foreign key asks. */
  asked: z.string().nullable(),
});

const made = await makeTestDatabase();
afterAll(async () => {
  await closeDatabases(made.services);
  await made.drop();
});

const constraints = await rowsOf(
  made.services.database,
  Constraint,
  sql`select c.conname as name, c.conrelid::regclass::text as table,
        case when c.contype = 'f' then c.confrelid::regclass::text end as asked
      from pg_constraint c join pg_namespace n on n.oid = c.connamespace
      where n.nspname = 'public' and c.contype in ('f', 'u', 'p')
      union
      select i.indexrelid::regclass::text, i.indrelid::regclass::text, null
      from pg_index i join pg_class k on k.oid = i.indrelid
      join pg_namespace n on n.oid = k.relnamespace
      where n.nspname = 'public' and i.indisunique`,
);

it('every constraint that allows something once, or asks for something, refuses with words', () => {
  expect(constraints.length).toBeGreaterThan(80);
  for (const { name, table, asked } of constraints) {
    const code = asked === null ? '23505' : '23503';
    const error = errorOfDatabase({ code, constraint: name, table });
    expect([name, error?.status]).toEqual([name, asked === null ? 409 : 404]);
  }
});

it('what a foreign key misses is named by what it asks for, unless its name is cut short', () => {
  const expected: Record<string, string> = {
    accounts: 'ACCOUNT_UNKNOWN',
    payees: 'PAYEE_UNKNOWN',
    bank_accounts: 'BANK_ACCOUNT_UNKNOWN',
    tax_codes: 'TAX_CODE_UNKNOWN',
    lines: 'LINE_UNKNOWN',
    batches: 'BATCH_UNKNOWN',
    feeds: 'FEED_UNKNOWN',
    books: 'BOOKS_UNKNOWN',
  };
  const LONGEST_NAME = 63;
  const wrong = constraints.flatMap(({ name, table, asked }) => {
    const wanted = expected[asked ?? ''];
    if (wanted === undefined || name.length === LONGEST_NAME) return [];
    const { code } = errorOfDatabase({ code: '23503', constraint: name, table }) ?? {};
    return code === wanted ? [] : [{ name, code }];
  });
  expect(wrong).toEqual([]);
});
