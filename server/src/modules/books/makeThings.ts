import { randomUUID } from 'node:crypto';
import type { NewAccount, NewBankAccount, NewCostObject, NewPayee } from '@zubrell/contract/books';
import type { Made } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import type { AccountRole } from '@zubrell/core/ledger/accountRoles';
import type { AccountType, BankAccountKind } from '@zubrell/core/ledger/kinds';
import { nameKey } from '@zubrell/core/text/nameKey';
import { say } from '@zubrell/core/words/say';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, NameRow } from '../../db/rows.ts';
import { accounts, bankAccounts, costObjects, payees } from '../../db/schema/books.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem, type ThingState } from '../steps/recordStep.ts';
import { needs } from './needsOf.ts';
import { booksCurrency } from './queries.ts';

/** Adds an account to the chart. @throws {ZubrellError} ACCOUNTS_WITHHELD, ACCOUNT_CODE_TAKEN, ACCOUNT_UNKNOWN */
export async function createAccount(command: BooksCommand, wanted: NewAccount): Promise<Made> {
  const { tx, booksId } = command;
  await checkMayMakeAccounts(command);
  const taken = await accountByCode(tx, booksId, wanted.code);
  if (taken) fail('ACCOUNT_CODE_TAKEN', { code: wanted.code, name: taken.name });
  if (wanted.parentId !== null) {
    const [parent] = await tx
      .select({ id: accounts.id })
      .from(accounts)
      .where(
        and(
          eq(accounts.booksId, booksId),
          eq(accounts.id, wanted.parentId),
          eq(accounts.isHere, true),
          isNull(accounts.mergedInto),
        ),
      );
    if (!parent) fail('ACCOUNT_UNKNOWN');
  }
  const id = randomUUID();
  await tx.insert(accounts).values({ booksId, id, ...wanted });
  const words = say`Created account ${wanted.code} ${wanted.name}`;
  const items = [madeItem('account', id, { ...wanted })];
  const parent = needs('account', [wanted.parentId]);
  return {
    id,
    ...(await recordDone(command, { kind: 'makeAccount', words, items, needs: parent })),
  };
}

const BookRow = z.object({ isWithheld: z.boolean(), owners: z.string() });

/** Books can withhold the right to make accounts from all but their owners. @throws {ZubrellError} ACCOUNTS_WITHHELD */
export async function checkMayMakeAccounts({
  tx,
  booksId,
  actor: { userId },
}: Pick<BooksCommand, 'tx' | 'booksId' | 'actor'>): Promise<void> {
  const [books] = await rowsOf(
    tx,
    BookRow,
    sql`select k.accounts_made_by = 'owner' and not exists (
            select from memberships m where m.books_id = k.id and m.user_id = ${userId}
              and m.role = 'owner') as "isWithheld",
          (select string_agg(u.name, ', ' order by u.name) from memberships m
            join users u on u.id = m.user_id
            where m.books_id = k.id and m.role = 'owner') as owners
        from books k where k.id = ${booksId}`,
  );
  if (books?.isWithheld) fail('ACCOUNTS_WITHHELD', { who: books.owners });
}

/** The account with a code. */
async function accountByCode(tx: Tx, booksId: BooksId, code: string) {
  const [row] = await tx
    .select({ id: accounts.id, name: accounts.name })
    .from(accounts)
    .where(and(eq(accounts.booksId, booksId), eq(accounts.code, code), eq(accounts.isHere, true)));
  return row;
}

/** Adds a payee. Names that differ only in case are one. @throws {ZubrellError} PAYEE_TAKEN */
export async function createPayee(command: BooksCommand, wanted: NewPayee): Promise<Made> {
  const { tx, booksId } = command;
  const [taken] = await rowsOf(
    tx,
    NameRow,
    sql`select name from payees
        where books_id = ${booksId} and is_here and name_key = ${nameKey(wanted.name)}`,
  );
  if (taken) fail('PAYEE_TAKEN', { name: taken.name });
  const { id, item } = await insertPayee(command, wanted);
  const words = say`Created payee ${wanted.name}`;
  return { id, ...(await recordDone(command, { kind: 'makePayee', words, items: [item] })) };
}

/** What a payee begins with beside its name and kind. */
const NEW_PAYEE = {
  address: '',
  taxNumber: '',
  country: '',
  termsDays: null,
  accountId: null,
  capitalAccountId: null,
  isOn: true,
  mergedInto: null,
} as const;

/** Writes a payee whose name is free, as part of a step. */
export async function insertPayee(
  { tx, booksId }: BooksCommand,
  wanted: NewPayee,
): Promise<{ readonly id: string; readonly item: StepItem }> {
  const id = randomUUID();
  await tx.insert(payees).values({ booksId, id, nameKey: nameKey(wanted.name), ...wanted });
  return { id, item: madeItem('payee', id, { ...wanted, ...NEW_PAYEE }) };
}

