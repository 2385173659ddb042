import { type SQL, sql } from 'drizzle-orm';
import pg from 'pg';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { taughtSince } from '../modules/habits/taughtLines.ts';
import { batchesOf, batchSheet } from '../modules/intake/queries.ts';
import { bookkeeper } from '../testing/bookkeeper.ts';
import { makeBooks, type TestBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { setScene } from '../testing/scene.ts';
import { inBooks, rowsOf, type Tx } from './database.ts';

const scene = setScene();
const MANY = 300;
let owner: pg.Client;

const linesOf = (count: number) =>
  Array.from({ length: count }, (_, n) => ({
    date: `2026-02-${String((n % 28) + 1).padStart(2, '0')}`,
    amount: `-${(n + 1).toFixed(2)}`,
    text: `LINE ${n}`,
  }));

async function keepAndPost(books: TestBooks, count: number): Promise<void> {
  const mo = bookkeeper(scene.client, books.id);
  await books.keep('lines.ofx', ofxFile(linesOf(count), '0.00'), { withOpening: false });
  const lineIds = (await mo.open()).map(({ id }) => id);
  expect(lineIds).toHaveLength(count);
  await mo.post(lineIds, mo.codingTo(await mo.accountId('6010')));
}

const CountRow = z.object({ rows: z.int() });

/** How many rows of a table work in the books reads. */
async function rowsRead(table: string, work: (tx: Tx) => Promise<unknown>): Promise<number> {
  return inBooks(scene.harness.database, scene.books.id, async (tx) => {
    await work(tx);
    const read: SQL = sql`select (coalesce(seq_tup_read, 0) + coalesce(idx_tup_fetch, 0))::int as rows
      from pg_stat_xact_user_tables where relname = ${table}`;
    return (await rowsOf(tx, CountRow, read))[0]?.rows ?? 0;
  });
}

describe('books larger than all that the planner knows', () => {
  beforeEach(async () => {
    for (let at = 0; at < 3; at += 1) await keepAndPost(await makeBooks(scene.client), 3);
    owner = new pg.Client({ connectionString: scene.harness.urls.owner });
    await owner.connect();
    await owner.query('analyze');
    // As if somebody else looked at these tables, so that nothing is known of what comes now.
    await owner.query('begin');
    await owner.query(
      'lock table lines, sightings, decisions, decision_lines in share update exclusive mode',
    );
    await keepAndPost(scene.books, MANY);
  }, 60_000);
  afterEach(() => owner.end());

  it('are learned from by looking each decision up once', async () => {
    const read = await rowsRead('decisions', async (tx) => {
      for await (const lines of taughtSince(tx, scene.books.id, 1)) {
        expect(lines.filter(({ accountId }) => accountId !== null)).toHaveLength(MANY);
      }
    });
    expect(read).toBeGreaterThanOrEqual(MANY);
    expect(read).toBeLessThan(3 * MANY);
  });

  it('show a file without reading it once more for each of its lines', async () => {
    const read = await rowsRead('sightings', async (tx) => {
      const [batch] = await batchesOf(tx, scene.books.id);
      const { counts } = await batchSheet(tx, scene.books.id, batch?.id ?? '');
      expect(counts).toMatchObject({ open: 0, posted: MANY, shared: 0, ownDecided: MANY });
    });
    expect(read).toBeGreaterThanOrEqual(MANY);
    expect(read).toBeLessThan(10 * MANY);
  });
});
