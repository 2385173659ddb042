import {
  AccountType,
  type ChangeAccount,
  type ChangePayee,
  type MergePayee,
  PayeeKind,
} from '@zubrell/contract/books';
import { Id, type StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId, PayeeId } from '@zubrell/core/ids';
import {
  accountRoles,
  assignableRoles,
  isControlRole,
  roleNames,
  roleTypes,
} from '@zubrell/core/ledger/accountRoles';
import { misplaced } from '@zubrell/core/ledger/chartPlace';
import { accountTaxes } from '@zubrell/core/ledger/kinds';
import { nameKey } from '@zubrell/core/text/nameKey';
import { say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { NameRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { needs } from './needsOf.ts';
import { ownAccounts } from './ownAccounts.ts';

/** What can change of a payee. */
export const PayeeState = z.object({
  name: z.string(),
  kind: PayeeKind,
  /** Steps of before these were kept say nothing of them. */
  address: z.string().default(''),
  taxNumber: z.string().default(''),
  country: z.string().default(''),
  termsDays: z.int().nullable().default(null),
  accountId: Id.nullable().default(null),
  capitalAccountId: Id.nullable().default(null),
  isOn: z.boolean(),
  mergedInto: Id.nullable(),
});
export type PayeeState = z.infer<typeof PayeeState>;

/** What can change of an account. */
export const AccountState = z.object({
  code: z.string(),
  parentId: Id.nullable(),
  name: z.string(),
  purpose: z.string(),
  /** Steps of before this was kept say nothing of it. */
  tax: z.enum(accountTaxes).default('byType'),
  role: z.enum(accountRoles).nullable(),
  isOn: z.boolean(),
  mergedInto: Id.nullable().default(null),
});
export type AccountState = z.infer<typeof AccountState>;

/** What of a row of payees is its state. */
const payeeColumns = sql`name, kind, address, tax_number as "taxNumber", country,
  terms_days as "termsDays", account_id as "accountId", capital_account_id as "capitalAccountId",
  is_on as "isOn", merged_into as "mergedInto"`;

/** What is known of a payee. @throws {ZubrellError} PAYEE_UNKNOWN */
export async function payeeState(tx: Tx, booksId: BooksId, id: string): Promise<PayeeState> {
  const [row] = await rowsOf(
    tx,
    PayeeState,
    sql`select ${payeeColumns}
        from payees where books_id = ${booksId} and id = ${id} and is_here`,
  );
  return row ?? fail('PAYEE_UNKNOWN');
}

/**
 * Renames a payee, says what it is, which accounts are its own, switches it off or on.
 *
 * @throws {ZubrellError} PAYEE_UNKNOWN, PAYEE_TAKEN and those of `ownAccounts`
 */
export async function changePayee(
  command: BooksCommand,
  payeeId: PayeeId,
  change: ChangePayee,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const before = await payeeState(tx, booksId, payeeId);
  const wanted: PayeeState = {
    ...before,
    name: change.name ?? before.name,
    kind: change.kind ?? before.kind,
    address: change.address ?? before.address,
    taxNumber: change.taxNumber ?? before.taxNumber,
    country: change.country ?? before.country,
    termsDays: change.termsDays === undefined ? before.termsDays : change.termsDays,
    accountId: change.accountId === undefined ? before.accountId : change.accountId,
    capitalAccountId:
      change.capitalAccountId === undefined ? before.capitalAccountId : change.capitalAccountId,
    isOn: change.isOn ?? before.isOn,
  };
  const { after, made } = await ownAccounts(command, before, wanted, change.makesAccounts ?? false);
  const [taken] = await rowsOf(
    tx,
    NameRow,
    sql`select name from payees where books_id = ${booksId} and is_here and id <> ${payeeId}
          and name_key = ${nameKey(after.name)}`,
  );
  if (taken) fail('PAYEE_TAKEN', { name: taken.name });
  const words =
    before.name !== after.name
      ? say`Renamed the payee ${before.name} to ${after.name}`
      : before.isOn !== after.isOn
        ? say`Switched the payee ${after.name} ${after.isOn ? say`on` : say`off`}`
        : say`Changed the payee ${after.name}`;
  await setPayee(command, payeeId, before, after);
  return recordDone(command, {
    kind: 'changePayee',
    words,
    items: [...made, payeeItem(payeeId, before, after)],
    needs: needs(
      'account',
      [after.accountId, after.capitalAccountId].filter(
        (id) => !made.some(({ thingId }) => thingId === id),
      ),
    ),
  });
}

const FollowerRow = PayeeState.extend({ id: z.string() });

/**
 * Says that a payee is another one. What was posted shows the other from now on, and what is proposed
 * names it.
 *
 * @throws {ZubrellError} PAYEE_UNKNOWN, PAYEE_SAME
 */
export async function mergePayee(
  command: BooksCommand,
  payeeId: PayeeId,
  { into }: MergePayee,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const before = await payeeState(tx, booksId, payeeId);
  const other = await payeeState(tx, booksId, into);
  if (payeeId === into || other.mergedInto !== null) fail('PAYEE_SAME');
  const after: PayeeState = { ...before, isOn: false, mergedInto: into };
  const words = say`Merged payee ${before.name} into ${other.name}`;
  // Whoever turned out to be this one follows.
  const followers = await rowsOf(
    tx,
    FollowerRow,
    sql`select id, ${payeeColumns}
        from payees where books_id = ${booksId} and merged_into = ${payeeId} and is_here`,
  );
  const items = [
    payeeItem(payeeId, before, after),
    ...followers.map(({ id, ...state }) => payeeItem(id, state, { ...state, mergedInto: into })),
  ];
  await setPayee(command, payeeId, before, after);
  for (const { id, ...state } of followers) {
    await setPayee(command, id, state, { ...state, mergedInto: into });
  }
  return recordDone(command, { kind: 'mergePayee', words, items, needs: needs('payee', [into]) });
}

/**
 * Renames an account, says what it is for, switches it off or on.
 *
 * @throws {ZubrellError} ACCOUNT_UNKNOWN, ACCOUNT_ROLE_FIXED
 */
export async function changeAccount(
  command: BooksCommand,
  accountId: AccountId,
  change: ChangeAccount,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const [before] = await rowsOf(
    tx,
    KnownAccount,
    sql`select code, parent_id as "parentId", name, type, purpose, role, tax, is_on as "isOn",
          merged_into as "mergedInto", exists (
            select from bank_accounts b where b.books_id = a.books_id and b.account_id = a.id and b.is_here)
            as "isBank"
        from accounts a where books_id = ${booksId} and id = ${accountId} and is_here
          and merged_into is null`,
  );
  if (!before) fail('ACCOUNT_UNKNOWN');
  const { type: _type, isBank: _isBank, ...state } = before;
  const after: AccountState = {
    code: change.code ?? state.code,
    parentId: change.parentId === undefined ? state.parentId : change.parentId,
    name: change.name ?? state.name,
    purpose: change.purpose ?? state.purpose,
    tax: change.tax ?? state.tax,
    role: change.role === undefined ? state.role : change.role,
    isOn: change.isOn ?? state.isOn,
    mergedInto: state.mergedInto,
  };
  const words =
    state.code !== after.code
      ? say`Renumbered account ${state.code} ${state.name} to ${after.code}`
      : state.name !== after.name
        ? say`Renamed account ${after.code} ${state.name} to ${after.name}`
        : state.parentId !== after.parentId
          ? say`Moved account ${after.code} ${after.name} in the chart`
          : state.isOn === after.isOn
            ? say`Changed account ${after.code} ${after.name}`
            : say`Switched account ${after.code} ${after.name} ${after.isOn ? say`on` : say`off`}`;
  if (state.code !== after.code || state.parentId !== after.parentId) {
    const { type } = before;
    await checkPlace(tx, booksId, { ...after, type, id: accountId }, state.parentId);
  }
  const isRoleFixed = state.role !== null && !assignableRoles.some((role) => role === state.role);
  if (isRoleFixed && after.role !== state.role) fail('ACCOUNT_ROLE_FIXED', { name: state.name });
  if (after.role !== state.role) await checkRoleMoves(tx, booksId, before, after.role);
  const given = after.role !== null && after.role !== state.role;
  const givenUp = given ? await giveUpRole(command, after.role) : [];
  await setAccount(command, accountId, state, after);
  const items = [...givenUp, accountItem(accountId, state, after)];
  const parent = needs('account', [after.parentId]);
  return recordDone(command, { kind: 'changeAccount', words, items, needs: parent });
}

const KnownAccount = AccountState.extend({
  type: AccountType,
  isBank: z.boolean(),
});
type KnownAccount = z.infer<typeof KnownAccount>;

const ChartRow = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  type: AccountType,
  parentId: Id.nullable(),
  mergedInto: Id.nullable(),
});

