import { AccountUse, BooksSetup, PayeeUse, Preferences } from '@zubrell/contract/books';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BankAccountId, BooksId, PayeeId, UserId } from '@zubrell/core/ids';
import { controlRoles, roleNames } from '@zubrell/core/ledger/accountRoles';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { ratesOf } from './taxRates.ts';

const CurrencyRow = z.object({ currency: z.string() });

/** The currency of the books. */
export async function booksCurrency(tx: Tx, booksId: BooksId): Promise<string> {
  const [row] = await rowsOf(
    tx,
    CurrencyRow,
    sql`select currency from books where id = ${booksId}`,
  );
  return row?.currency ?? fail('BOOKS_UNKNOWN');
}

const LastStepRow = z.object({ lastStep: z.number() });

/** The number of the newest step of the books. */
export async function lastStepOf(tx: Tx, booksId: BooksId): Promise<number> {
  const [row] = await rowsOf(
    tx,
    LastStepRow,
    sql`select last_step as "lastStep" from books where id = ${booksId}`,
  );
  return row?.lastStep ?? fail('BOOKS_UNKNOWN');
}

const RateRow = z.object({ rate: z.number() });

/** All rates of tax above zero that the books know, in hundredths of a percent. */
export async function taxRatesOf(tx: Tx, booksId: BooksId): Promise<readonly number[]> {
  const rows = await rowsOf(
    tx,
    RateRow,
    sql`select distinct rate from tax_rates where books_id = ${booksId} and rate > 0`,
  );
  return rows.map(({ rate }) => rate);
}

/** Gives the ledger account of a bank account; null where that is not in the books. */
export type BankLedger = (bankAccountId: BankAccountId) => string | null;

const BankLedgersRow = z.object({ id: z.string(), accountId: idRow<AccountId>() });

/** The ledger accounts of the bank accounts of the books. */
export async function bankLedgers(tx: Tx, booksId: BooksId): Promise<BankLedger> {
  const rows = await rowsOf(
    tx,
    BankLedgersRow,
    sql`select id, account_id as "accountId" from bank_accounts where books_id = ${booksId}`,
  );
  const ledgers = new Map(rows.map(({ id, accountId }) => [id, accountId]));
  return (id) => ledgers.get(id) ?? null;
}

const ControlAccountsRow = z.object({ id: z.string(), role: z.enum(controlRoles) });

/**
 * The accounts for what customers owe and what suppliers are owed.
 *
 * @throws {ZubrellError} ACCOUNT_ROLE_MISSING
 */
export async function controlAccounts(
  tx: Tx,
  booksId: BooksId,
): Promise<{ readonly receivables: string; readonly payables: string }> {
  const rows = await rowsOf(
    tx,
    ControlAccountsRow,
    sql`select id, role from accounts
        where books_id = ${booksId} and is_here and role in ('receivables', 'payables')`,
  );
  const of = (wanted: 'receivables' | 'payables') =>
    rows.find(({ role }) => role === wanted)?.id ??
    fail('ACCOUNT_ROLE_MISSING', { what: roleNames[wanted] });
  return { receivables: of('receivables'), payables: of('payables') };
}

const CapitalRow = z.object({
  /** The owner; null for the account that the books have for all. */
  id: idRow<PayeeId>().nullable(),
  accountId: idRow<AccountId>().nullable(),
});

/**
 * Where money goes that an owner puts in: the owner's own account, else the one that the books have for all.
 *
 * @returns null for somebody who is no owner
 * @throws {ZubrellError} ACCOUNT_ROLE_MISSING where there is neither
 */
