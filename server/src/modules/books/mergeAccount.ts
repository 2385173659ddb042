import { AccountType, type MergeAccount } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { isControlRole } from '@zubrell/core/ledger/accountRoles';
import { say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone } from '../steps/recordStep.ts';
import { AccountState, accountItem, setAccount } from './changeThings.ts';
import { needs } from './needsOf.ts';

const KnownRow = AccountState.extend({
  id: z.string(),
  type: AccountType,
  isBank: z.boolean(),
  /** The tax code that posts there. */
  taxCode: z.string().nullable(),
});
type KnownRow = z.infer<typeof KnownRow>;

/**
 * Puts an account together with another of its type: what was and will be posted to it counts there, at every date.
 * Nothing posted is rewritten, so undoing it parts them again.
 *
 * @throws {ZubrellError} ACCOUNT_UNKNOWN, ACCOUNT_MERGE_SELF, ACCOUNT_MERGE_UNLIKE, ACCOUNT_MERGE_USED
 */
export async function mergeAccount(
  command: BooksCommand,
  accountId: AccountId,
  { into }: MergeAccount,
): Promise<StepDone> {
  const { tx, booksId } = command;
  if (accountId === into) fail('ACCOUNT_MERGE_SELF');
  const known = await knownAccounts(tx, booksId);
  const find = (id: string) =>
    known.find((row) => row.id === id && row.mergedInto === null) ?? fail('ACCOUNT_UNKNOWN');
  const account = find(accountId);
  const target = find(into);
  checkFits(account, target);
  // What stood below it stands below the other, or where this one did if the other was among them.
  const place = (id: string) => (id === into ? account.parentId : into);
  const moved = known.flatMap((row) => {
    const before = stateOf(row);
    if (row.id === accountId) return [{ row, after: { ...before, isOn: false, mergedInto: into } }];
    if (row.mergedInto === accountId) return [{ row, after: { ...before, mergedInto: into } }];
    if (row.parentId !== accountId) return [];
    return [{ row, after: { ...before, parentId: place(row.id) } }];
  });
  const items = [];
  for (const { row, after } of moved) {
    await setAccount(command, row.id, stateOf(row), after);
    items.push(accountItem(row.id, stateOf(row), after));
  }
  return recordDone(command, {
    kind: 'mergeAccount',
    words: say`Merged account ${called(account)} into ${called(target)}`,
    items,
    needs: needs('account', [into]),
  });
}

function knownAccounts(tx: Tx, booksId: BooksId): Promise<KnownRow[]> {
  return rowsOf(
    tx,
    KnownRow,
    sql`select a.id, a.code, a.parent_id as "parentId", a.name, a.type, a.purpose, a.role, a.tax,
          a.is_on as "isOn", a.merged_into as "mergedInto",
          exists (select from bank_accounts b
            where b.books_id = a.books_id and b.account_id = a.id and b.is_here) as "isBank",
          (select min(t.name) from tax_codes t where t.books_id = a.books_id and t.is_here
            and a.id in (t.input_account_id, t.output_account_id)) as "taxCode"
        from accounts a where a.books_id = ${booksId} and a.is_here
        order by a.code for update`,
  );
}

/** The other must take the same postings, and neither may be one that the program itself keeps. */
function checkFits(account: KnownRow, target: KnownRow): void {
  const names = { name: called(account), other: called(target) };
  if (account.type !== target.type) fail('ACCOUNT_MERGE_UNLIKE', { ...names, what: 'their type' });
  if (account.tax !== target.tax) {
    fail('ACCOUNT_MERGE_UNLIKE', { ...names, what: 'which tax they take' });
  }
  for (const each of [account, target]) {
    const what = each.isBank
      ? 'a bank account'
      : each.taxCode !== null
        ? `where the tax code ${each.taxCode} posts`
        : each === account && each.role !== null
          ? 'used by the program itself (Change, Used for)'
          : isControlRole(each.role)
            ? 'kept by bills, invoices and their payments'
            : null;
    if (what !== null) fail('ACCOUNT_MERGE_USED', { name: called(each), what });
  }
}

const called = ({ code, name }: KnownRow) => `${code} ${name}`;

function stateOf({
  id: _,
  type: __,
  isBank: ___,
  taxCode: ____,
  ...state
}: KnownRow): AccountState {
  return state;
}
