import { type SQL, sql } from 'drizzle-orm';
import { execute, type Tx, together } from './database.ts';
import { refreshStatistics } from './refreshStatistics.ts';

/** The column types that `bulkInsert` sends arrays of. */
export type ColumnType =
  | 'uuid'
  | 'text'
  | 'date'
  | 'bigint'
  | 'integer'
  | 'real'
  | 'boolean'
  | 'jsonb';

/**
 * Inserts any number of rows with one statement, one array a column. What follows is planned for a table that has them:
 * triggers and foreign keys ask for each row.
 *
 * @param table the table's name in the database
 * @param columns the columns' names in the database with their types
 * @param rows the values, by column name
 * @example bulkInsert(tx, 'legs', { id: 'uuid', amount: 'bigint' }, [{ id, amount: -4850 }])
 */
export async function bulkInsert<Columns extends Record<string, ColumnType>>(
  tx: Tx,
  table: string,
  columns: Columns,
  rows: readonly Readonly<Record<keyof Columns, unknown>>[],
): Promise<void> {
  if (rows.length === 0) return;
  const names = Object.keys(columns);
  const arrays = names.map((name): SQL => {
    const type = columns[name] ?? 'text';
    const values = rows.map((row) => {
      const value = row[name] ?? null;
      return type === 'jsonb' && value !== null ? JSON.stringify(value) : value;
    });
    // Arrays of jsonb are sent as text and cast, so that strings inside stay strings.
    return type === 'jsonb'
      ? sql`${sql.param(values)}::text[]::jsonb[]`
      : sql`${sql.param(values)}::${sql.raw(type)}[]`;
  });
  const list = sql.join(
    names.map((name) => sql.identifier(name)),
    sql`, `,
  );
  await together(
    execute(
      tx,
      sql`insert into ${sql.identifier(table)} (${list}) select * from unnest(${sql.join(arrays, sql`, `)})`,
    ),
    refreshStatistics(tx, [table], rows.length),
  );
}
