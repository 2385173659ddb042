import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { setOwnedBooks } from '../testing/ownedBooks.ts';
import { bulkInsert } from './bulkInsert.ts';
import { inBooks, rowsOf, type Tx } from './database.ts';
import { refreshStatistics } from './refreshStatistics.ts';

const made = setOwnedBooks();

const KnownRow = z.object({ rows: z.number() });

/** How many rows the planner takes a table for. */
async function known(tx: Tx, table: string): Promise<number> {
  const [row] = await rowsOf(
    tx,
    KnownRow,
    sql`select reltuples::float8 as rows from pg_class where oid = ${table}::regclass`,
  );
  return row?.rows ?? 0;
}

/** Puts payees into the books, and gives up all of it. */
async function withPayees(count: number, look: (tx: Tx) => Promise<void>): Promise<void> {
  const booksId = made.books.id;
  const payees = Array.from({ length: count }, (_, at) => ({
    books_id: booksId,
    id: randomUUID(),
    name: `Payee ${at}`,
    name_key: `payee ${at}`,
    kind: 'supplier',
  }));
  const columns = {
    books_id: 'uuid',
    id: 'uuid',
    name: 'text',
    name_key: 'text',
    kind: 'text',
  } as const;
  const givenUp = inBooks(made.harness.database, booksId, async (tx) => {
    await bulkInsert(tx, 'payees', columns, payees);
    await look(tx);
    throw new Error('given up');
  });
  await expect(givenUp).rejects.toThrow('given up');
}

describe('the planner', () => {
  it('knows of many rows at once, in the same transaction', async () => {
    await withPayees(199, async (tx) => expect(await known(tx, 'payees')).toBeLessThan(150));
    await withPayees(400, async (tx) => expect(await known(tx, 'payees')).toBeGreaterThan(350));
    await withPayees(1_200, async (tx) => expect(await known(tx, 'payees')).toBeGreaterThan(1_100));
  });

  it('does not look again where the table is large already', async () => {
    await withPayees(6_000, async (tx) => {
      const before = await known(tx, 'payees');
      await refreshStatistics(tx, ['payees'], 1_100);
      expect(await known(tx, 'payees')).toBe(before);
    });
  });

  it('waits for nobody who looks at the same table', async () => {
    await withPayees(1_200, async () => {
      const other = inBooks(made.harness.database, made.books.id, async (tx) => {
        await tx.execute(sql`set local lock_timeout = '2s'`);
        await refreshStatistics(tx, ['payees'], 5_000);
        return 'done';
      });
      expect(await other).toBe('done');
    });
  });

  it('is told of no table that is none of ours', async () => {
    await inBooks(made.harness.database, made.books.id, async (tx) => {
      await refreshStatistics(tx, ['pg_authid', 'nothing; drop table lines'], 5_000);
      expect(await known(tx, 'lines')).toBeGreaterThanOrEqual(-1);
    });
  });
});
