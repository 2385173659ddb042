import { randomUUID } from 'node:crypto';
import type { Stack } from '@zubrell/contract/desk';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { type Client, makeBooks, type TestBooks } from '../testing/client.ts';
import { ofxFile } from '../testing/files.ts';
import { startHarness } from '../testing/harness.ts';
import { refusalOf } from '../testing/refusal.ts';
import type { Harness } from '../testing/testServer.ts';
import { countRows, inBooks, rowsOf, type Tx } from './database.ts';
import { IdRow, NameRow } from './rows.ts';

let harness: Harness;
let client: Client;
let books: TestBooks;
let others: TestBooks;

beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
  books = await makeBooks(client);
  others = await makeBooks(await harness.signIn('Ida Fennick'));
  await books.keep(
    'a.ofx',
    ofxFile(
      [
        { date: '2026-01-05', amount: '-10.00', text: 'ORRIN BELL 1' },
        { date: '2026-02-05', amount: '-10.00', text: 'ORRIN BELL 2' },
        { date: '2026-03-05', amount: '-10.00', text: 'ORRIN BELL 3' },
      ],
      '70.00',
    ),
  );
});
afterAll(() => harness.stop());

/** The name that the database gives an error, or its SQLSTATE. */
const refusal = async (work: Promise<unknown>) => (await refusalOf(work))?.code ?? 'done';

const inOurs = <T>(work: (tx: Tx) => Promise<T>) => inBooks(harness.database, books.id, work);

async function insertEntry(
  tx: Tx,
  date: string,
  amounts: readonly (readonly [string, number])[],
): Promise<string> {
  const id = randomUUID();
  await tx.execute(
    sql`insert into entries (books_id, id, date, kind, step) values (${books.id}, ${id}, ${date}, 'line', 1)`,
  );
  for (const [position, [account, amount]] of amounts.entries()) {
    await tx.execute(
      sql`insert into legs (books_id, id, entry_id, position, account_id, amount, role)
          values (${books.id}, ${randomUUID()}, ${id}, ${position}, ${account}, ${amount}, 'base')`,
    );
  }
  return id;
}

const RoleRow = z.object({ name: z.string(), isFree: z.boolean() });

describe('row-level security', () => {
  it('binds the role that the program runs as', async () => {
    const [role] = await rowsOf(
      harness.database,
      RoleRow,
      sql`select rolname as name, rolsuper or rolbypassrls as "isFree"
          from pg_roles where rolname = current_user`,
    );
    expect(role).toEqual({ name: 'zubrell_app', isFree: false });
  });

  it('is on for every table that has books in it', async () => {
    const rows = await rowsOf(
      harness.database,
      NameRow,
      sql`select c.relname as name from pg_class c
          join pg_attribute a on a.attrelid = c.oid and a.attname = 'books_id'
          where c.relkind = 'r' and not c.relrowsecurity`,
    );
    expect(rows.map(({ name }) => name).sort()).toEqual(['invitations', 'memberships']);
  });

  it('shows nothing outside a transaction that names books, also on a used connection', async () => {
    await inOurs(async () => undefined);
    for (let again = 0; again < 10; again += 1) {
      const rows = await countRows(harness.database, sql`select from accounts`);
      expect(rows).toBe(0);
    }
  });

  it('keeps other books out, for reading and for writing', async () => {
    const seen = await inOurs((tx) =>
      countRows(tx, sql`select from accounts where books_id = ${others.id}`),
    );
    expect(seen).toBe(0);
    const smuggled = inOurs((tx) =>
      tx.execute(
        sql`insert into payees (books_id, id, name, kind)
            values (${others.id}, ${randomUUID()}, 'Smuggled', 'other')`,
      ),
    );
    const insufficientPrivilege = '42501';
    expect(await refusal(smuggled)).toBe(insufficientPrivilege);
  });
});

