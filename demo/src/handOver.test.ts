import { open, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BooksId } from '@zubrell/core/ids';
import { clockFixedAt } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { inBooks, openBackground, rowsOf } from '@zubrell/server/db/database';
import { daysOfBooks } from '@zubrell/server/modules/handover/gatherArchive';
import { readArchive } from '@zubrell/server/modules/handover/readArchive';
import { writeArchive } from '@zubrell/server/modules/handover/writeArchive';
import { agedDocuments } from '@zubrell/server/modules/reports/agedDocuments';
import { clientMoney } from '@zubrell/server/modules/reports/clientMoney';
import { openSession } from '@zubrell/server/modules/session/sessions';
import { makeKey, openSecrets } from '@zubrell/server/secrets';
import type { Actor } from '@zubrell/server/services';
import { makeTestDatabase } from '@zubrell/server/testing/harness';
import type { TestDatabase } from '@zubrell/server/testing/testServer';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { demoToday } from './scenario/files.ts';
import { demoEmail, seed } from './seed.ts';

/** Loading the demo takes its time on a machine that does other things as well. */
const PATIENCE = 400_000;
const clock = clockFixedAt(demoToday);
const UserRow = z.object({ id: z.string(), name: z.string() });
const BooksRow = z.object({ id: z.string() });
const BalanceRow = z.object({ code: z.string(), amount: z.int() });
const LineRow = z.object({
  account: z.string(),
  date: z.string(),
  amount: z.int(),
  text: z.string(),
});

let made: TestDatabase;
let actor: Actor;
let booksId: BooksId;

beforeAll(async () => {
  made = await makeTestDatabase();
  const owner = openBackground(made.urls.owner, 1);
  await seed(made.services.database, owner, openSecrets([makeKey()]));
  const [user] = await rowsOf(
    owner,
    UserRow,
    sql`select id, name from users where email = ${demoEmail}`,
  );
  const [books] = await rowsOf(
    owner,
    BooksRow,
    sql`select id from books where name = 'Larkmoor Kiln Works'`,
  );
  await owner.$client.end();
  booksId = books?.id ?? '';
  const { id = '', name = '' } = user ?? {};
  const session = await openSession(made.services.database, { ...made.services, clock }, id);
  actor = { userId: id, name, session };
}, PATIENCE);
afterAll(async () => {
  await made.services.database.$client.end();
  await made.services.background.$client.end();
  await made.drop();
});

/** What two sets of books have to have alike on a day. */
function standing(id: BooksId, on: string) {
  return inBooks(made.services.database, id, async (tx) => {
    const balances = await rowsOf(
      tx,
      BalanceRow,
      sql`select a.code, sum(m.amount)::bigint as amount from movements m
          join accounts a on a.books_id = m.books_id and a.id = m.account_id
          where m.books_id = ${id} and m.date <= ${on} group by a.code having sum(m.amount) <> 0
          order by a.code`,
    );
    const open = await rowsOf(
      tx,
      LineRow,
      sql`select b.name as account, l.date, l.amount, l.description as text from lines l
          join bank_accounts b on b.books_id = l.books_id and b.id = l.bank_account_id
          where l.books_id = ${id} and l.is_here and l.date <= ${on} and not exists (
            select from decision_lines dl
            where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live)
          order by b.name, l.date, l.amount, l.description, l.id`,
    );
    const receivables = await agedDocuments(tx, id, { side: 'receivables', on });
    const payables = await agedDocuments(tx, id, { side: 'payables', on });
    const clients = await clientMoney(tx, id, { from: on, to: on });
    return { balances, open, receivables, payables, clients };
  });
}

/** Hands over a period, and reads that into new books. */
async function readAgain(from: string, to: string): Promise<BooksId> {
  const name = join(tmpdir(), `zubrell-handover-${process.pid}.zip`);
  const { services } = made;
  await writeFile(name, writeArchive(services.background, { booksId, actor, clock }, { from, to }));
  const file = await open(name);
  try {
    const begin = (tx: Parameters<typeof beginCommand>[0], id: BooksId) =>
      beginCommand(tx, { clock }, id, actor);
    return await readArchive(
      { database: services.background, actor, clock, begin },
      { descriptor: file.fd },
    );
  } finally {
    await file.close();
    await rm(name);
  }
}

describe('the demo, handed over and read into new books', () => {
  it(
    'has the same trial balance, open items and open lines: all of it, or one year brought forward',
    async () => {
      const days = await inBooks(made.services.database, booksId, (tx) => daysOfBooks(tx, booksId));
      const { from, to } = days ?? { from: '', to: '' };
      for (const first of [from, '2026-01-01']) {
        const other = await readAgain(first, to);
        const [was, is] = [await standing(booksId, to), await standing(other, to)];
        expect(was.balances.length).toBeGreaterThan(20);
        expect(was.open.length).toBeGreaterThan(100);
        expect(was.receivables.documents.length).toBeGreaterThan(0);
        expect(is).toEqual(was);
      }
    },
    PATIENCE,
  );
});
