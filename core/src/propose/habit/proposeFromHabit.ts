import { wholeLineCoding } from '../../ledger/coding.ts';
import type { Doubt, Proposal } from '../proposal.ts';

/** How often look-alikes were decided one way. */
export interface PastCoding {
  readonly accountId: string;
  readonly payeeId: string | null;
  readonly taxCodeId: string | null;
  readonly times: number;
  /** Of them, those of at least the books' asset threshold. */
  readonly largeTimes: number;
  /** The number of the latest step that decided so; larger is newer. */
  readonly lastStep: number;
  readonly isAccountOn: boolean;
}

/** A stem decided this often, always to one account, is sure. */
const SURE_FROM = 3;

/**
 * The proposal that past decisions on look-alikes give: the account most of them went to, with the
 * newest payee and tax code used there.
 *
 * @param past decisions on lines of the same stem and direction
 * @returns null where there are none
 * @example three decisions, all to Freight out: that account, without a doubt
 */
export function proposeFromHabit(past: readonly PastCoding[]): Proposal | null {
  const byAccount = new Map<string, number>();
  for (const { accountId, times } of past) {
    byAccount.set(accountId, (byAccount.get(accountId) ?? 0) + times);
  }
  const accounts = [...byAccount]
    .map(([accountId, times]) => ({ accountId, times }))
    .sort((a, b) => b.times - a.times || (a.accountId < b.accountId ? -1 : 1));
  const first = accounts[0];
  if (!first) return null;
  const there = past
    .filter(({ accountId }) => accountId === first.accountId)
    .sort((a, b) => b.lastStep - a.lastStep);
  const newest = there[0];
  if (!newest) return null;
  const of = accounts.reduce((sum, { times }) => sum + times, 0);
  const doubts: Doubt[] = [];
  if (accounts.length > 1) doubts.push({ kind: 'severalAccounts', accounts });
  else if (of < SURE_FROM) doubts.push({ kind: 'seenSeldom', times: of });
  if (new Set(there.map(({ taxCodeId }) => taxCodeId)).size > 1) {
    doubts.push({ kind: 'severalTaxCodes' });
  }
  if (!newest.isAccountOn) doubts.push({ kind: 'accountOff', accountId: first.accountId });
  return {
    kind: 'post',
    source: 'habit',
    coding: wholeLineCoding(first.accountId, newest.payeeId, newest.taxCodeId),
    grounds: [{ kind: 'lookAlikes', times: first.times, of, accountId: first.accountId }],
    doubts,
  };
}
