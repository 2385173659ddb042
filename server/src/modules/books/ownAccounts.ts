import { AccountType } from '@zubrell/contract/books';
import { Id } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import { accountRoles, isControlRole, roleTypes } from '@zubrell/core/ledger/accountRoles';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { StepItem } from '../steps/recordStep.ts';
import type { PayeeState } from './changeThings.ts';
import { checkMayMakeAccounts, insertAccount } from './makeThings.ts';

const AccountRow = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  type: AccountType,
  role: z.enum(accountRoles).nullable(),
  parentId: Id.nullable(),
  isBank: z.boolean(),
});
type AccountRow = z.infer<typeof AccountRow>;

type AccountField = 'accountId' | 'capitalAccountId';

/** What an account of a payee's own may be. */
const TYPES: Readonly<Record<string, readonly AccountType[]>> = {
  owner: roleTypes.drawings,
  relatedBusiness: ['asset', 'liability'],
};
/** Where new accounts for owners are numbered from, if the books have none for all owners. */
const EQUITY_CODE = 3_020;
/** Where new accounts between two businesses are numbered from. */
const BETWEEN_CODE = 2_600;

/**
 * The accounts that are a payee's own: an owner's drawings and capital, or what is between these books and another
 * business of the owner. Payees of other kinds have none.
 *
 * @param makes whether accounts that are missing are made
 * @returns the payee with them, and what was made
 * @throws {ZubrellError} ACCOUNT_UNKNOWN, PAYEE_ACCOUNT, PAYEE_NO_OWN_ACCOUNT, ACCOUNTS_WITHHELD
 */
export async function ownAccounts(
  command: BooksCommand,
  before: PayeeState,
  wanted: PayeeState,
  makes: boolean,
): Promise<{ readonly after: PayeeState; readonly made: readonly StepItem[] }> {
  const { kind } = wanted;
  if (kind !== 'owner' && kind !== 'relatedBusiness') {
    const isGiven = wanted.accountId !== before.accountId && wanted.accountId !== null;
    if (isGiven || makes) fail('PAYEE_NO_OWN_ACCOUNT', { payee: wanted.name });
    return { after: { ...wanted, accountId: null, capitalAccountId: null }, made: [] };
  }
  const accounts = await chart(command);
  // What was an owner's is not what is between two businesses: only what is chosen now counts then.
  const kept = (field: AccountField) => {
    const isOther = kind !== before.kind && wanted[field] === before[field];
    return isOther || (field === 'capitalAccountId' && kind !== 'owner') ? null : wanted[field];
  };
  const chosen: PayeeState = {
    ...wanted,
    accountId: kept('accountId'),
    capitalAccountId: kept('capitalAccountId'),
  };
  for (const field of ['accountId', 'capitalAccountId'] as const) {
    if (chosen[field] === null || chosen[field] === before[field]) continue;
    checkOwn(accounts.find(({ id }) => id === chosen[field]) ?? null, TYPES[kind] ?? []);
  }
  if (!makes) return { after: chosen, made: [] };
  await checkMayMakeAccounts(command);
  let after = chosen;
  const made: StepItem[] = [];
  for (const [field, account, from] of missingOf(chosen, accounts)) {
    const { id, item } = await insertAccount(command, account, from);
    after = { ...after, [field]: id };
    made.push(item);
  }
  return { after, made };
}

type NewOwn = readonly [
  field: AccountField,
  account: { readonly name: string; readonly type: AccountType; readonly parentId: string | null },
  from: number,
];

/** The accounts that a payee lacks, beside those that the books have for all. */
function missingOf(payee: PayeeState, accounts: readonly AccountRow[]): readonly NewOwn[] {
  if (payee.kind === 'relatedBusiness') {
    const between = { name: `Between us and ${payee.name}`, type: 'liability', parentId: null };
    return payee.accountId === null ? [['accountId', between as NewOwn[1], BETWEEN_CODE]] : [];
  }
  const beside = (role: 'drawings' | 'capital', name: string): readonly [NewOwn[1], number] => {
    const known = accounts.find((account) => account.role === role);
    const code = Number(known?.code);
    return [
      { name, type: known?.type ?? 'equity', parentId: known?.parentId ?? null },
      Number.isInteger(code) && known ? code : EQUITY_CODE,
    ];
  };
  const drawings = beside('drawings', `Drawings, ${payee.name}`);
  const capital = beside('capital', `Capital introduced, ${payee.name}`);
  return [
    ...(payee.accountId === null ? [['accountId', ...drawings] as const] : []),
    ...(payee.capitalAccountId === null ? [['capitalAccountId', ...capital] as const] : []),
  ];
}

async function chart({ tx, booksId }: BooksCommand): Promise<readonly AccountRow[]> {
  return rowsOf(
    tx,
    AccountRow,
    sql`select a.id, a.code, a.name, a.type, a.role, a.parent_id as "parentId", exists (
          select from bank_accounts b
          where b.books_id = a.books_id and b.account_id = a.id and b.is_here) as "isBank"
        from accounts a where a.books_id = ${booksId} and a.is_here and a.merged_into is null`,
  );
}

function checkOwn(account: AccountRow | null, types: readonly AccountType[]): void {
  if (account === null) fail('ACCOUNT_UNKNOWN');
  const { type, role, isBank, code, name } = account;
  if (isBank || isControlRole(role) || !types.includes(type)) {
    fail('PAYEE_ACCOUNT', { account: `${code} ${name}`, types: types.join(' or ') });
  }
}
