import { AccountType } from '@zubrell/contract/books';
import type { BooksId } from '@zubrell/core/ids';
import { accountRoles } from '@zubrell/core/ledger/accountRoles';
import { accountTaxes } from '@zubrell/core/ledger/kinds';
import type { TaxedAccount } from '@zubrell/core/ledger/taxSide';
import type { RuleBooks } from '@zubrell/core/propose/rule/checkRule';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

const AccountRow = z.object({
  id: z.string(),
  name: z.string(),
  type: AccountType,
  role: z.enum(accountRoles).nullable(),
  tax: z.enum(accountTaxes),
  isBank: z.boolean(),
}) satisfies z.ZodType<TaxedAccount>;

const RuleBooksRow = z.object({ kind: z.string(), id: z.string(), name: z.string() });

/** What of these books rules may name. */
export async function ruleBooks(tx: Tx, booksId: BooksId): Promise<RuleBooks> {
  const accounts = await rowsOf(
    tx,
    AccountRow,
    sql`select a.id, a.code || ' ' || a.name as name, a.type, a.role, a.tax, exists (
            select from bank_accounts b
            where b.books_id = a.books_id and b.account_id = a.id and b.is_here) as "isBank"
        from accounts a where a.books_id = ${booksId} and a.is_here`,
  );
  const rows = await rowsOf(
    tx,
    RuleBooksRow,
    sql`select 'payee' as kind, id, '' as name from payees where books_id = ${booksId} and is_here
        union all select 'taxCode', id, name from tax_codes where books_id = ${booksId} and is_here
        union all select 'costObject', id, '' from cost_objects where books_id = ${booksId} and is_here
        union all select 'bankAccount', id, name from bank_accounts where books_id = ${booksId} and is_here`,
  );
  const byId = new Map(accounts.map((account) => [account.id, account]));
  const names = new Map(rows.map(({ kind, id, name }) => [`${kind} ${id}`, name]));
  return {
    account: (id) => byId.get(id) ?? null,
    hasPayee: (id) => names.has(`payee ${id}`),
    taxCodeName: (id) => names.get(`taxCode ${id}`) ?? null,
    hasCostObject: (id) => names.has(`costObject ${id}`),
    bankAccountName: (id) => names.get(`bankAccount ${id}`) ?? null,
  };
}
