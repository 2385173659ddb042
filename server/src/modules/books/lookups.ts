import { AccountType, Demands, PayeeKind, TaxCode, TaxRate } from '@zubrell/contract/books';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { accountRoles, isControlRole } from '@zubrell/core/ledger/accountRoles';
import type { LegLookups, TaxInForce } from '@zubrell/core/ledger/buildLegs';
import { lacksClient } from '@zubrell/core/ledger/clientMoney';
import type { Coding } from '@zubrell/core/ledger/coding';
import { demandedWords, missingFields } from '@zubrell/core/ledger/demands';
import { accountTaxes } from '@zubrell/core/ledger/kinds';
import { taxSide } from '@zubrell/core/ledger/taxSide';
import { rateOn } from '@zubrell/core/tax/rateOn';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { clientMoneyOf } from './clientMoney.ts';
import { ratesOf } from './taxRates.ts';

const AccountRow = z.object({
  id: z.string(),
  /** Itself, or the account that it was put together with. */
  shownId: z.string(),
  name: z.string(),
  type: AccountType,
  role: z.enum(accountRoles).nullable(),
  tax: z.enum(accountTaxes),
  isOn: z.boolean(),
  isBank: z.boolean(),
});
type AccountRow = z.infer<typeof AccountRow>;

const TaxCodeRow = z.object({
  id: z.string(),
  name: z.string(),
  kind: TaxCode.shape.kind,
  use: TaxCode.shape.use,
  isOn: z.boolean(),
  inputAccountId: idRow<AccountId>().nullable(),
  outputAccountId: idRow<AccountId>().nullable(),
  recoverable: z.int(),
  rates: z.array(TaxRate),
});

/** What posting needs to know of the books, loaded once for many lines. */
export interface BooksLookups {
  /**
   * Whether what a coding names can be posted to.
   *
   * @throws {ZubrellError} where it names what is not there, switched off, or kept by documents and payments, or
   * posts what is between two businesses anywhere else: RELATED_ACCOUNT, RELATED_ACCOUNT_MISSING
   */
  checkNames(coding: Coding): void;
  /**
   * Whether a line, an entry or a document can be coded so.
   *
   * @param ownAccountId the ledger account of the bank account that money moves on; left out where it is none
   * @throws {ZubrellError} those of `checkNames`, ACCOUNT_IS_BANK, CODING_INCOMPLETE, CLIENT_MISSING
   */
  checkCoding(coding: Coding, ownAccountId?: AccountId): void;
  /** Lookups for a line's date. */
  on(date: string): LegLookups;
  readonly accountName: (id: string) => string;
  readonly payeeName: (id: string) => string;
}

const BooksRow = z.object({
  demands: Demands,
  /** Cost centres and jobs. */
  objects: z.array(z.object({ id: z.string(), kind: z.string() })),
});

const PayeeRow = z.object({
  id: z.string(),
  name: z.string(),
  kind: PayeeKind,
  /** The account between the books and another business of the owner, as it is shown. */
  between: z.object({ id: z.string(), name: z.string() }).nullable(),
});

/** Rows of what is named; nothing is asked where nothing is. */
const namedRows = async <Row extends z.ZodType>(
  tx: Tx,
  row: Row,
  ids: readonly string[],
  query: SQL,
): Promise<z.output<Row>[]> => (ids.length === 0 ? [] : rowsOf(tx, row, query));