export async function capitalAccounts(
  tx: Tx,
  booksId: BooksId,
): Promise<(ownerId: PayeeId | null) => AccountId | null> {
  const rows = await rowsOf(
    tx,
    CapitalRow,
    sql`select p.id, coalesce(p.capital_account_id, a.id) as "accountId"
        from payees p left join accounts a
          on a.books_id = p.books_id and a.role = 'capital' and a.is_here
        where p.books_id = ${booksId} and p.kind = 'owner' and p.is_here
        union all
        select null, (
          select id from accounts where books_id = ${booksId} and role = 'capital' and is_here)`,
  );
  return (ownerId) => {
    const owner = rows.find(({ id }) => id === ownerId);
    if (!owner) return null;
    return owner.accountId ?? fail('ACCOUNT_ROLE_MISSING', { what: roleNames.capital });
  };
}

/** What a command on one bank account has to know of it. */
export const BankAccountState = z.object({
  name: z.string(),
  /** The ledger account that it stands for. */
  accountId: idRow<AccountId>(),
  /** ISO 4217. */
  currency: z.string(),
  /** The last day that is closed for it, by a reconciliation or by the lock date. */
  closed: z.string().nullable(),
});
export type BankAccountState = z.infer<typeof BankAccountState>;

/**
 * A bank account of the books.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN
 */
export async function bankAccountOf(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
): Promise<BankAccountState> {
  const [account] = await rowsOf(
    tx,
    BankAccountState,
    sql`select b.name, b.account_id as "accountId", coalesce(b.currency, k.currency) as currency,
          greatest(b.closed_to, k.lock_date) as closed
        from bank_accounts b join books k on k.id = b.books_id
        where b.books_id = ${booksId} and b.id = ${bankAccountId} and b.is_here`,
  );
  return account ?? fail('BANK_ACCOUNT_UNKNOWN');
}

const BookRow = BooksSetup.shape.books;

const AccountRow = BooksSetup.shape.accounts.element;

const TaxCodeRow = BooksSetup.shape.taxCodes.element;

const PayeeRow = BooksSetup.shape.payees.element;

const CostObjectRow = BooksSetup.shape.costObjects.element;

const BankAccountRow = BooksSetup.shape.bankAccounts.element;

/** All that the screens need to know of books to name things. */
export async function booksSetup(tx: Tx, booksId: BooksId, userId: UserId): Promise<BooksSetup> {
  const booksThere = rowsOf(
    tx,
    BookRow,
    sql`select k.id, k.name, k.currency, k.address, k.tax_number as "taxNumber", k.country, m.role, k.lock_date as "lockDate",
          k.asset_threshold as "assetThreshold", k.demands, k.year_begins as "yearBegins", k.accounts_made_by as "accountsMadeBy",
          k.is_archived as "isArchived", k.uses_other_books as "usesOtherBooks", k.leaves, k.ages,
          k.receipt_from as "receiptFrom",
          (select max(r.to_date) from tax_returns r where r.books_id = k.id and r.is_here)
            as "taxReportedTo",
          m.preferences,
          (select json_agg(u.name order by u.name) from memberships o
            join users u on u.id = o.user_id
            where o.books_id = k.id and o.role = 'owner') as owners
        from books k join memberships m on m.books_id = k.id and m.user_id = ${userId}
        where k.id = ${booksId}`,
  );
  const accountsThere = rowsOf(
    tx,
    AccountRow,
    sql`select id, code, name, type, parent_id as "parentId", role, tax, purpose,
          is_on as "isOn", merged_into as "mergedInto"
        from accounts where books_id = ${booksId} and is_here order by code`,
  );
  const taxCodesThere = rowsOf(
    tx,
    TaxCodeRow,
    sql`select t.id, t.name, t.kind, t.use, t.is_on as "isOn", ${ratesOf} as rates, t.boxes,
          t.input_account_id as "inputAccountId", t.output_account_id as "outputAccountId",
          t.recoverable
        from tax_codes t
        where t.books_id = ${booksId} and t.is_here order by t.position, t.name`,
  );
  const payeesThere = rowsOf(
    tx,
    PayeeRow,
    sql`select id, name, kind, address, tax_number as "taxNumber", country, terms_days as "termsDays",
          account_id as "accountId", capital_account_id as "capitalAccountId", is_on as "isOn",
          merged_into as "mergedInto"
        from payees where books_id = ${booksId} and is_here order by lower(name)`,
  );
  const costObjectsThere = rowsOf(
    tx,
    CostObjectRow,
    sql`select id, kind, name, is_on as "isOn" from cost_objects
        where books_id = ${booksId} and is_here order by lower(name)`,
  );
  const bankAccountsThere = rowsOf(
    tx,
    BankAccountRow,
    sql`select b.id, b.name, b.kind, b.bank, b.number, coalesce(b.currency, k.currency) as currency,
          b.account_id as "accountId",
          b.cycle, b.holder_names as "holderNames", b.closed_to as "closedTo", span.first as "firstDate", span.last as "lastDate",
          (select json_build_object('date', e.date, 'amount', g.own, 'clients', (
             select coalesce(json_agg(json_build_object('clientId', s.client_id,
               'amount', s.amount) order by s.amount desc, s.client_id), '[]')
             from client_shares s where s.books_id = g.books_id and s.leg_id = g.id))
           from entries e join legs g on g.books_id = e.books_id and g.entry_id = e.id
             and g.role = 'bank'
           where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void) as opening
        from bank_accounts b
        join books k on k.id = b.books_id
        cross join lateral (
          select min(l.date) as first, max(l.date) as last from lines l
          where l.books_id = b.books_id and l.bank_account_id = b.id and l.is_here) span
        join accounts a on a.books_id = b.books_id and a.id = b.account_id
        where b.books_id = ${booksId} and b.is_here order by a.code`,
  );
  const [[books], accounts, taxCodes, payees, costObjects, bankAccounts] = await together(
    booksThere,
    accountsThere,
    taxCodesThere,
    payeesThere,
    costObjectsThere,
    bankAccountsThere,
  );
  if (!books) fail('BOOKS_UNKNOWN');
  return {
    books: { ...books, preferences: Preferences.parse(books.preferences) },
    accounts,
    taxCodes,
    payees,
    costObjects,
    bankAccounts,
  };
}