/**
 * A code is given once, and an account that moves comes below one of its own type that doesn't stand below it.
 *
 * @throws {ZubrellError} ACCOUNT_CODE_TAKEN, ACCOUNT_UNKNOWN, ACCOUNT_BELOW_ITSELF, ACCOUNT_BELOW_TYPE
 */
async function checkPlace(
  tx: Tx,
  booksId: BooksId,
  wanted: Omit<z.infer<typeof ChartRow>, 'mergedInto'>,
  was: string | null,
): Promise<void> {
  const rows = await rowsOf(
    tx,
    ChartRow,
    sql`select id, code, name, type, parent_id as "parentId", merged_into as "mergedInto"
        from accounts where books_id = ${booksId} and is_here`,
  );
  const { id, code, name, type, parentId } = wanted;
  const taken = rows.find((row) => row.code === code && row.id !== id);
  if (taken) fail('ACCOUNT_CODE_TAKEN', { code, name: taken.name });
  const parent = rows.find((row) => row.id === parentId && row.mergedInto === null);
  if (parentId !== null && parentId !== was && !parent) fail('ACCOUNT_UNKNOWN');
  const called = `${code} ${name}`;
  const chart = new Map([...rows, wanted].map((row) => [row.id, row]));
  const why = misplaced(chart, id, was);
  if (why === 'belowItself') fail('ACCOUNT_BELOW_ITSELF', { name: called });
  if (why === 'belowType') {
    const above = { parent: `${parent?.code} ${parent?.name}`, parentType: parent?.type ?? '' };
    fail('ACCOUNT_BELOW_TYPE', { name: called, type, ...above });
  }
}

