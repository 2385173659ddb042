import { randomUUID } from 'node:crypto';
import type { NameClients, OpeningBalance } from '@zubrell/contract/books';
import { Exchange, type StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BankAccountId, BooksId, EntryId } from '@zubrell/core/ids';
import { type LegRole, legRoles } from '@zubrell/core/ledger/buildLegs';
import type { ClientShare } from '@zubrell/core/ledger/clientMoney';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { sumOf } from '@zubrell/core/money/minor';
import { amountSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { loadMoney } from '../books/money.ts';
import { needs } from '../books/needsOf.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { plainWords, recordDone, type StepItem } from '../steps/recordStep.ts';
import { insertEntries } from './insertEntries.ts';

/** An opening balance: the bank's balance at the end of a day, in the holder's view. */
export interface Opening {
  readonly date: string;
  readonly amount: number;
  /** The exchange rate that somebody gave; else that of the day. */
  readonly rate?: string | null | undefined;
  /** Of clients' money: whose it is, as far as that is known. */
  readonly clients?: readonly ClientShare[] | undefined;
}

const BankAccountRow = z.object({
  name: z.string(),
  accountId: idRow<AccountId>(),
  currency: z.string(),
  firstDate: z.string().nullable(),
  hasOpening: z.boolean(),
  equityId: z.string().nullable(),
});
type BankAccountRow = z.infer<typeof BankAccountRow>;

/**
 * Posts a bank account's opening balance against opening equity. The database allows one in force.
 *
 * @returns the step's item and words
 * @throws {ZubrellError} OPENING_TWICE, OPENING_AFTER_LINES, BANK_ACCOUNT_UNKNOWN, CLIENT_SHARES
 */
export async function insertOpening(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  opening: Opening,
): Promise<{ readonly item: StepItem; readonly words: Said }> {
  const { tx, booksId } = command;
  const account = await lockBankAccount(tx, booksId, bankAccountId);
  if (account.hasOpening) fail('OPENING_TWICE', { name: account.name });
  if (account.firstDate !== null && opening.date >= account.firstDate) {
    fail('OPENING_AFTER_LINES', { date: opening.date, first: account.firstDate });
  }
  checkShares(opening.clients ?? [], opening.amount, account.currency);
  const entryId = randomUUID();
  const leg = (accountId: AccountId, amount: number, role: LegRole) => ({
    accountId,
    amount,
    taxCodeId: null,
    role,
  });
  const day = { currency: account.currency, date: opening.date };
  const money = await loadMoney(tx, booksId, [day]);
  const { legs, exchange } = money.takeIn(
    [
      leg(account.accountId, opening.amount, 'bank'),
      leg(account.equityId ?? fail('ACCOUNT_UNKNOWN'), -opening.amount, 'base'),
    ],
    day,
    opening.rate,
  );
  await insertEntries(command, [
    {
      id: entryId,
      date: opening.date,
      kind: 'opening',
      payeeId: null,
      note: `Opening balance of ${account.name}`,
      openingOf: bankAccountId,
      clients: opening.clients ?? [],
      exchange,
      legs: legs.map((each) => ({ ...each, id: randomUUID() })),
    },
  ]);
  await command.follow.closingChanged(command, bankAccountId);
  return {
    item: entryTurn(entryId, true),
    words: say`opening balance ${amountSaid(opening.amount, account.currency)} of ${account.name}`,
  };
}

/** Posts an opening balance typed by hand. @throws {ZubrellError} OPENING_TWICE and others */
export async function postOpening(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  opening: OpeningBalance,
): Promise<StepDone> {
  const { step } = command;
  const { item, words } = await insertOpening(command, bankAccountId, opening);
  const done = say`Posted the ${words}`;
  await recordDone(command, {
    kind: 'opening',
    words: done,
    items: [item],
    needs: needs('bankAccount', [bankAccountId]),
  });
  return { step, words: plainWords(done) };
}

/** No more is the clients' than there is. @throws {ZubrellError} CLIENT_SHARES */
function checkShares(clients: readonly ClientShare[], opening: number, currency: string): void {
  const shares = sumOf(clients);
  if (shares <= Math.max(opening, 0)) return;
  fail('CLIENT_SHARES', {
    shares: formatAmount(shares, currency),
    opening: formatAmount(opening, currency),
  });
}

const OpeningRow = z.object({
  id: idRow<EntryId>(),
  date: z.string(),
  amount: z.int(),
  exchange: Exchange.nullable(),
  legs: z.array(
    z.object({
      accountId: idRow<AccountId>(),
      amount: z.int(),
      original: z.int().nullable(),
      role: z.enum(legRoles),
    }),
  ),
});

/**
 * Says whose money an opening balance is: another takes its place, of the same amount, in one step.
 *
 * @throws {ZubrellError} OPENING_MISSING, CLIENT_SHARES, CLIENT_BELOW_ZERO, PERIOD_CLOSED, BANK_ACCOUNT_UNKNOWN
 */
export async function nameClients(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  { clients }: NameClients,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const { name, accountId, currency } = await lockBankAccount(tx, booksId, bankAccountId);
  const [opening] = await rowsOf(
    tx,
    OpeningRow,
    sql`select e.id, e.date, e.exchange,
          (select g.own from legs g where g.books_id = e.books_id and g.entry_id = e.id
            and g.account_id = ${accountId}) as amount,
          (select json_agg(json_build_object('accountId', g.account_id, 'amount', g.amount,
              'original', g.original, 'role', g.role) order by g.position)
            from legs g where g.books_id = e.books_id and g.entry_id = e.id) as legs
        from entries e
        where e.books_id = ${booksId} and e.opening_of = ${bankAccountId} and not e.is_void`,
  );
  if (!opening) fail('OPENING_MISSING', { name });
  checkShares(clients, opening.amount, currency);
  const gone = entryTurn(opening.id, false);
  await putItems(command, [gone]);
  const { id: _, amount: __, legs, ...kept } = opening;
  const id = randomUUID();
  await insertEntries(command, [
    {
      ...kept,
      id,
      kind: 'opening',
      payeeId: null,
      note: `Opening balance of ${name}`,
      openingOf: bankAccountId,
      replaces: opening.id,
      clients,
      legs: legs.map((leg) => ({ ...leg, taxCodeId: null, id: randomUUID() })),
    },
  ]);
  return recordDone(command, {
    kind: 'opening',
    words: say`Named the clients of the opening balance of ${name}`,
    items: [gone, entryTurn(id, true)],
    needs: needs(
      'payee',
      clients.map(({ clientId }) => clientId),
    ),
  });
}

/** That an opening balance comes into force, or goes. */
const entryTurn = (thingId: string, isInForce: boolean): StepItem => ({
  thing: 'entry',
  thingId,
  before: { isVoid: isInForce },
  after: { isVoid: !isInForce },
});

async function lockBankAccount(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
): Promise<BankAccountRow> {
  const [row] = await rowsOf(
    tx,
    BankAccountRow,
    sql`select b.name, b.account_id as "accountId", coalesce(b.currency, k.currency) as currency,
          (select min(l.date) from lines l where l.books_id = b.books_id
             and l.bank_account_id = b.id and l.is_here) as "firstDate",
          exists (select from entries e where e.books_id = b.books_id and e.opening_of = b.id
             and not e.is_void) as "hasOpening",
          (select a.id from accounts a where a.books_id = b.books_id
             and a.role = 'openingEquity' and a.is_here) as "equityId"
        from bank_accounts b join books k on k.id = b.books_id
        where b.books_id = ${booksId} and b.id = ${bankAccountId} and b.is_here
        for update of b`,
  );
  return row ?? fail('BANK_ACCOUNT_UNKNOWN');
}

const OpeningDatesRow = z.object({ accountId: idRow<AccountId>(), date: z.string() });

/** The dates of the opening balances in force, by the bank account's ledger account. */
export async function openingDates(tx: Tx, booksId: BooksId): Promise<Map<string, string>> {
  const rows = await rowsOf(
    tx,
    OpeningDatesRow,
    sql`select b.account_id as "accountId", e.date
        from entries e join bank_accounts b on b.books_id = e.books_id and b.id = e.opening_of
        where e.books_id = ${booksId} and not e.is_void`,
  );
  return new Map(rows.map((row) => [row.accountId, row.date]));
}
