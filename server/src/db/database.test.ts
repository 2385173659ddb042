import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { closeDatabases } from '../services.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import type { TestDatabase } from '../testing/testServer.ts';
import {
  type Database,
  execute,
  inBooks,
  inBooksCopying,
  inBooksStill,
  openDatabase,
  rowsOf,
  type Tx,
  together,
} from './database.ts';

const BOOKS = '11111111-1111-4111-8111-111111111111';
const SettingRow = z.object({ value: z.string().nullable() });

let made: TestDatabase;
/** With one connection, so that what is left on it is met again. */
let single: Database;
beforeAll(async () => {
  made = await makeTestDatabase();
  single = openDatabase(made.services.database.$client.options.connectionString ?? '', 1, {
    connection: 5_000,
    lock: 4_000,
    statement: 60_000,
    idle: 30_000,
  });
});
afterAll(async () => {
  await single.$client.end();
  await closeDatabases(made.services);
  await made.drop();
});

async function settingOf(tx: Tx | Database, name: string): Promise<string | null | undefined> {
  const [row] = await rowsOf(
    tx,
    SettingRow,
    sql`select nullif(current_setting(${name}, true), '') as value`,
  );
  return row?.value;
}

describe('a transaction in books', () => {
  it('has its settings, which end with it', async () => {
    await inBooks(single, BOOKS, async (tx) => {
      expect(await settingOf(tx, 'app.books_id')).toBe(BOOKS);
      expect(await settingOf(tx, 'jit')).toBe('off');
      expect(await settingOf(tx, 'lock_timeout')).toBe('4s');
      expect(await settingOf(tx, 'transaction_isolation')).toBe('read committed');
    });
    expect(await settingOf(single, 'app.books_id')).toBeNull();
  });

  it('sees the books as they were when it began, where that is wanted', async () => {
    await inBooksStill(single, BOOKS, async (tx) => {
      expect(await settingOf(tx, 'transaction_isolation')).toBe('repeatable read');
    });
  });

  it('leaves nothing behind where its work fails, and says why it did', async () => {
    const failing = inBooks(single, BOOKS, async (tx) => {
      await tx.execute(sql`create temporary table left_behind (id int)`);
      throw new Error('the kiln is cold');
    });
    await expect(failing).rejects.toThrow('the kiln is cold');
    const there = await single.execute(sql`select to_regclass('left_behind') as there`);
    expect(there.rows).toEqual([{ there: null }]);
  });

  it('that can’t begin leaves its connection as it was', async () => {
    const { options } = single.$client;
    const patience = options.lock_timeout;
    options.lock_timeout = 'no time' as unknown as number;
    await expect(inBooks(single, BOOKS, async () => undefined)).rejects.toThrow();
    options.lock_timeout = patience;
    expect(await inBooks(single, BOOKS, (tx) => settingOf(tx, 'app.books_id'))).toBe(BOOKS);
  });

  it('says why it failed where its connection is lost, and the next gets another', async () => {
    const lost = inBooks(single, BOOKS, (tx) =>
      tx.execute(sql`select pg_terminate_backend(pg_backend_pid())`),
    );
    await expect(lost).rejects.toMatchObject({ cause: expect.objectContaining({ code: '57P01' }) });
    expect(await inBooks(single, BOOKS, (tx) => settingOf(tx, 'app.books_id'))).toBe(BOOKS);
  });
});

const NumberRow = z.object({ value: z.number() });

describe('queries together', () => {
  const values = (tx: Tx) => rowsOf(tx, NumberRow, sql`select value from kiln order by value`);

  it('are answered in the order in which they were asked', async () => {
    await inBooks(single, BOOKS, async (tx) => {
      const [, before, , after] = await together(
        execute(tx, sql`create temporary table kiln (value int) on commit drop`),
        values(tx),
        execute(tx, sql`insert into kiln values (1), (2)`),
        values(tx),
      );
      expect(before).toEqual([]);
      expect(after).toEqual([{ value: 1 }, { value: 2 }]);
    });
  });

  it('say what failed first, not what failed because of it', async () => {
    const failing = inBooks(single, BOOKS, (tx) =>
      together(
        execute(tx, sql`select 1`),
        execute(tx, sql`select 1 / 0`),
        rowsOf(tx, NumberRow, sql`select 2 as value`),
      ),
    );
    await expect(failing).rejects.toMatchObject({
      cause: expect.objectContaining({ message: 'division by zero' }),
    });
  });

  it('are waited for where other work failed, so that none comes in the transaction after', async () => {
    const asked: string[] = [];
    const slow = async (tx: Tx) => {
      await execute(tx, sql`select pg_sleep(0.02)`);
      await execute(tx, sql`select 1`);
      asked.push('both');
    };
    const failing = inBooks(single, BOOKS, (tx) =>
      together(slow(tx), Promise.reject(new Error('the kiln is cold'))),
    );
    await expect(failing).rejects.toThrow('the kiln is cold');
    expect(asked).toEqual(['both']);
  });

  it('are sent ahead again after a COPY, before which and after which they stand in order', async () => {
    const kept = await inBooksCopying(single, BOOKS, async (tx, openCopy) => {
      await execute(tx, sql`create temporary table kiln (value int) on commit drop`);
      const copy = openCopy('kiln (value)');
      await copy.write(new TextEncoder().encode('3\n4\n'));
      await copy.end();
      return together(execute(tx, sql`update kiln set value = value * 10`), values(tx));
    });
    expect(kept[1]).toEqual([{ value: 30 }, { value: 40 }]);
    expect(await inBooks(single, BOOKS, (tx) => settingOf(tx, 'app.books_id'))).toBe(BOOKS);
  });
});

describe('a transaction that is over', () => {
  it('takes no query that comes late: it would be part of the next, of other books', async () => {
    let late: Tx | null = null;
    await inBooks(single, BOOKS, async (tx) => {
      late = tx;
    });
    const asking = execute(late as unknown as Tx, sql`select 1`);
    await expect(asking).rejects.toMatchObject({
      cause: expect.objectContaining({ message: 'A query came after its transaction was over' }),
    });
  });
});
