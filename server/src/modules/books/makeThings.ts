import { randomUUID } from 'node:crypto';
import type {
  NewAccount,
  NewBankAccount,
  NewCostObject,
  NewPayee,
  OpeningBalance,
} from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import { and, eq, sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { accounts, bankAccounts, costObjects, payees } from '../../db/schema/books.ts';
import type { Actor, Services } from '../../services.ts';
import { recordStep, type StepItem, takeStepNumber } from '../steps/recordStep.ts';
import { insertOpening } from './openingBalance.ts';

/** What a command that makes one thing answers. */
export interface Made extends StepDone {
  readonly id: string;
}

async function finish(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  kind: string,
  words: string,
  items: readonly StepItem[],
): Promise<StepDone> {
  const step = await takeStepNumber(tx, booksId);
  await recordStep(tx, services, booksId, actor, step, { kind, words, items });
  return { step, words };
}

/** Adds an account to the chart. @throws {ZubrellError} ACCOUNTS_WITHHELD, ACCOUNT_CODE_TAKEN, ACCOUNT_UNKNOWN */
export async function createAccount(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  wanted: NewAccount,
): Promise<Made> {
  await checkMayMakeAccounts(tx, booksId, actor);
  const taken = await accountByCode(tx, booksId, wanted.code);
  if (taken) fail('ACCOUNT_CODE_TAKEN', { code: wanted.code, name: taken.name });
  if (wanted.parentId !== null) {
    const [parent] = await tx
      .select({ id: accounts.id })
      .from(accounts)
      .where(and(eq(accounts.booksId, booksId), eq(accounts.id, wanted.parentId)));
    if (!parent) fail('ACCOUNT_UNKNOWN');
  }
  const id = randomUUID();
  await tx.insert(accounts).values({ booksId, id, ...wanted });
  const words = `Made the account ${wanted.code} ${wanted.name}`;
  const items = [madeItem('account', id, { id, ...wanted })];
  return { id, ...(await finish(tx, services, booksId, actor, 'makeAccount', words, items)) };
}

/** Books can withhold the right to make accounts from all but their owners. */
async function checkMayMakeAccounts(tx: Tx, booksId: string, { userId }: Actor): Promise<void> {
  const [books] = await rowsOf<{ isWithheld: boolean; owners: string }>(
    tx,
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

async function accountByCode(tx: Tx, booksId: string, code: string) {
  const [row] = await tx
    .select({ id: accounts.id, name: accounts.name })
    .from(accounts)
    .where(and(eq(accounts.booksId, booksId), eq(accounts.code, code)));
  return row;
}

/** Adds a payee. Names that differ only in case are one. @throws {ZubrellError} PAYEE_TAKEN */
export async function createPayee(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  wanted: NewPayee,
): Promise<Made> {
  const [taken] = await rowsOf<{ name: string }>(
    tx,
    sql`select name from payees
        where books_id = ${booksId} and lower(name) = lower(${wanted.name})`,
  );
  if (taken) fail('PAYEE_TAKEN', { name: taken.name });
  const id = randomUUID();
  await tx.insert(payees).values({ booksId, id, ...wanted });
  const words = `Made the payee ${wanted.name}`;
  const items = [madeItem('payee', id, { id, ...wanted })];
  return { id, ...(await finish(tx, services, booksId, actor, 'makePayee', words, items)) };
}

/** Adds a cost centre or a job. @throws {ZubrellError} COST_OBJECT_TAKEN */
export async function createCostObject(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  wanted: NewCostObject,
): Promise<Made> {
  const [taken] = await rowsOf<{ name: string }>(
    tx,
    sql`select name from cost_objects where books_id = ${booksId} and kind = ${wanted.kind}
          and lower(name) = lower(${wanted.name})`,
  );
  if (taken) fail('COST_OBJECT_TAKEN', { name: taken.name });
  const id = randomUUID();
  await tx.insert(costObjects).values({ booksId, id, ...wanted });
  const words = `Made the ${wanted.kind === 'job' ? 'job' : 'cost centre'} ${wanted.name}`;
  const items = [madeItem('costObject', id, { id, ...wanted })];
  return { id, ...(await finish(tx, services, booksId, actor, 'makeCostObject', words, items)) };
}

/** Where the ledger accounts of bank accounts stand, by kind: code to start from, parent, type. */
const PLACES = {
  current: { from: 1010, parent: '1000', type: 'asset' },
  savings: { from: 1010, parent: '1000', type: 'asset' },
  cash: { from: 1010, parent: '1000', type: 'asset' },
  card: { from: 2110, parent: '2100', type: 'liability' },
} as const;

/** Makes a bank account with its ledger account. @throws {ZubrellError} BANK_ACCOUNT_TAKEN */
export async function createBankAccount(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  wanted: NewBankAccount,
): Promise<Made> {
  if (wanted.number !== null) {
    const [taken] = await tx
      .select({ name: bankAccounts.name })
      .from(bankAccounts)
      .where(and(eq(bankAccounts.booksId, booksId), eq(bankAccounts.number, wanted.number)));
    if (taken) fail('BANK_ACCOUNT_TAKEN', { number: wanted.number, name: taken.name });
  }
  const place = PLACES[wanted.kind];
  const parent = await accountByCode(tx, booksId, place.parent);
  const [free] = await rowsOf<{ code: string }>(
    tx,
    sql`select wanted::text as code
        from generate_series(${place.from}::int, ${place.from + 80}::int, 10) wanted
        where not exists (select from accounts a
          where a.books_id = ${booksId} and a.code = wanted::text)
        order by wanted limit 1`,
  );
  const account = {
    id: randomUUID(),
    code: free?.code ?? `${place.from}-${randomUUID().slice(0, 4)}`,
    name: wanted.name,
    type: place.type,
    parentId: parent?.id ?? null,
  };
  await tx.insert(accounts).values({ booksId, ...account });
  const id = randomUUID();
  const made = { id, ...wanted, accountId: account.id };
  await tx.insert(bankAccounts).values({ booksId, ...made });
  const words = `Made the bank account ${wanted.name}`;
  const items = [madeItem('account', account.id, account), madeItem('bankAccount', id, made)];
  return { id, ...(await finish(tx, services, booksId, actor, 'makeBankAccount', words, items)) };
}

/** Posts an opening balance typed by hand. @throws {ZubrellError} OPENING_TWICE and others */
export async function postOpening(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  bankAccountId: string,
  opening: OpeningBalance,
): Promise<StepDone> {
  const step = await takeStepNumber(tx, booksId);
  const { item, words } = await insertOpening(tx, booksId, bankAccountId, opening, step);
  const done = `Posted the ${words}`;
  await recordStep(tx, services, booksId, actor, step, {
    kind: 'opening',
    words: done,
    items: [item],
  });
  return { step, words: done };
}

function madeItem(thing: StepItem['thing'], thingId: string, after: unknown): StepItem {
  return { thing, thingId, before: null, after };
}
