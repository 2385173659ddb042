import { AccountType, Demands, TaxCode } from '@zubrell/contract/books';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import type { LegLookups, TaxInForce } from '@zubrell/core/ledger/buildLegs';
import type { Coding } from '@zubrell/core/ledger/coding';
import { demandedWords, missingFields } from '@zubrell/core/ledger/demands';
import { accountRoles, isControlRole } from '@zubrell/core/ledger/starterBooks';
import { taxSide } from '@zubrell/core/ledger/taxSide';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow, NamedRow } from '../../db/rows.ts';

const AccountRow = z.object({
  id: z.string(),
  name: z.string(),
  type: AccountType,
  role: z.enum(accountRoles).nullable(),
  isOn: z.boolean(),
  isBank: z.boolean(),
});
type AccountRow = z.infer<typeof AccountRow>;

const RateRow = z.object({
  id: z.string(),
  name: z.string(),
  kind: TaxCode.shape.kind,
  inputAccountId: idRow<AccountId>().nullable(),
  outputAccountId: idRow<AccountId>().nullable(),
  recoverable: z.int(),
  fromDate: z.string(),
  rate: z.int(),
});

/** What posting needs to know of the books, loaded once for many lines. */
export interface BooksLookups {
  /**
   * Whether what a coding names can be posted to.
   *
   * @throws {ZubrellError} where it names what is not there, switched off, or kept by documents and payments
   */
  checkNames(coding: Coding): void;
  /**
   * Whether a line, an entry or a document can be coded so.
   *
   * @throws {ZubrellError} those of `checkNames`, ACCOUNT_IS_BANK, CODING_INCOMPLETE
   */
  checkCoding(coding: Coding): void;
  /** Lookups for a line's date. */
  on(date: string): LegLookups;
  readonly accountName: (id: string) => string;
  readonly payeeName: (id: string) => string;
}

const DemandsRow = z.object({ demands: Demands });

const ObjectRow = z.object({ id: z.string(), kind: z.string() });

/** Loads what codings refer to. */
export async function loadLookups(
  tx: Tx,
  booksId: BooksId,
  codings: readonly Coding[],
): Promise<BooksLookups> {
  const parts = codings.flatMap((coding) => coding.parts);
  const accountIds = [...new Set(parts.map((part) => part.accountId))];
  const taxCodeIds = [...new Set(parts.flatMap((part) => part.taxCodeId ?? []))];
  const payeeIds = [...new Set(codings.flatMap((coding) => coding.payeeId ?? []))];
  const accounts = await rowsOf(
    tx,
    AccountRow,
    sql`select a.id, a.code || ' ' || a.name as name, a.type, a.role, a.is_on as "isOn",
          exists (select from bank_accounts b
            where b.books_id = a.books_id and b.account_id = a.id and b.is_here) as "isBank"
        from accounts a
        where a.books_id = ${booksId} and a.is_here
          and a.id = any(${sql.param(accountIds)}::uuid[])`,
  );
  const rates = await rowsOf(
    tx,
    RateRow,
    sql`select t.id, t.name, t.kind, t.input_account_id as "inputAccountId",
          t.output_account_id as "outputAccountId", t.recoverable, r.rate,
          r.from_date as "fromDate"
        from tax_codes t
        join tax_rates r on r.books_id = t.books_id and r.tax_code_id = t.id
        where t.books_id = ${booksId} and t.id = any(${sql.param(taxCodeIds)}::uuid[])
        order by r.from_date desc`,
  );
  const payees = await rowsOf(
    tx,
    NamedRow,
    sql`select id, name from payees where books_id = ${booksId} and is_here
          and id = any(${sql.param(payeeIds)}::uuid[])`,
  );
  const [books] = await rowsOf(
    tx,
    DemandsRow,
    sql`select demands from books where id = ${booksId}`,
  );
  const demands = books?.demands ?? {};
  const accountById = new Map(accounts.map((each) => [each.id, each]));
  const payeeById = new Map(payees.map((each) => [each.id, each]));
  const objects = await rowsOf(
    tx,
    ObjectRow,
    sql`select id, kind from cost_objects where books_id = ${booksId} and is_here`,
  );
  const hasObject = (kind: string, wanted: string | null | undefined): boolean =>
    !wanted || objects.some((each) => each.kind === kind && each.id === wanted);
  const account = (id: string): AccountRow => accountById.get(id) ?? fail('ACCOUNT_UNKNOWN');

  function taxOn(date: string, id: string): TaxInForce {
    const ofCode = rates.filter((rate) => rate.id === id);
    const [newest] = ofCode;
    if (!newest) fail('TAX_CODE_UNKNOWN');
    return (
      ofCode.find((rate) => rate.fromDate <= date) ??
      fail('TAX_RATE_MISSING', { name: newest.name, date })
    );
  }

  function checkNames({ parts: own, payeeId }: Coding): void {
    for (const { accountId, costCentreId, jobId } of own) {
      if (!hasObject('costCentre', costCentreId) || !hasObject('job', jobId)) {
        fail('COST_OBJECT_UNKNOWN');
      }
      const { name, isOn, role } = account(accountId);
      if (!isOn) fail('ACCOUNT_OFF', { name });
      if (isControlRole(role)) fail('ACCOUNT_CONTROL', { name });
    }
    if (payeeId !== null && !payeeById.has(payeeId)) fail('PAYEE_UNKNOWN');
  }

  return {
    checkNames,
    checkCoding: (coding) => {
      checkNames(coding);
      const bank = coding.parts
        .map(({ accountId }) => account(accountId))
        .find((each) => each.isBank);
      if (bank && coding.parts.length > 1) fail('ACCOUNT_IS_BANK', { name: bank.name });
      const missing = missingFields(demands, coding, (id) => account(id).type);
      if (missing.length > 0) fail('CODING_INCOMPLETE', { what: demandedWords(missing) });
    },
    on: (date) => ({
      taxSide: (id) => taxSide(account(id)),
      accountName: (id) => account(id).name,
      tax: (id) => taxOn(date, id),
      isBank: (id) => account(id).isBank,
    }),
    accountName: (id) => account(id).name,
    payeeName: (id) => payeeById.get(id)?.name ?? fail('PAYEE_UNKNOWN'),
  };
}
