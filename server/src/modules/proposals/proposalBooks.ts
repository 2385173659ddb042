import { AccountType, Demands } from '@zubrell/contract/books';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { accountRoles } from '@zubrell/core/ledger/accountRoles';
import { accountTaxes, type PayeeKind, payeeKinds, taxUses } from '@zubrell/core/ledger/kinds';
import { fitsTax, type TaxedAccount } from '@zubrell/core/ledger/taxSide';
import type { ProposalBooks } from '@zubrell/core/propose/proposeFor';
import { accountForTrade, type NamedAccount } from '@zubrell/core/propose/starter/trades';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { clientMoneyOf } from '../books/clientMoney.ts';
import { bankLedgers } from '../books/queries.ts';
import { dismissedNudges } from './dismissedNudges.ts';

const BookRow = z.object({ assetThreshold: z.number().nullable(), demands: Demands });

const AccountRow = z.object({
  id: z.string(),
  type: AccountType,
  name: z.string(),
  purpose: z.string(),
  role: z.enum(accountRoles).nullable(),
  tax: z.enum(accountTaxes),
  isBank: z.boolean(),
  isMerged: z.boolean(),
}) satisfies z.ZodType<NamedAccount & TaxedAccount>;

const TaxCodeRow = z.object({ id: z.string(), use: z.enum(taxUses) });

const PayeeRow = z.object({
  id: z.string(),
  kind: z.enum(payeeKinds),
  accountId: idRow<AccountId>().nullable(),
});

/** What proposals depend on, of these books, but for what habits shift. */
export async function proposalBooks(
  tx: Tx,
  booksId: BooksId,
): Promise<Omit<ProposalBooks, 'shift'>> {
  const booksThere = rowsOf(
    tx,
    BookRow,
    sql`select asset_threshold as "assetThreshold", demands from books where id = ${booksId}`,
  );
  const accountsThere = rowsOf(
    tx,
    AccountRow,
    sql`select a.id, a.type, a.role, a.tax, a.name, a.purpose,
          a.merged_into is not null as "isMerged", exists (
            select from bank_accounts b
            where b.books_id = a.books_id and b.account_id = a.id and b.is_here) as "isBank"
        from accounts a
        left join accounts o on o.books_id = a.books_id and o.id = a.merged_into
        where a.books_id = ${booksId} and a.is_here and coalesce(o.is_on, a.is_on) order by a.code`,
  );
  const taxCodesThere = rowsOf(
    tx,
    TaxCodeRow,
    sql`select id, use from tax_codes where books_id = ${booksId} and is_here and is_on`,
  );
  const payeesThere = rowsOf(
    tx,
    PayeeRow,
    sql`select id, kind, account_id as "accountId" from payees
        where books_id = ${booksId} and is_here
          and (kind = 'customer' or (kind in ('owner', 'relatedBusiness') and account_id is not null))`,
  );
  const [[books], accounts, taxCodes, payees, dismissed, clientMoney, bankLedger] = await together(
    booksThere,
    accountsThere,
    taxCodesThere,
    payeesThere,
    dismissedNudges(tx, booksId),
    clientMoneyOf(tx, booksId),
    bankLedgers(tx, booksId),
  );
  const payeeById = new Map(payees.map((payee) => [payee.id, payee]));
  const ownAccount = (payeeId: string, kind: PayeeKind) => {
    const payee = payeeById.get(payeeId);
    return payee?.kind === kind ? payee.accountId : null;
  };
  const chosen = accounts.filter(({ isMerged }) => !isMerged);
  const byId = new Map(accounts.map((account) => [account.id, account]));
  const uses = new Map(taxCodes.map(({ id, use }) => [id, use]));
  const types = new Map(accounts.map(({ id, type }) => [id, type]));
  const roles = new Map(accounts.map(({ id, role }) => [role, id]));
  const unwanted = new Set(
    dismissed.map(({ nudge, payeeId, stem }) => `${nudge}|${payeeId ?? stem}`),
  );
  return {
    assetThreshold: books?.assetThreshold ?? null,
    demands: books?.demands ?? {},
    bankLedger,
    // Only those that are switched on were read.
    isAccountOn: (id) => types.has(id),
    accountForTrade: remembering((trade) => accountForTrade(trade, chosen)),
    accountOfRole: (role) => roles.get(role) ?? null,
    drawingsOf: (payeeId) => ownAccount(payeeId, 'owner'),
    betweenAccount: (payeeId) => ownAccount(payeeId, 'relatedBusiness'),
    isCustomer: (payeeId) => payeeById.get(payeeId)?.kind === 'customer',
    holdsClients: clientMoney.holdsClients,
    accountType: (id) => types.get(id) ?? null,
    fitsTax: (id, taxCodeId) => {
      const account = byId.get(id);
      const use = uses.get(taxCodeId);
      return account !== undefined && use !== undefined && fitsTax(account, use);
    },
    isDismissed: (nudge, payeeId, stem) =>
      unwanted.has(`${nudge}|${stem}`) || (payeeId !== null && unwanted.has(`${nudge}|${payeeId}`)),
  };
}

/** A function that works out each answer once. */
function remembering<Key, Answer>(work: (key: Key) => Answer): (key: Key) => Answer {
  const answers = new Map<Key, Answer>();
  return (key) => {
    const known = answers.get(key);
    if (known !== undefined) return known;
    const answer = work(key);
    answers.set(key, answer);
    return answer;
  };
}