const OpenRow = z.object({ count: z.int(), name: z.string().nullable() });

/**
 * A use can only be given to an account of its type that is no bank account, and what documents post to can't move
 * while any of them is open.
 *
 * @throws {ZubrellError} ACCOUNT_ROLE_TYPE, ACCOUNT_ROLE_OPEN
 */
async function checkRoleMoves(
  tx: Tx,
  booksId: BooksId,
  { code, name, type, role: from, isBank }: KnownAccount,
  to: AccountState['role'],
): Promise<void> {
  const wanted = assignableRoles.find((role) => role === to);
  if (wanted && (isBank || !roleTypes[wanted].includes(type))) {
    const types = roleTypes[wanted].join(' or ');
    fail('ACCOUNT_ROLE_TYPE', { name: `${code} ${name}`, what: roleNames[wanted], types });
  }
  for (const role of [from, to].filter((each) => isControlRole(each))) {
    const [open] = await rowsOf(
      tx,
      OpenRow,
      sql`select count(*)::int as count, min(a.code || ' ' || a.name) as name
          from open_documents o
          join documents d on d.books_id = o.books_id and d.id = o.document_id
          join entries e on e.books_id = d.books_id and e.id = d.entry_id and not e.is_void
          join accounts a on a.books_id = d.books_id and a.role = ${role} and a.is_here
          where o.books_id = ${booksId} and d.side = ${role} and o.amount <> 0`,
    );
    if (open && open.count > 0) {
      fail('ACCOUNT_ROLE_OPEN', {
        count: open.count,
        name: open.name ?? '',
        what: roleNames[role],
      });
    }
  }
}

const HolderRow = AccountState.extend({ id: z.string() });

/** The account that had a role gives it up. */
async function giveUpRole(command: BooksCommand, role: AccountState['role']): Promise<StepItem[]> {
  const { tx, booksId } = command;
  const holders = await rowsOf(
    tx,
    HolderRow,
    sql`select id, code, parent_id as "parentId", name, purpose, role, tax, is_on as "isOn",
          merged_into as "mergedInto"
        from accounts where books_id = ${booksId} and role = ${role} and is_here`,
  );
  for (const { id, ...state } of holders) {
    await setAccount(command, id, state, { ...state, role: null });
  }
  return holders.map(({ id, ...state }) => accountItem(id, state, { ...state, role: null }));
}

const payeeItem = (thingId: string, before: PayeeState, after: PayeeState): StepItem => ({
  thing: 'payee',
  thingId,
  before,
  after,
});
export const accountItem = (
  thingId: string,
  before: AccountState,
  after: AccountState,
): StepItem => ({
  thing: 'account',
  thingId,
  before,
  after,
});

/** Writes what a payee changed to; where it became another one, what is proposed is made anew. */
export async function setPayee(
  command: BooksCommand,
  payeeId: PayeeId,
  before: PayeeState,
  after: PayeeState,
): Promise<void> {
  const { tx, booksId } = command;
  await tx.execute(
    sql`update payees set name = ${after.name}, name_key = ${nameKey(after.name)},
          kind = ${after.kind}, address = ${after.address}, tax_number = ${after.taxNumber},
          country = ${after.country}, terms_days = ${after.termsDays}, account_id = ${after.accountId},
          capital_account_id = ${after.capitalAccountId}, is_on = ${after.isOn},
          merged_into = ${after.mergedInto}
        where books_id = ${booksId} and id = ${payeeId}`,
  );
  const [was, is] = [before, after].map((each) =>
    JSON.stringify([each.mergedInto, each.kind, each.accountId]),
  );
  if (was !== is) await command.follow.payeeMerged(command, payeeId);
}

/** Writes what an account changed to; where proposals depend on it, they are made anew. */
export async function setAccount(
  command: BooksCommand,
  accountId: AccountId,
  before: AccountState,
  after: AccountState,
): Promise<void> {
  const { tx, booksId } = command;
  await tx.execute(
    sql`update accounts set code = ${after.code}, parent_id = ${after.parentId}, name = ${after.name},
          is_on = ${after.isOn}, merged_into = ${after.mergedInto},
          purpose = ${after.purpose}, role = ${after.role}, tax = ${after.tax}
        where books_id = ${booksId} and id = ${accountId}`,
  );
  if (before.mergedInto !== after.mergedInto) {
    await tx.execute(
      sql`update legs set shown_account_id = ${after.mergedInto ?? accountId}
          where books_id = ${booksId} and account_id = ${accountId}`,
    );
  }
  const isTaxed = before.tax !== after.tax;
  const isMerged = before.mergedInto !== after.mergedInto;
  const isSame = before.role === after.role && before.isOn === after.isOn;
  if (isSame && !isTaxed && !isMerged) return;
  await command.follow.accountChanged(command, accountId, before.role !== after.role || isTaxed);
}