/** Loads what codings refer to. */
export async function loadLookups(
  tx: Tx,
  booksId: BooksId,
  codings: readonly Coding[],
): Promise<BooksLookups> {
  const parts = codings.flatMap((coding) => coding.parts);
  const accountIds = [...new Set(parts.map((part) => part.accountId))];
  const taxCodeIds = [...new Set(parts.flatMap((part) => part.taxCodeId ?? []))];
  const payeeIds = [
    ...new Set([
      ...codings.flatMap((coding) => coding.payeeId ?? []),
      ...parts.flatMap(({ clientId }) => clientId ?? []),
    ]),
  ];
  const accountsThere = rowsOf(
    tx,
    AccountRow,
    sql`select a.id, coalesce(a.merged_into, a.id) as "shownId",
          a.code || ' ' || a.name as name, a.type, a.role, a.tax,
          coalesce(o.is_on, a.is_on) as "isOn",
          exists (select from bank_accounts b
            where b.books_id = a.books_id and b.account_id = a.id and b.is_here) as "isBank"
        from accounts a
        left join accounts o on o.books_id = a.books_id and o.id = a.merged_into
        where a.books_id = ${booksId} and a.is_here
          and a.id = any(${sql.param(accountIds)}::uuid[])`,
  );
  const taxCodesThere = namedRows(
    tx,
    TaxCodeRow,
    taxCodeIds,
    sql`select t.id, t.name, t.kind, t.use, t.is_on as "isOn",
          t.input_account_id as "inputAccountId", t.output_account_id as "outputAccountId",
          t.recoverable, ${ratesOf} as rates
        from tax_codes t
        where t.books_id = ${booksId} and t.is_here and t.id = any(${sql.param(taxCodeIds)}::uuid[])`,
  );
  const payeesThere = namedRows(
    tx,
    PayeeRow,
    payeeIds,
    sql`select p.id, p.name, p.kind, case when a.id is not null then
            json_build_object('id', a.id, 'name', a.code || ' ' || a.name) end as between
        from payees p
        left join accounts own on own.books_id = p.books_id and own.id = p.account_id
          and p.kind = 'relatedBusiness'
        left join accounts a on a.books_id = p.books_id and a.id = coalesce(own.merged_into, own.id)
        where p.books_id = ${booksId} and p.is_here
          and p.id = any(${sql.param(payeeIds)}::uuid[])`,
  );
  const booksThere = rowsOf(
    tx,
    BooksRow,
    sql`select demands, array(
            select json_build_object('id', id, 'kind', kind) from cost_objects
            where books_id = ${booksId} and is_here) as objects
        from books where id = ${booksId}`,
  );
  const [accounts, taxCodes, payees, [books], clientMoney] = await together(
    accountsThere,
    taxCodesThere,
    payeesThere,
    booksThere,
    clientMoneyOf(tx, booksId),
  );
  const { demands, objects } = books ?? fail('BOOKS_UNKNOWN');
  const accountById = new Map(accounts.map((each) => [each.id, each]));
  const payeeById = new Map(payees.map((each) => [each.id, each]));
  const hasObject = (kind: string, wanted: string | null | undefined): boolean =>
    !wanted || objects.some((each) => each.kind === kind && each.id === wanted);
  const taxCode = (id: string) =>
    taxCodes.find((code) => code.id === id) ?? fail('TAX_CODE_UNKNOWN');
  const account = (id: string): AccountRow => accountById.get(id) ?? fail('ACCOUNT_UNKNOWN');

  function taxOn(date: string, id: string): TaxInForce {
    const { isOn: _, rates, ...code } = taxCode(id);
    const rate =
      rateOn(rates, date) ??
      fail('TAX_RATE_MISSING', { name: code.name, date: formatLongDate(date) });
    return { ...code, rate };
  }

  function checkNames({ parts: own, payeeId }: Coding): void {
    for (const { accountId, taxCodeId, costCentreId, jobId } of own) {
      if (taxCodeId !== null && !taxCode(taxCodeId).isOn) {
        fail('TAX_CODE_OFF', { name: taxCode(taxCodeId).name });
      }
      if (!hasObject('costCentre', costCentreId) || !hasObject('job', jobId)) {
        fail('COST_OBJECT_UNKNOWN');
      }
      const { name, isOn, role } = account(accountId);
      if (!isOn) fail('ACCOUNT_OFF', { name });
      if (isControlRole(role)) fail('ACCOUNT_CONTROL', { name });
    }
    for (const id of [payeeId, ...own.map(({ clientId }) => clientId)]) {
      if (id && !payeeById.has(id)) fail('PAYEE_UNKNOWN');
    }
    checkBetween({ parts: own, payeeId }, ({ type }) => type === 'income' || type === 'expense');
  }

  /** Between two businesses of one owner nothing is income or a cost: what moves is on one account. */
  function checkBetween(
    { parts: own, payeeId }: Pick<Coding, 'parts' | 'payeeId'>,
    isWrong: (account: AccountRow) => boolean,
  ): void {
    const payee = payeeId === null ? undefined : payeeById.get(payeeId);
    if (payee?.kind !== 'relatedBusiness') return;
    const { name, between } = payee;
    for (const { accountId } of own) {
      const there = account(accountId);
      if (there.shownId === between?.id || !isWrong(there)) continue;
      if (between === null) fail('RELATED_ACCOUNT_MISSING', { payee: name });
      fail('RELATED_ACCOUNT', { payee: name, account: between.name, other: there.name });
    }
  }

  return {
    checkNames,
    checkCoding: (coding, ownAccountId) => {
      checkNames(coding);
      checkBetween(coding, ({ isBank }) => !isBank);
      const bank = coding.parts
        .map(({ accountId }) => account(accountId))
        .find((each) => each.isBank);
      if (bank && coding.parts.length > 1) fail('ACCOUNT_IS_BANK', { name: bank.name });
      const missing = missingFields(demands, coding, (id) => account(id).type);
      if (missing.length > 0) fail('CODING_INCOMPLETE', { what: demandedWords(missing) });
      const books = {
        holdsClients: clientMoney.holdsClients,
        isCustomer: (id: string) => payeeById.get(id)?.kind === 'customer',
      };
      if (!lacksClient(coding, ownAccountId ?? null, books)) return;
      const holders = [ownAccountId, ...coding.parts.map(({ accountId }) => accountId)];
      fail('CLIENT_MISSING', {
        account: clientMoney.nameOf(holders.find((id) => id && books.holdsClients(id)) ?? ''),
      });
    },
    on: (date) => ({
      taxSide: (id, use) => taxSide(account(id), use),
      accountName: (id) => account(id).name,
      tax: (id) => taxOn(date, id),
      isBank: (id) => account(id).isBank,
    }),
    accountName: (id) => account(id).name,
    payeeName: (id) => payeeById.get(id)?.name ?? fail('PAYEE_UNKNOWN'),
  };
}
