import type { AccountId } from '../ids.ts';
import type { AccountType } from './kinds.ts';

/** An account in the tree of the chart. */
export interface ChartPlace {
  readonly id: AccountId;
  readonly type: AccountType;
  readonly parentId: AccountId | null;
}

/**
 * Why an account can't stand where it does: it is below itself, or moved below one of another type. One that stood below
 * another type before may stay there.
 *
 * @param chart all accounts as they are to stand
 * @param was the account that it stood below before; null for none
 * @example misplaced([{ id: 'a', type: 'asset', parentId: 'a' }], 'a', null) // 'belowItself'
 */
export function misplaced(
  chart: ReadonlyMap<AccountId, ChartPlace>,
  id: AccountId,
  was: AccountId | null,
): 'belowItself' | 'belowType' | null {
  const account = chart.get(id);
  const passed = new Set<AccountId>();
  for (let at = account?.parentId ?? null; at !== null; at = chart.get(at)?.parentId ?? null) {
    if (at === id) return 'belowItself';
    // A circle further up is another account's.
    if (passed.has(at)) break;
    passed.add(at);
  }
  const parent =
    account && account.parentId !== was ? chart.get(account.parentId ?? '') : undefined;
  return parent && parent.type !== account?.type ? 'belowType' : null;
}
