import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { closeDatabases } from '../services.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import type { TestDatabase } from '../testing/testServer.ts';
import { rowsOf } from './database.ts';

// What lets books be spread over several machines without a rewrite: see docs/deploying.md.

/** People and what is asked before any books are known: each machine has all of these. */
const REFERENCE = [
  'audit_heads',
  'audit_records',
  'crashed_jobs',
  'fixed_day',
  'invitations',
  'memberships',
  'passkey_challenges',
  'passkeys',
  'recovery_codes',
  'reset_links',
  'second_factors',
  'sessions',
  'set_up_codes',
  'sign_in_attempts',
  'users',
];
/** Is spread by its own id. */
const ROOT = 'books';

let made: TestDatabase;
beforeAll(async () => {
  made = await makeTestDatabase();
});
afterAll(async () => {
  await closeDatabases(made.services);
  await made.drop();
});

const TableRow = z.object({ name: z.string(), key: z.enum(['none', 'nullable', 'always']) });

const tables = () =>
  rowsOf(
    made.services.background,
    TableRow,
    sql`select c.relname as name, case when a.attname is null then 'none'
          when a.attnotnull then 'always' else 'nullable' end as key
        from pg_class c
        join pg_namespace n on n.oid = c.relnamespace and n.nspname = 'public'
        left join pg_attribute a on a.attrelid = c.oid and a.attname = 'books_id'
        where c.relkind in ('r', 'p') order by 1`,
  );

const KeyRow = z.object({
  table: z.string(),
  name: z.string(),
  kind: z.enum(['key', 'unique', 'foreign']),
  columns: z.array(z.string()),
  /** The table that a foreign key asks, and by which of its columns. */
  asks: z.string().nullable(),
  askedColumns: z.array(z.string()).nullable(),
});

const keys = () =>
  rowsOf(
    made.services.background,
    KeyRow,
    sql`with named as (
          select a.attrelid, a.attnum, a.attname::text as name from pg_attribute a where a.attnum > 0)
        select i.indrelid::regclass::text as table, i.indexrelid::regclass::text as name,
          case when i.indisprimary then 'key' else 'unique' end as kind,
          array(select name from named where attrelid = i.indrelid and attnum = any(i.indkey::int2[])) as columns,
          null as asks, null::text[] as "askedColumns"
        from pg_index i
        join pg_class c on c.oid = i.indrelid
        join pg_namespace n on n.oid = c.relnamespace and n.nspname = 'public'
        where i.indisunique
        union all
        select k.conrelid::regclass::text, k.conname::text, 'foreign',
          array(select name from named where attrelid = k.conrelid and attnum = any(k.conkey)),
          k.confrelid::regclass::text,
          array(select name from named where attrelid = k.confrelid and attnum = any(k.confkey))
        from pg_constraint k
        join pg_namespace n on n.oid = k.connamespace and n.nspname = 'public'
        where k.contype = 'f'`,
  );

/** Which tables are spread by the books that their rows belong to. */
async function spread(): Promise<ReadonlySet<string>> {
  const all = await tables();
  return new Set(
    all.map(({ name }) => name).filter((name) => name !== ROOT && !REFERENCE.includes(name)),
  );
}

describe('the schema can be spread over machines', () => {
  it('by the books’ id, which each row has, but for the tables that are named', async () => {
    const all = await tables();
    const without = all.filter(({ key, name }) => key !== 'always' && name !== ROOT);
    const named = new Set(REFERENCE);
    expect(without.map(({ name }) => name).filter((name) => !named.has(name))).toEqual([]);
    const there = new Set(all.map(({ name }) => name));
    expect(REFERENCE.filter((name) => !there.has(name))).toEqual([]);
  });

  it('as every key of them has the books’ id in it', async () => {
    const isSpread = await spread();
    const without = (await keys()).filter(
      ({ table, kind, columns }) =>
        isSpread.has(table) && kind !== 'foreign' && !columns.includes('books_id'),
    );
    expect(without.map(({ name }) => name)).toEqual([]);
  });

  it('as every foreign key stays within the books, or asks what each machine has', async () => {
    const isSpread = await spread();
    const beyond = (await keys()).filter(({ table, kind, columns, asks, askedColumns }) => {
      if (kind !== 'foreign' || asks === null || REFERENCE.includes(asks)) return false;
      if (!isSpread.has(table)) return isSpread.has(asks);
      const own = asks === ROOT ? 'id' : 'books_id';
      return !columns.includes('books_id') || !askedColumns?.includes(own);
    });
    expect(beyond.map(({ name }) => name)).toEqual([]);
  });
});
