import { wholeLineCoding } from '../../ledger/coding.ts';
import type { PostProposal } from '../proposal.ts';
import type { OtherBooksSay } from './elsewhere.ts';

/** A habit less sure than this hardly knows the payee: what other books did with it is the better guess. */
export const WEAKER_THAN_ELSEWHERE = 0.5;

/** What the owner's other books did with this payee, as a proposal that is never sure. */
export function proposeFromElsewhere({ accountId, books, of }: OtherBooksSay): PostProposal {
  return {
    kind: 'post',
    source: 'otherBooks',
    coding: wholeLineCoding(accountId, null, null),
    grounds: [{ kind: 'otherBooks', books, of, accountId }],
    doubts: [{ kind: 'onlyOtherBooks' }],
  };
}
