import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { countRows, openDatabase } from '../db/database.ts';
import { closeDatabases, openDatabases } from '../services.ts';
import { type Bookkeeper, bookkeeper } from '../testing/bookkeeper.ts';
import { makeBooks, type TestBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import { type Pooler, startPooler } from '../testing/pooler.ts';
import { type Harness, startOn } from '../testing/testServer.ts';

let pooler: Pooler;
let harness: Harness;

beforeAll(async () => {
  const made = await makeTestDatabase();
  await closeDatabases(made.services);
  // Fewer connections than requests at once: each transaction gets one that another books' had before.
  pooler = await startPooler(made.urls.runtime, 2);
  const databases = openDatabases(pooler.url, 10, made.urls.runtime);
  harness = await startOn({ ...made, services: { ...made.services, ...databases } });
});
afterAll(async () => {
  await harness.stop();
  pooler.stop();
});

/** One person's work on books of their own, from a file to proved books and back. */
async function work(name: string): Promise<void> {
  const client = await harness.signIn(name);
  const books = await makeBooks(client);
  const ours = bookkeeper(client, books.id as BooksId);
  await bringIn(books, name);
  const open = await ours.open();
  expect(open.map(({ description }) => description)).toEqual(
    expect.arrayContaining([`${name.toUpperCase()} 1`]),
  );
  expect(open).toHaveLength(6);
  await decideAndTakeBack(ours);
  expect(await ours.proof()).toMatchObject({ unexplained: 0 });
}

async function bringIn(books: TestBooks, name: string): Promise<void> {
  const lines = [1, 2, 3, 4, 5, 6].map((day) => ({
    date: `2026-03-0${day}`,
    amount: '-12.00',
    text: `${name.toUpperCase()} ${day}`,
  }));
  const batch = await books.keep('march.ofx', ofxFile(lines, '28.00'));
  expect(batch.status).toBe('kept');
}

async function decideAndTakeBack(ours: Bookkeeper): Promise<void> {
  const [first, second, third] = (await ours.open()).map(({ id }) => id);
  const coding = ours.codingTo(await ours.accountId('6030'));
  await ours.post(first ? [first] : [], coding);
  await ours.post(second && third ? [second, third] : [], coding);
  expect(await ours.balance('6030')).toBe(3_600);
  await ours.undo();
  expect(await ours.balance('6030')).toBe(1_200);
  await ours.redo();
  expect(await ours.balance('6030')).toBe(3_600);
}

describe('through a pooler that gives a connection for one transaction', () => {
  it('eight people work at once, each on what is theirs', async () => {
    const names = ['Mo', 'Ida', 'Rosa', 'Tamsin', 'Ines', 'Orrin', 'Wick', 'Alder'];
    await Promise.all(names.map((name) => work(`${name} Oakes`)));
  });

  it('no transaction sees the books of the one before', async () => {
    const client = await harness.signIn('Mo Oakes');
    await makeBooks(client);
    const direct = openDatabase(pooler.url, 2);
    for (let again = 0; again < 10; again += 1) {
      expect(await countRows(direct, sql`select from accounts`)).toBe(0);
    }
    await direct.$client.end();
  });

  it('whoever waits for somebody else’s work is told so after a few seconds', async () => {
    const client = await harness.signIn('Mo Oakes');
    const books = await makeBooks(client);
    const { background } = harness.services;
    await background.transaction(async (tx) => {
      await tx.execute(sql`select set_config('app.books_id', ${books.id}, true)`);
      await tx.execute(sql`select from books where id = ${books.id} for update`);
      await expect(
        client.send('POST', `/api/books/${books.id}/payees`, {
          name: 'Tidemark',
          kind: 'supplier',
        }),
      ).rejects.toThrow('BUSY');
    });
  });
});
