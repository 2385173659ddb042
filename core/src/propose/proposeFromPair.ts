import type { AccountId } from '../ids.ts';
import { wholeLineCoding } from '../ledger/coding.ts';
import type { HalfFound } from '../pair/findHalves.ts';
import type { PairFound } from '../pair/proposePairs.ts';
import type { Doubt, Ground, PairProposal, PostProposal, Proposal } from './proposal.ts';

/**
 * Proposes to pair a line with what was found for it.
 *
 * @param otherwise what would be proposed if nothing were found: a rule or habit that would have it coded is a
 *   doubt, unless a number proves what was found
 */
export function proposeFromPair(found: PairFound, otherwise: Proposal | null): PairProposal {
  const { candidates, reasons, because, differences, others, rivals, isCertain, isNumbered } =
    found;
  const doubts: Doubt[] = [];
  if (differences.length > 0) doubts.push({ kind: 'pairDiffers', differences });
  if (!isCertain && others.length > 0) doubts.push({ kind: 'anotherFits', count: others.length });
  if (rivals > 0) {
    const named = candidates.map(({ kind, number }) => ({ kind, number }));
    doubts.push({ kind: 'equalLines', count: rivals, targets: named });
  }
  const by = otherwise?.source;
  if (!isNumbered && (by === 'rule' || by === 'habit') && isSure(otherwise)) {
    doubts.push({ kind: 'codedOtherwise', by });
  }
  if (!isCertain && doubts.length === 0) doubts.push({ kind: 'unsurePair' });
  return {
    kind: 'pair',
    source: 'pair',
    targets: candidates.map(({ id, kind, date, dueDate, amount, payeeId, number }) => ({
      id,
      kind,
      date,
      dueDate,
      amount,
      payeeId,
      number,
    })),
    grounds: [{ kind: 'fits', by: reasons, because }],
    doubts,
  };
}

/** What a habit is not sure of says nothing against a pair. */
function isSure(proposal: Proposal | null): boolean {
  return proposal !== null && (proposal.source === 'rule' || proposal.doubts.length === 0);
}

/**
 * Proposes to post a line as a move to or from another own account, whose half is open there.
 *
 * @param accountId the other bank account's ledger account
 */
export function proposeFromHalf(
  { other, isCertain }: HalfFound,
  accountId: AccountId,
): PostProposal {
  const { id: lineId, bankAccountId, date } = other;
  return {
    kind: 'post',
    source: 'transfer',
    coding: wholeLineCoding(accountId, null, null),
    grounds: [{ kind: 'otherHalf', lineId, bankAccountId, date }],
    doubts: isCertain ? [] : [{ kind: 'unsurePair' }],
  };
}

/**
 * Proposes to post a line as a move to or from another own account that its wording names, or whose card's statement
 * it pays, though nothing has arrived there yet.
 *
 * @param ground what speaks for that account
 * @param accountId the other bank account's ledger account
 */
export function proposeOneSide(
  ground: Extract<Ground, { kind: 'namesAccount' | 'paysCard' }>,
  accountId: AccountId,
): PostProposal {
  return {
    kind: 'post',
    source: 'transfer',
    coding: wholeLineCoding(accountId, null, null),
    grounds: [ground],
    doubts: [{ kind: 'otherSideMissing', bankAccountId: ground.bankAccountId }],
  };
}