/** Adds a cost centre or a job. @throws {ZubrellError} COST_OBJECT_TAKEN */
export async function createCostObject(
  command: BooksCommand,
  wanted: NewCostObject,
): Promise<Made> {
  const { tx, booksId } = command;
  const [taken] = await rowsOf(
    tx,
    NameRow,
    sql`select name from cost_objects where books_id = ${booksId} and is_here
          and kind = ${wanted.kind} and name_key = ${nameKey(wanted.name)}`,
  );
  if (taken) fail('COST_OBJECT_TAKEN', { name: taken.name });
  const id = randomUUID();
  await tx.insert(costObjects).values({ booksId, id, nameKey: nameKey(wanted.name), ...wanted });
  const words = say`Created the ${wanted.kind === 'job' ? 'job' : 'cost centre'} ${wanted.name}`;
  const items = [madeItem('costObject', id, { ...wanted })];
  return { id, ...(await recordDone(command, { kind: 'makeCostObject', words, items })) };
}

/** Where the ledger accounts of bank accounts stand, by kind: code to start from, parent, type. */
const PLACES = {
  current: { from: 1010, parent: '1000', type: 'asset' },
  savings: { from: 1010, parent: '1000', type: 'asset' },
  cash: { from: 1010, parent: '1000', type: 'asset' },
  card: { from: 2110, parent: '2100', type: 'liability' },
  clientMoney: { from: 1010, parent: '1000', type: 'asset' },
} as const satisfies Record<BankAccountKind, object>;

const CodeRow = z.object({ code: z.string() });

/** Writes an account below another, with the first code that is free from a number on, as part of a step. */
export async function insertAccount(
  { tx, booksId }: Pick<BooksCommand, 'tx' | 'booksId'>,
  wanted: {
    readonly name: string;
    readonly type: AccountType;
    readonly role?: AccountRole;
    readonly purpose?: string;
    readonly parentId: string | null;
  },
  from: number,
): Promise<{ readonly id: AccountId; readonly item: StepItem }> {
  const [free] = await rowsOf(
    tx,
    CodeRow,
    sql`select wanted::text as code
        from generate_series(${from}::int, ${from + 80}::int, 10) wanted
        where not exists (select from accounts a
          where a.books_id = ${booksId} and a.code = wanted::text and a.is_here)
        order by wanted limit 1`,
  );
  const code = free?.code ?? `${from}-${randomUUID().slice(0, 4)}`;
  const account = { id: randomUUID(), code, ...wanted };
  await tx.insert(accounts).values({ booksId, ...account });
  return { id: account.id, item: madeItem('account', account.id, account) };
}

/** Makes a bank account with its ledger account. @throws {ZubrellError} BANK_ACCOUNT_TAKEN */
export async function createBankAccount(
  command: BooksCommand,
  wanted: NewBankAccount,
): Promise<Made> {
  const { tx, booksId } = command;
  if (wanted.number !== null) {
    const [taken] = await tx
      .select({ name: bankAccounts.name })
      .from(bankAccounts)
      .where(
        and(
          eq(bankAccounts.booksId, booksId),
          eq(bankAccounts.number, wanted.number),
          eq(bankAccounts.isHere, true),
        ),
      );
    if (taken) fail('BANK_ACCOUNT_TAKEN', { number: wanted.number, name: taken.name });
  }
  const place = PLACES[wanted.kind];
  const parent = await accountByCode(tx, booksId, place.parent);
  const account = await insertAccount(
    command,
    { name: wanted.name, type: place.type, parentId: parent?.id ?? null },
    place.from,
  );
  const id = randomUUID();
  const own = await booksCurrency(tx, booksId);
  const currency = wanted.currency === own ? null : (wanted.currency ?? null);
  const made = { id, ...wanted, currency, accountId: account.id };
  await tx.insert(bankAccounts).values({ booksId, ...made });
  const words = say`Created bank account ${wanted.name}`;
  const items = [
    account.item,
    madeItem('bankAccount', id, made),
    ...(wanted.kind === 'clientMoney' ? await heldForClients(command) : []),
  ];
  return { id, ...(await recordDone(command, { kind: 'makeBankAccount', words, items })) };
}

/** Makes the account for what is held for clients, where the books have none yet. */
async function heldForClients(command: BooksCommand): Promise<readonly StepItem[]> {
  const { tx, booksId } = command;
  const known = await rowsOf(
    tx,
    IdRow,
    sql`select id from accounts where books_id = ${booksId} and role = 'clientMoney' and is_here`,
  );
  if (known.length > 0) return [];
  const { item } = await insertAccount(
    command,
    {
      name: 'Held for clients',
      type: 'liability',
      role: 'clientMoney',
      purpose: 'clients’ money trust deposits',
      parentId: null,
    },
    2_500,
  );
  return [item];
}

function madeItem(thing: StepItem['thing'], thingId: string, after: ThingState): StepItem {
  return { thing, thingId, before: null, after };
}