/** What was posted to each payee, and to which account most. */
export async function payeeUses(tx: Tx, booksId: BooksId): Promise<PayeeUse[]> {
  return rowsOf(
    tx,
    PayeeUse,
    sql`with used as (
          select coalesce(p.merged_into, p.id) as payee_id, e.date, e.step,
            coalesce(a.merged_into, g.account_id) as account_id,
            g.tax_code_id
          from entries e
          join payees p on p.books_id = e.books_id and p.id = e.payee_id
          cross join lateral (
            select g.account_id, g.tax_code_id from legs g
            where g.books_id = e.books_id and g.entry_id = e.id and g.role = 'base'
            order by g.position limit 1) g
          join accounts a on a.books_id = e.books_id and a.id = g.account_id
          where e.books_id = ${booksId} and not e.is_void),
        by_payee as (
          select payee_id, count(*)::int as entries, max(date) as last_date,
            mode() within group (order by account_id) as account_id
          from used group by 1)
        select y.payee_id as "payeeId", y.entries as "entryCount", y.account_id as "usualAccountId",
          y.last_date as "lastDate",
          (select u.tax_code_id from used u
            where u.payee_id = y.payee_id and u.account_id = y.account_id
            order by u.step desc limit 1) as "usualTaxCodeId"
        from by_payee y`,
  );
}

/** How often each account was coded to, by entries in force. */
export async function accountUses(tx: Tx, booksId: BooksId): Promise<AccountUse[]> {
  return rowsOf(
    tx,
    AccountUse,
    sql`select coalesce(a.merged_into, a.id) as "accountId", count(*)::int as times,
          (array_agg(g.tax_code_id order by e.step desc))[1] as "lastTaxCodeId"
        from legs g join entries e on e.books_id = g.books_id and e.id = g.entry_id
        join accounts a on a.books_id = g.books_id and a.id = g.account_id
        where g.books_id = ${booksId} and g.role = 'base' and not e.is_void
        group by 1`,
  );
}
