import { wholeLineCoding } from '../../ledger/coding.ts';
import type { PostProposal } from '../proposal.ts';
import { type Trade, type TradeFacts, tradeOf } from './trades.ts';

/** What starter knowledge needs of the books. */
export interface StarterBooks {
  /** The account for a trade; null where the chart has none. */
  readonly accountForTrade: (trade: Trade) => string | null;
}

/**
 * What is usual elsewhere for a line that these books know nothing of: the account that its merchant
 * category or a plain word points to. It is never sure.
 *
 * @returns null where nothing does
 */
export function proposeFromStarter(line: TradeFacts, books: StarterBooks): PostProposal | null {
  const found = tradeOf(line);
  const accountId = found && books.accountForTrade(found.trade);
  if (!found || !accountId) return null;
  const { trade, by } = found;
  return {
    kind: 'post',
    source: 'starter',
    coding: wholeLineCoding(accountId, null, null),
    grounds: [
      'code' in by
        ? { kind: 'category', code: by.code, trade: trade.name }
        : { kind: 'word', word: by.word },
    ],
    doubts: [{ kind: 'onlyUsual' }],
  };
}
