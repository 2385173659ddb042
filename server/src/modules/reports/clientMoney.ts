import {
  ClientMoney,
  ClientMovement,
  type ClientQuery,
  type ReportPeriod,
} from '@zubrell/contract/reports';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';

const AccountRow = ClientMoney.shape.accounts.element;

/** What each bank account that holds clients' money holds on the last day of a period, and for whom. */
export async function clientMoney(
  tx: Tx,
  booksId: BooksId,
  { from, to }: ReportPeriod,
): Promise<ClientMoney> {
  const accounts = await rowsOf(
    tx,
    AccountRow,
    sql`with moved as (
          select account_id, client_id,
            coalesce(sum(amount) filter (where date < ${from}), 0) as opening,
            coalesce(sum(amount) filter (where date >= ${from} and amount > 0), 0) as came,
            coalesce(sum(amount) filter (where date >= ${from} and amount < 0), 0) as went,
            sum(amount) as closing
          from client_movements where books_id = ${booksId} and date <= ${to}
          group by 1, 2)
        select b.id as "bankAccountId", held.amount::bigint as held,
          (held.amount - coalesce(sum(m.closing), 0))::bigint as unsaid,
          coalesce(json_agg(json_build_object('clientId', m.client_id, 'opening', m.opening,
              'in', m.came, 'out', m.went, 'closing', m.closing) order by lower(p.name), p.id)
            filter (where m.opening <> 0 or m.came <> 0 or m.went <> 0), '[]') as clients
        from bank_accounts b
        join accounts a on a.books_id = b.books_id and a.id = b.account_id
        cross join lateral (
          select coalesce(sum(own), 0) as amount from moved_days
          where books_id = b.books_id and account_id = b.account_id and date <= ${to}) held
        left join moved m on m.account_id = b.account_id
        left join payees p on p.books_id = b.books_id and p.id = m.client_id
        where b.books_id = ${booksId} and b.kind = 'clientMoney' and b.is_here
        group by b.id, a.code, held.amount order by a.code`,
  );
  return { accounts };
}

/** What moved of one client's money on one bank account, in the order of time, with what was left after each. */
export async function clientMovements(
  tx: Tx,
  booksId: BooksId,
  { from, to, bankAccountId, clientId }: z.infer<typeof ClientQuery>,
): Promise<{ movements: ClientMovement[] }> {
  const movements = await rowsOf(
    tx,
    ClientMovement,
    sql`with moved as (
          select m.*, sum(m.amount) over (order by m.date, m.step, m.leg_id, m.turned) as balance
          from client_movements m
          join bank_accounts b on b.books_id = m.books_id and b.account_id = m.account_id
          where m.books_id = ${booksId} and b.id = ${bankAccountId} and m.client_id = ${clientId}
            and m.date <= ${to})
        select m.entry_id as "entryId", m.leg_id as "legId", m.account_id as "accountId", m.date,
          m.payee_id as "payeeId", coalesce(src.description, e.note, '') as text, m.amount,
          m.balance::bigint as balance
        from moved m
        join entries e on e.books_id = m.books_id and e.id = m.entry_id
        left join lateral (${lineBehind(sql`m.books_id`, sql`m.entry_id`)}) src on true
        where m.date >= ${from} order by m.date, m.step, m.leg_id, m.turned`,
  );
  return { movements };
}
