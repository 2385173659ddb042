import type { Account } from '@zubrell/contract/books';
import { useMemo, useState } from 'react';
import { NavLink } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { standing, useBooks } from '../../app/useBooks.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { HideUnused } from './HideUnused.tsx';

interface Branch {
  readonly account: Account;
  /** Own balance and that of all below it, in the account's usual sign. */
  readonly balance: number;
  readonly children: readonly Branch[];
}

/** Accounts whose usual balance is a credit show it without a minus. */
const CREDIT: ReadonlySet<Account['type']> = new Set(['liability', 'equity', 'income']);

/** The chart of accounts as a tree, each branch with its balance. */
export function AccountTree({ currentId }: { readonly currentId: string | null }) {
  const { booksId, setup } = useBooks();
  const { data, error } = ledgerApi.useBalancesQuery(booksId);
  const [isHiding, setIsHiding] = useState(false);
  const branches = useMemo(() => {
    const own = new Map(data?.balances.map(({ accountId, amount }) => [accountId, amount]));
    const all = branchesBelow(null, standing(setup.accounts), own);
    return isHiding ? all.flatMap((branch) => usedOf(branch, own)) : all;
  }, [data, setup.accounts, isHiding]);
  if (error && !data) return <ErrorNote error={error} />;
  return (
    <>
      <HideUnused isHiding={isHiding} onChange={setIsHiding} />
      <ul className="tree">
        {branches.map((branch) => (
          <BranchItem key={branch.account.id} branch={branch} depth={0} currentId={currentId} />
        ))}
      </ul>
    </>
  );
}

/** A branch without what nothing was ever posted to. */
function usedOf(branch: Branch, own: ReadonlyMap<string, number>): Branch[] {
  const children = branch.children.flatMap((child) => usedOf(child, own));
  const isUsed = own.has(branch.account.id) || children.length > 0;
  return isUsed ? [{ ...branch, children }] : [];
}

function branchesBelow(
  parentId: string | null,
  accounts: readonly Account[],
  own: ReadonlyMap<string, number>,
): Branch[] {
  return accounts
    .filter((account) => account.parentId === parentId)
    .map((account) => {
      const children = branchesBelow(account.id, accounts, own);
      const balance = children.reduce(
        (sum, child) =>
          sum + (sign(child.account) === sign(account) ? child.balance : -child.balance),
        sign(account) * (own.get(account.id) ?? 0),
      );
      return { account, balance: balance === 0 ? 0 : balance, children };
    });
}

/** 1 where debits raise the shown balance, −1 where credits do. */
export function sign({ type }: Pick<Account, 'type'>): 1 | -1 {
  return CREDIT.has(type) ? -1 : 1;
}

function BranchItem({
  branch,
  depth,
  currentId,
}: {
  readonly branch: Branch;
  readonly depth: number;
  readonly currentId: string | null;
}) {
  const { booksId, amount } = useBooks();
  const { account, balance, children } = branch;
  return (
    <li>
      <NavLink
        to={`/books/${booksId}/ledger/${account.id}`}
        className={balance === 0 ? 'nil' : ''}
        aria-current={account.id === currentId ? 'page' : undefined}
        style={{ paddingLeft: 12 + depth * 16 }}
      >
        <span className="quiet">{account.code}</span>
        <span className={children.length > 0 ? 'group' : ''}>{account.name}</span>
        <span className="num">{balance === 0 ? '—' : amount(balance)}</span>
      </NavLink>
      {children.length > 0 && (
        <ul>
          {children.map((child) => (
            <BranchItem
              key={child.account.id}
              branch={child}
              depth={depth + 1}
              currentId={currentId}
            />
          ))}
        </ul>
      )}
    </li>
  );
}
