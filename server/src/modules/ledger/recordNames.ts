import type { AccountId, BooksId, PayeeId, TaxCodeId } from '@zubrell/core/ids';
import { plainWording } from '@zubrell/core/text/plainWording';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

const Named = z.object({ id: z.string(), name: z.string(), code: z.string().optional() });
type Named = z.infer<typeof Named>;

/** Finds things of the books by what a file calls them, by name or code; null where nothing is called so. */
export interface RecordNames {
  readonly payee: (name: string) => string | null;
  readonly account: (name: string) => string | null;
  readonly taxCode: (name: string) => string | null;
  readonly bankAccount: (name: string) => string | null;
  /** The account that most of a payee's entries went to, with its tax code. */
  readonly usual: (
    payeeId: PayeeId,
  ) => { readonly accountId: AccountId; readonly taxCodeId: TaxCodeId | null } | null;
}

const UsualRow = z.object({
  payeeId: idRow<PayeeId>(),
  accountId: idRow<AccountId>(),
  taxCodeId: idRow<TaxCodeId>().nullable(),
});

/** The names of the books for {@link RecordNames}. */
export async function recordNames(tx: Tx, booksId: BooksId): Promise<RecordNames> {
  const payees = await rowsOf(
    tx,
    Named,
    sql`select coalesce(merged_into, id) as id, name from payees where books_id = ${booksId} and is_here`,
  );
  const accounts = await rowsOf(
    tx,
    Named,
    sql`select id, name, code from accounts where books_id = ${booksId} and is_here and is_on`,
  );
  const taxCodes = await rowsOf(
    tx,
    Named,
    sql`select id, name from tax_codes where books_id = ${booksId} and is_here and is_on`,
  );
  const banks = await rowsOf(
    tx,
    Named,
    sql`select id, name from bank_accounts where books_id = ${booksId} and is_here`,
  );
  const usual = await rowsOf(
    tx,
    UsualRow,
    sql`select distinct on (1) coalesce(y.merged_into, y.id) as "payeeId",
          coalesce(a.merged_into, a.id) as "accountId",
          g.tax_code_id as "taxCodeId"
        from entries e join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.role = 'base'
        join accounts a on a.books_id = g.books_id and a.id = g.account_id
        join payees y on y.books_id = e.books_id and y.id = e.payee_id
        where e.books_id = ${booksId} and not e.is_void
        group by 1, 2, 3 order by 1, count(*) desc`,
  );
  const usualOf = new Map(usual.map((each) => [each.payeeId, each]));
  return {
    payee: finder(payees),
    account: finder(accounts),
    taxCode: finder(taxCodes),
    bankAccount: finder(banks),
    usual: (payeeId) => usualOf.get(payeeId) ?? null,
  };
}

function finder(all: readonly Named[]): (name: string) => string | null {
  const ids = new Map(
    all.flatMap(({ id, name, code }) =>
      [name, ...(code ? [code, `${code} ${name}`] : [])].map((key) => [keyOf(key), id] as const),
    ),
  );
  return (name) => ids.get(keyOf(name)) ?? null;
}

/** Percent signs tell tax codes apart from bare numbers; all else is compared as wordings are. */
const keyOf = (name: string) => plainWording(name.replace(/\s*%/g, ' percent'));