describe('the ledger', () => {
  it('takes entries of two legs or more that add up to zero, and no others', async () => {
    const [a, b] = [await books.accountId('6010'), await books.accountId('6030')];
    const attempt = (...amounts: number[]) =>
      refusal(
        inOurs((tx) =>
          insertEntry(
            tx,
            '2026-03-01',
            amounts.map((amount, index) => [index === 0 ? a : b, amount] as const),
          ),
        ),
      );
    expect(await attempt(5, -5)).toBe('done');
    expect(await attempt(5, -4)).toBe('ENTRY_UNBALANCED');
    expect(await attempt(0)).toBe('ENTRY_UNBALANCED');
    expect(await attempt()).toBe('ENTRY_UNBALANCED');
  });

  it('never lets facts, entries or steps be changed or removed', async () => {
    const attempts = [
      sql`update lines set amount = 1`,
      sql`delete from lines`,
      sql`update entries set date = '2026-01-01'`,
      sql`delete from entries`,
      sql`update legs set amount = 0`,
      sql`delete from legs`,
      sql`update steps set words = ''`,
      sql`delete from step_items`,
      sql`delete from decisions`,
    ];
    for (const attempt of attempts) {
      expect(await refusal(inOurs((tx) => tx.execute(attempt)))).toBe('42501');
    }
  });

  it('allows one live decision a line', async () => {
    const uniqueViolation = '23505';
    const twice = inOurs(async (tx) => {
      const [line] = await rowsOf(tx, IdRow, sql`select id from lines limit 1`);
      for (const id of [randomUUID(), randomUUID()]) {
        await tx.execute(
          sql`insert into decisions (books_id, id, kind, step) values (${books.id}, ${id}, 'excluded', 1)`,
        );
        await tx.execute(
          sql`insert into decision_lines (books_id, decision_id, line_id, last_step)
              values (${books.id}, ${id}, ${line?.id}, 1)`,
        );
      }
    });
    expect(await refusal(twice)).toBe(uniqueViolation);
  });
});

describe('a closed period', () => {
  const FigureRow = z.object({ accountId: z.string(), amount: z.number() });
  /** What each account came to at the end of March. */
  const closedFigures = () =>
    inOurs((tx) =>
      rowsOf(
        tx,
        FigureRow,
        sql`select account_id as "accountId", sum(amount)::bigint as amount from movements
            where books_id = ${books.id} and date <= '2026-03-31' group by 1 order by 1`,
      ),
    );
  const post = async (lane = 'blank') =>
    client.send<{ done: string[]; leftOut: { code: string }[] }>(
      'POST',
      `/api/books/${books.id}/lines/post`,
      {
        target: {
          stack: { grouping: 'lookAlikes', key: 'ORRIN BELL', direction: 'out' },
          lane,
          scope: {},
        },
        coding: {
          payeeId: null,
          parts: [
            {
              accountId: await books.accountId('6030'),
              taxCodeId: null,
              share: { kind: 'rest' },
              tax: null,
            },
          ],
          note: null,
        },
        seenStep: 1_000,
      },
    );

  it('holds its open lines for a decision, and leaves them out of posting', async () => {
    await client.send('PATCH', `/api/books/${books.id}`, { lockDate: '2026-01-31' });
    expect((await post()).done).toHaveLength(2);
    const lane = 'lane=check&grouping=lookAlikes';
    const path = `/api/books/${books.id}`;
    const { stacks } = await client.get<{ stacks: Stack[] }>(`${path}/stacks?${lane}`);
    expect(stacks).toMatchObject([{ key: 'ORRIN BELL', count: 1, heldCount: 1, held: 'late' }]);
    expect((await post('check')).done).toHaveLength(1);
  });

  it('keeps its figures when something in it is undone: that counts on the first open day', async () => {
    await client.send('PATCH', `/api/books/${books.id}`, { lockDate: '2026-03-31' });
    const { items } = await client.get<{ items: { no: number; kind: string }[] }>(
      `/api/books/${books.id}/steps`,
    );
    const posting = items.find(({ kind }) => kind === 'post');
    const undo = { step: posting?.no, withLater: false };
    const before = await closedFigures();
    await client.send('POST', `/api/books/${books.id}/steps/undo`, undo);
    expect(await closedFigures()).toEqual(before);
    expect(before).not.toEqual([]);
    await client.send('PATCH', `/api/books/${books.id}`, { lockDate: null });
    expect(await closedFigures()).toEqual(before);
  });

  it('is kept by the database too, for the books and for one bank account', async () => {
    const bank = (await books.setup()).bankAccounts[0]?.accountId ?? '';
    const other = await books.accountId('6010');
    const attempt = (date: string) =>
      refusal(
        inOurs((tx) =>
          insertEntry(tx, date, [
            [bank, 5],
            [other, -5],
          ]),
        ),
      );
    await inOurs((tx) => tx.execute(sql`update bank_accounts set closed_to = '2026-02-28'`));
    expect(await attempt('2026-02-28')).toBe('PERIOD_CLOSED');
    expect(await attempt('2026-03-01')).toBe('done');
    await inOurs((tx) => tx.execute(sql`update books set lock_date = '2026-03-31'`));
    expect(await attempt('2026-03-31')).toBe('PERIOD_CLOSED');
    await inOurs((tx) => tx.execute(sql`update books set lock_date = null`));
  });
});
