import pg from 'pg';
import { z } from 'zod';

/** What stands in one set of books, in so far as it tells whether they are the same after they were restored. */
const BooksContents = z.object({
  id: z.string(),
  lastStep: z.coerce.number(),
  /** The hash at the end of the chain of steps; null where there is none. */
  chain: z.string().nullable(),
  /** How many lines nobody has decided. */
  open: z.coerce.number(),
  /** A digest of all accounts with their balances. */
  balances: z.string(),
});

/** What a backup holds: written beside it, and compared with what was restored from it. */
export const Contents = z.object({
  /** The number of rows of each table, by schema and name. */
  tables: z.record(z.string(), z.number()),
  books: z.array(BooksContents),
});
export type Contents = z.infer<typeof Contents>;

const TableRow = z.object({ schema: z.string(), name: z.string() });
const CountRow = z.object({ count: z.coerce.number() });

/**
 * Reads what a database holds, from what even the oldest one has: a backup is made before an upgrade, too.
 *
 * @param client connected as somebody who sees all rows, in a transaction that sees one state
 */
export async function contentsOf(client: pg.Client): Promise<Contents> {
  const { rows } = await client.query(
    `select table_schema as schema, table_name as name from information_schema.tables
     where table_type = 'BASE TABLE' and table_schema not in ('pg_catalog', 'information_schema')
     order by 1, 2`,
  );
  const tables: Record<string, number> = {};
  for (const { schema, name } of z.array(TableRow).parse(rows)) {
    const table = `${pg.escapeIdentifier(schema)}.${pg.escapeIdentifier(name)}`;
    const counted = await client.query(`select count(*) from ${table}`);
    tables[`${schema}.${name}`] = CountRow.parse(counted.rows[0]).count;
  }
  const books = await client.query(
    `select k.id, k.last_step as "lastStep",
       (select encode(hash, 'hex') from audit_heads h
         where h.books_id = k.id and h.chain = 'steps') as chain,
       (select count(*) from lines l where l.books_id = k.id and l.is_here and not exists (
         select from decision_lines d
         where d.books_id = l.books_id and d.line_id = l.id and d.is_live)) as open,
       (select md5(coalesce(string_agg(account_id || ' ' || total, ',' order by account_id), ''))
         from (
           select g.account_id, sum(g.amount) as total from legs g
           join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
           where g.books_id = k.id group by 1) sums) as balances
     from books k order by k.id`,
  );
  return { tables, books: z.array(BooksContents).parse(books.rows) };
}

/** How many sets of books there are. @example '2 sets of books' */
export function countBooks({ books }: Contents): string {
  return books.length === 1 ? '1 set of books' : `${books.length} sets of books`;
}

/** In what two databases differ, each as a few words; empty where in nothing. */
export function differencesOf(wanted: Contents, found: Contents): string[] {
  const names = new Set([...Object.keys(wanted.tables), ...Object.keys(found.tables)]);
  const tables = [...names].flatMap((name) => {
    const [were, are] = [wanted.tables[name], found.tables[name]];
    return were === are
      ? []
      : [`${name}: ${were ?? 'no'} rows were backed up, ${are ?? 'no'} came`];
  });
  const books = wanted.books.flatMap((one) => {
    const other = found.books.find(({ id }) => id === one.id);
    if (!other) return [`books ${one.id}: missing`];
    const fields = (['lastStep', 'chain', 'open', 'balances'] as const).filter(
      (field) => one[field] !== other[field],
    );
    return fields.map((field) => `books ${one.id}: another ${FIELD_NAMES[field]}`);
  });
  return [...tables, ...books];
}

const FIELD_NAMES = {
  lastStep: 'last step',
  chain: 'end of the chain of steps',
  open: 'number of open lines',
  balances: 'balance of an account',
} as const;
