import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, rowsOf, type Tx } from './database.ts';

/**
 * What the database keeps itself, by triggers: each table with its columns, the view that says what has to stand in it,
 * and which of its rows count.
 */
const KEPT = [
  {
    table: 'open_lines',
    wanted: 'lines_that_are_open',
    columns:
      'books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice, proposed, digest, account_id, payee_id, is_pair, equal_lines, said',
    counts: 'true',
  },
  {
    table: 'decided_days',
    wanted: 'days_that_are_decided',
    columns:
      'books_id, bank_account_id, date, is_out, kind, reason, source, count, amount, looked, kept, unseen',
    counts: 'count <> 0 or amount <> 0',
  },
  {
    table: 'moved_days',
    wanted: 'days_that_moved',
    columns:
      'books_id, account_id, date, is_tax, tax_code_id, tax_side, count, amount, debits, own, taxable',
    counts: 'count <> 0 or amount <> 0 or taxable <> 0',
  },
  {
    table: 'counted_days',
    wanted: 'days_that_are_counted',
    columns: 'books_id, statement_id, bank_account_id, kind, date, count, amount',
    counts: 'true',
  },
  {
    table: 'uneven_decisions',
    wanted: 'decisions_that_differ',
    columns: 'books_id, decision_id, from_date, until_date',
    counts: 'true',
  },
  {
    table: 'open_documents',
    wanted: 'documents_that_are_open',
    columns: 'books_id, document_id, amount, worth',
    counts: 'true',
  },
  {
    table: 'untied_legs',
    wanted: 'legs_that_are_untied',
    columns: 'books_id, leg_id',
    counts: 'true',
  },
].map(({ table, wanted, columns, counts }) => ({
  name: table,
  table: sql.identifier(table),
  wanted: sql.identifier(wanted),
  columns: sql.raw(columns),
  counts: sql.raw(counts),
}));

/** What rows repeat of others: each table with its key and those columns, and the view that says what has to stand there. */
const REPEATED = [
  {
    table: 'legs',
    wanted: 'legs_as_placed',
    key: ['books_id', 'id'],
    columns: ['date', 'payee_id', 'shown_account_id'],
  },
  {
    table: 'decision_lines',
    wanted: 'decision_lines_as_told',
    key: ['books_id', 'decision_id', 'line_id'],
    columns: ['date', 'amount', 'account_id', 'is_unseen'],
  },
].map(({ table, wanted, key, columns }) => {
  const of = (name: string) => sql.raw(columns.map((column) => `${name}.${column}`).join(', '));
  return {
    name: table,
    table: sql.identifier(table),
    wanted: sql.identifier(wanted),
    columns: sql.raw(columns.join(', ')),
    values: of('w'),
    isWrong: sql`${sql.raw(key.map((column) => `k.${column} = w.${column}`).join(' and '))}
      and (${of('k')}) is distinct from (${of('w')})`,
  };
});

const CountRow = z.object({ count: z.number() });

/**
 * What is kept otherwise than it should be: nothing, unless it is a fault of the program.
 *
 * @param owner the database as the tables' owner
 * @param booksId of which books; null is of all
 * @returns by table, in words. @example ['2 rows of moved_days']
 */
export async function keptWrong(
  owner: Tx | Database,
  booksId: BooksId | null,
): Promise<readonly string[]> {
  const here = booksId === null ? sql`true` : sql`books_id = ${booksId}`;
  const wrong: string[] = [];
  for (const { name, table, wanted, columns, counts } of KEPT) {
    const [row] = await rowsOf(
      owner,
      CountRow,
      sql`with kept as (select ${columns} from ${table} where ${here} and (${counts})),
          wanted as (select ${columns} from ${wanted} where ${here})
          select greatest((select count(*) from (select * from kept except select * from wanted) a),
            (select count(*) from (select * from wanted except select * from kept) b))::int as count`,
    );
    if (row && row.count > 0) wrong.push(rowsOfTable(row.count, name));
  }
  for (const { name, table, wanted, isWrong } of REPEATED) {
    const here = booksId === null ? sql`true` : sql`k.books_id = ${booksId}`;
    const [row] = await rowsOf(
      owner,
      CountRow,
      sql`select count(*)::int as count from ${table} k join ${wanted} w on ${isWrong} where ${here}`,
    );
    if (row && row.count > 0) wrong.push(rowsOfTable(row.count, name));
  }
  return wrong;
}

/** Works all of them out anew. @param owner a transaction of the tables' owner in which nobody else changes these books */
export async function keepAnew(owner: Tx, booksId: BooksId): Promise<void> {
  for (const { table, wanted, columns, values, isWrong } of REPEATED) {
    await owner.execute(
      sql`update ${table} k set (${columns}) = row (${values}) from ${wanted} w
          where k.books_id = ${booksId} and ${isWrong}`,
    );
  }
  for (const { table, wanted, columns } of KEPT) {
    await owner.execute(sql`delete from ${table} where books_id = ${booksId}`);
    await owner.execute(
      sql`insert into ${table} (${columns}) select ${columns} from ${wanted} where books_id = ${booksId}`,
    );
  }
}

const rowsOfTable = (count: number, name: string) =>
  `${count} ${count === 1 ? 'row' : 'rows'} of ${name}`;
