import type { Scope } from '@zubrell/contract/desk';
import type { AccountId, BankAccountId, BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { lastBankDay } from './bankDays.ts';

const ProofAccount = z.object({
  id: idRow<BankAccountId>(),
  accountId: idRow<AccountId>(),
  currency: z.string(),
  openingDate: z.string().nullable(),
  opening: z.int(),
  /** The last day that is looked at; null where there is none. */
  day: z.string().nullable(),
});
export type ProofAccount = z.infer<typeof ProofAccount>;

/**
 * The bank accounts of a scope, in the order of the Board, each with its opening balance and the last day of the scope,
 * or its own.
 */
export function proofAccounts(tx: Tx, booksId: BooksId, scope: Scope): Promise<ProofAccount[]> {
  const chosen = scope.bankAccountId
    ? sql`b.id = any(${sql.param(scope.bankAccountId)}::uuid[])`
    : sql`true`;
  return rowsOf(
    tx,
    ProofAccount,
    sql`select b.id, b.account_id as "accountId", coalesce(b.currency, k.currency) as currency,
          o.date as "openingDate", coalesce(o.amount, 0) as opening,
          coalesce(${scope.to ?? null}::date, greatest(
            ${lastBankDay},
            (select max(t.closing_date) from batches t
              where t.books_id = b.books_id and t.bank_account_id = b.id and t.status = 'kept'),
            o.date)) as day
        from bank_accounts b
        join books k on k.id = b.books_id
        left join lateral (
          select e.date, g.own as amount from entries e
          join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.account_id = b.account_id
          where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void) o on true
        where b.books_id = ${booksId} and b.is_here and ${chosen}
        order by b.kind <> 'current', b.name, b.id`,
  );
}

/**
 * Them as a table of a query. They are asked for once and given to it, as a planner that has to guess how many they are
 * reads all lines to join them.
 */
export function accountTable(accounts: readonly ProofAccount[]): SQL {
  const column = (of: (account: ProofAccount) => unknown) => sql.param(accounts.map(of));
  return sql`unnest(${column(({ id }) => id)}::uuid[], ${column(({ accountId }) => accountId)}::uuid[],
      ${column(({ currency }) => currency)}::text[], ${column(({ openingDate }) => openingDate)}::date[],
      ${column(({ opening }) => opening)}::bigint[], ${column(({ day }) => day)}::date[])
    as a (id, account_id, currency, opening_date, opening, day)`;
}
