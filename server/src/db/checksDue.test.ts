import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { ofxFile } from '../testing/files.ts';
import { refusalOf } from '../testing/refusal.ts';
import { setScene } from '../testing/scene.ts';
import { countRows, inBooks, openBackground, rowsOf, type Tx } from './database.ts';
import { IdRow } from './rows.ts';

const scene = setScene();
const inOurs = <T>(work: (tx: Tx) => Promise<T>) =>
  inBooks(scene.harness.database, scene.books.id, work);

/** What the database says of a transaction: the name of its error or SQLSTATE, and what it names. */
async function said(work: (tx: Tx) => Promise<unknown>): Promise<string> {
  const refused = await refusalOf(inOurs(work));
  return refused === null ? 'done' : `${refused.code} ${refused.detail}`.trim();
}

/** Writes entries of several legs, all in one statement each. @param amounts by entry, of its legs */
async function insertEntries(tx: Tx, amounts: readonly (readonly number[])[]): Promise<string[]> {
  const account = await scene.books.accountId('6010');
  const ids = amounts.map(() => randomUUID());
  const legs = amounts.flatMap((own, at) => own.map((amount) => ({ entry: ids[at], amount })));
  await tx.execute(
    sql`insert into entries (books_id, id, date, kind, step)
        select ${scene.books.id}, id, '2026-03-01', 'line', 1 from unnest(${sql.param(ids)}::uuid[]) as t (id)`,
  );
  await tx.execute(
    sql`insert into legs (books_id, id, entry_id, position, account_id, amount, role)
        select ${scene.books.id}, gen_random_uuid(), entry, place, ${account}, amount, 'base'
        from unnest(${sql.param(legs.map(({ entry }) => entry))}::uuid[],
          ${sql.param(legs.map(({ amount }) => amount))}::bigint[]) with ordinality as t (entry, amount, place)`,
  );
  return ids;
}

const entries = () => inOurs((tx) => countRows(tx, sql`select from entries`));

let lineIds: string[];
beforeEach(async () => {
  const lines = ['1', '2', '3'].map((id) => ({
    date: '2026-03-03',
    amount: '-48.50',
    text: `TIDEMARK FRT ${id}`,
    id,
  }));
  await scene.books.keep('march.ofx', ofxFile(lines, '854.50'));
  lineIds = await scene.lineIds('blank');
});

describe('what is checked when a transaction ends', () => {
  it('is the balance of each of many entries, and the wrong one is named', async () => {
    const before = await entries();
    let wrong = '';
    const two = await said(async (tx) => {
      [, wrong = ''] = await insertEntries(tx, [
        [5, -5],
        [5, -4],
        [7, -3, -4],
      ]);
    });
    expect(two).toContain('ENTRY_UNBALANCED');
    expect(two).toContain(wrong);
    expect(await entries()).toBe(before);
    expect(await said((tx) => insertEntries(tx, [[5, -5], []]))).toContain('ENTRY_UNBALANCED');
    expect(
      await said((tx) =>
        insertEntries(tx, [
          [5, -5],
          [7, -3, -4],
        ]),
      ),
    ).toBe('done');
    expect(await entries()).toBe(before + 2);
  });

  it('is the balance of an entry that a leg is added to later', async () => {
    const [id = ''] = await inOurs((tx) => insertEntries(tx, [[5, -5]]));
    const account = await scene.books.accountId('6030');
    const add = (tx: Tx, amount: number, position: number) =>
      tx.execute(
        sql`insert into legs (books_id, id, entry_id, position, account_id, amount, role)
            values (${scene.books.id}, gen_random_uuid(), ${id}, ${position}, ${account}, ${amount}, 'base')`,
      );
    expect(await said((tx) => add(tx, 3, 8))).toContain('ENTRY_UNBALANCED');
    const both = await said(async (tx) => {
      await add(tx, 3, 8);
      await add(tx, -3, 9);
    });
    expect(both).toBe('done');
  });

  it('is that nothing is void which a line stands on', async () => {
    await scene.post(lineIds, '6010');
    const voided = await said((tx) =>
      tx.execute(sql`update entries set is_void = true where kind = 'line'`),
    );
    expect(voided).toContain('ENTRY_PAIRED');
    expect(await inOurs((tx) => countRows(tx, sql`select from entries where is_void`))).toBe(0);
  });

  it('is that pairs come to the same at the bank and in the books', async () => {
    const pair = (legs: boolean) =>
      said(async (tx) => {
        const decision = randomUUID();
        await tx.execute(
          sql`insert into decisions (books_id, id, kind, step) values (${scene.books.id}, ${decision}, 'paired', 1)`,
        );
        await tx.execute(
          sql`insert into decision_lines (books_id, decision_id, line_id, last_step)
              values (${scene.books.id}, ${decision}, ${lineIds[0]}, 1)`,
        );
        if (!legs) return;
        const [entry = ''] = await insertEntries(tx, [[4_850]]);
        const [leg] = await rowsOf(
          tx,
          IdRow,
          sql`insert into legs (books_id, id, entry_id, position, account_id, amount, role)
              select ${scene.books.id}, gen_random_uuid(), ${entry}, 9, account_id, -4850, 'bank'
              from bank_accounts returning id`,
        );
        await tx.execute(
          sql`insert into decision_legs (books_id, decision_id, leg_id) values (${scene.books.id}, ${decision}, ${leg?.id})`,
        );
      });
    expect(await pair(false)).toContain('PAIR_UNBALANCED');
    expect(await pair(true)).toBe('done');
  });

  it('leaves nothing behind, and can’t be taken back by the program', async () => {
    await scene.post(lineIds, '6010');
    await scene.undo();
    const owner = openBackground(scene.harness.urls.owner, 1);
    expect(await countRows(owner, sql`select from checks_due`)).toBe(0);
    await owner.$client.end();
    expect(await said((tx) => tx.execute(sql`delete from checks_due`))).toBe('42501');
  });
});
