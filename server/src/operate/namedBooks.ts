import { sql } from 'drizzle-orm';
import type { z } from 'zod';
import { rowsOf, type Tx } from '../db/database.ts';
import { NamedRow } from '../db/rows.ts';

/** What a command printed, and with what it ends: 0 well, 1 faults were found, 2 it could not be done. */
export interface Outcome {
  readonly lines: readonly string[];
  readonly code: 0 | 1 | 2;
}

/**
 * Does something with books that are named on the command line, where just one have the name.
 *
 * @param tx a transaction of the tables' owner, who sees the rows of all books
 * @param name their id, or their name
 */
export async function withNamedBooks(
  tx: Tx,
  name: string,
  work: (books: z.infer<typeof NamedRow>) => Promise<Outcome>,
): Promise<Outcome> {
  const found = await rowsOf(
    tx,
    NamedRow,
    sql`select id, name from books where id::text = ${name} or lower(name) = lower(${name})`,
  );
  const [only, ...more] = found;
  if (!only) return { lines: [`There are no books “${name}”.`], code: 2 };
  if (more.length === 0) return work(only);
  const ids = found.map(({ id }) => `  ${id}`);
  return { lines: [`Several books are called “${name}”. Name one by its id:`, ...ids], code: 2 };
}
