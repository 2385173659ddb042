import { sql } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { bookkeeper } from '../testing/bookkeeper.ts';
import { setScene } from '../testing/scene.ts';
import { inBooks, openBackground, rowsOf } from './database.ts';
import { keepAnew, keptWrong } from './keptTables.ts';

const scene = setScene();
let owner: ReturnType<typeof openBackground>;
let clay: string;
beforeEach(async () => {
  owner = openBackground(scene.harness.urls.owner, 1);
  const mo = bookkeeper(scene.client, scene.books.id);
  clay = (await mo.payee('Penhallow Clay')).id;
  const { id } = await mo.addLine(scene.books.bankAccountId, '2026-03-10', -1_200, 'CLAY');
  const tax = await scene.books.taxCodeId('20 %');
  await mo.post([id], mo.codingTo(await mo.accountId('5000'), null, tax));
});
afterEach(() => owner.$client.end());

const wrong = () => keptWrong(owner, scene.books.id);
const change = (query: ReturnType<typeof sql>) =>
  owner.execute(sql`${query} and books_id = ${scene.books.id}`);
const DayRow = z.object({ days: z.array(z.string()) });
const daysOf = async (table: 'legs' | 'decision_lines') => {
  const [row] = await rowsOf(
    owner,
    DayRow,
    sql`select array_agg(distinct date::text) as days from ${sql.identifier(table)}
        where books_id = ${scene.books.id} and date <> '2025-12-31'`,
  );
  return row?.days;
};

describe('what rows repeat of others', () => {
  it('is there as they come', async () => {
    expect(await wrong()).toEqual([]);
    expect(await daysOf('legs')).toEqual(['2026-03-10']);
    expect(await daysOf('decision_lines')).toEqual(['2026-03-10']);
  });

  it('follows an entry and a line that somebody gives another day, payee or amount', async () => {
    await change(sql`update entries set date = '2026-03-11' where date = '2026-03-10'`);
    expect(await daysOf('legs')).toEqual(['2026-03-11']);
    await change(sql`update entries set payee_id = ${clay} where date = '2026-03-11'`);
    await change(sql`update lines set date = '2026-03-12', amount = -1300 where is_here`);
    expect(await daysOf('decision_lines')).toEqual(['2026-03-12']);
    expect(await wrong()).toEqual([]);
  });

  it('is found where it is wrong, and mended', async () => {
    await change(
      sql`update legs set date = '2026-03-11', payee_id = gen_random_uuid() where role = 'base'`,
    );
    await change(sql`update decision_lines set account_id = null, is_unseen = true where is_live`);
    expect(await wrong()).toEqual(['1 row of legs', '1 row of decision_lines']);
    await owner.transaction((tx) => keepAnew(tx, scene.books.id));
    expect(await wrong()).toEqual([]);
  });
});

describe('who says it otherwise', () => {
  const said = (query: ReturnType<typeof sql>) =>
    inBooks(scene.harness.database, scene.books.id, (tx) => tx.execute(query)).catch(
      (error: Error) => String(error.cause),
    );

  it('is refused: a leg of another day, payee or account', async () => {
    const leg = (column: string, value: ReturnType<typeof sql>) => {
      const columns = {
        date: sql`date`,
        payee_id: sql`payee_id`,
        shown_account_id: sql`shown_account_id`,
      };
      const values = Object.values({ ...columns, [column]: value });
      return said(sql`insert into legs
        (books_id, id, entry_id, position, account_id, amount, role, date, payee_id, shown_account_id)
        select books_id, gen_random_uuid(), entry_id, 9, account_id, 0, 'base', ${sql.join(values, sql`, `)}
        from legs limit 1`);
    };
    const refused = expect.stringContaining('another day, payee or account');
    expect(await leg('date', sql`date + 1`)).toEqual(refused);
    expect(await leg('payee_id', sql`${clay}::uuid`)).toEqual(refused);
    const other = sql`(select max(id::text) from accounts where id <> account_id)::uuid`;
    expect(await leg('shown_account_id', other)).toEqual(refused);
    expect(await leg('date', sql`date`)).not.toEqual(refused);
  });

  it('is refused: a decided line of another day, amount or account', async () => {
    const tie = (values: ReturnType<typeof sql>) =>
      said(sql`insert into decision_lines (books_id, decision_id, line_id, is_live, last_step, date, amount, account_id, is_unseen)
        select t.books_id, d.id, t.line_id, false, 1, ${values} from decision_lines t
        join decisions d on d.books_id = t.books_id and d.kind = 'excluded'`);
    await said(sql`insert into decisions (books_id, id, kind, step)
      values (${scene.books.id}, gen_random_uuid(), 'excluded', 1)`);
    const refused = expect.stringContaining('another day, amount or account');
    expect(await tie(sql`t.date + 1, t.amount, null, false`)).toEqual(refused);
    expect(await tie(sql`t.date, t.amount + 1, null, false`)).toEqual(refused);
    expect(await tie(sql`t.date, t.amount, t.account_id, false`)).toEqual(refused);
    expect(await tie(sql`t.date, t.amount, null, true`)).toEqual(refused);
    expect(await tie(sql`t.date, t.amount, null, false`)).not.toEqual(refused);
  });
});

describe('what moved by day', () => {
  it('follows a leg that somebody gives another tax code, side or base', async () => {
    await change(sql`update legs set tax_code_id = (select id from tax_codes where name = '5 %' and books_id = ${scene.books.id})
      where tax_side is not null`);
    await change(sql`update legs set taxable = taxable + 1 where taxable is not null`);
    await change(sql`update legs set tax_side = 'output' where tax_side is not null`);
    expect(await wrong()).toEqual([]);
  });
});
