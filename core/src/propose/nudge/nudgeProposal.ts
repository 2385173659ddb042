import type { AccountId, PayeeId } from '../../ids.ts';
import type { AccountRole } from '../../ledger/accountRoles.ts';
import { wholeLineCoding } from '../../ledger/coding.ts';
import type { AccountType } from '../../ledger/kinds.ts';
import type { Minor } from '../../money/minor.ts';
import type { Doubt, PostProposal } from '../proposal.ts';
import { type NudgeFacts, type NudgeKind, nudgeOfWording, nudgeRoles } from './nudges.ts';

/** What of the books nudges depend on. */
export interface NudgeBooks {
  /** A purchase of at least this much may be a fixed asset; null where the books want no such nudge. */
  readonly assetThreshold: Minor | null;
  readonly accountOfRole: (role: AccountRole) => string | null;
  /** Where an owner's drawings go, where that owner has an account of their own; null for all others. */
  readonly drawingsOf: (payeeId: PayeeId) => AccountId | null;
  readonly accountType: (accountId: AccountId) => AccountType | null;
  /** Whether somebody said that this kind of nudge is not wanted here any more. */
  readonly isDismissed: (nudge: NudgeKind, payeeId: PayeeId | null, stem: string) => boolean;
}

/** An open line, as nudges look at it. */
export interface NudgedLine extends NudgeFacts {
  readonly payee: string | null;
  /** In positive, out negative. */
  readonly amount: Minor;
  readonly stem: string;
}

/** What was decided on look-alikes, as far as nudges care. */
export interface NudgePast {
  /** Decisions on look-alikes that went to the proposed account. */
  readonly times: number;
  /** Of them, those of at least the asset threshold. */
  readonly largeTimes: number;
  /** Whether any of them was money in the same direction. */
  readonly isSameSide: boolean;
}

/** Decided so often, look-alikes need no nudge: somebody has made up their mind. */
const SETTLED = 3;
/** So many large ones to a running cost, and the next is no surprise. */
const LARGE_SETTLED = 2;

/**
 * A proposal with the doubt that the line may be a fixed asset, loan, wages, tax, a deposit, the owner's
 * money or cash, where it points to such an account and is not proposed there anyway. A line that nothing
 * is proposed for gets that account as a proposal, which waits in Check.
 *
 * @param proposal what else is proposed
 * @param past how settled that is
 * @returns the proposal itself where there is nothing to say
 * @example a first “LOAN 88-204” with no proposal: 2400 Loans, with the doubt that it looks like a loan
 */
export function nudged(
  line: NudgedLine,
  proposal: PostProposal | null,
  past: NudgePast,
  books: NudgeBooks,
): PostProposal | null {
  const payeeId = proposal?.coding.payeeId ?? null;
  const accountId = proposal?.coding.parts[0]?.accountId ?? null;
  if (proposal && accountId && isRefund(line, accountId, past, books)) {
    if (books.isDismissed('refund', payeeId, line.stem)) return proposal;
    // That it goes back to where the cost went is what matters; how seldom it was seen says nothing more.
    const doubts = proposal.doubts.filter(({ kind }) => !OF_HABIT.has(kind));
    return { ...proposal, doubts: [...doubts, { kind: 'nudge', nudge: 'refund', accountId }] };
  }
  const said = nudgeOfWording(line);
  if (said !== null && past.times < SETTLED) {
    const drawings = said.kind === 'owner' && payeeId !== null ? books.drawingsOf(payeeId) : null;
    const towards = drawings ?? books.accountOfRole(nudgeRoles[said.kind]);
    const isElsewhere = towards !== null && towards !== accountId && isPlain(accountId, books);
    if (isElsewhere && !books.isDismissed(said.kind, payeeId, line.stem)) {
      const doubt: Doubt = { kind: 'nudge', nudge: said.kind, accountId: towards };
      if (proposal !== null) return { ...proposal, doubts: [...proposal.doubts, doubt] };
      return {
        kind: 'post',
        source: 'starter',
        coding: wholeLineCoding(towards, null, null),
        grounds: [{ kind: 'word', word: said.word }],
        doubts: [doubt],
      };
    }
  }
  if (proposal === null || !isLargePurchase(line, accountId, books)) return proposal;
  if (past.largeTimes >= LARGE_SETTLED) return proposal;
  const assets = books.accountOfRole(nudgeRoles.fixedAsset);
  if (books.isDismissed('fixedAsset', payeeId, line.stem)) return proposal;
  const doubt: Doubt = { kind: 'nudge', nudge: 'fixedAsset', accountId: assets };
  return { ...proposal, doubts: [...proposal.doubts, doubt] };
}

/** Doubts that money of the other direction always has. */
const OF_HABIT: ReadonlySet<Doubt['kind']> = new Set([
  'seenSeldom',
  'newWording',
  'newNumber',
  'unusualAmount',
  'unsure',
]);

/** Money the other way than it went so far: back from a supplier towards the cost, or to a customer from the income. */
function isRefund(
  { amount }: NudgedLine,
  accountId: AccountId,
  { times, isSameSide }: NudgePast,
  { accountType }: NudgeBooks,
): boolean {
  if (times === 0 || isSameSide) return false;
  return accountType(accountId) === (amount > 0 ? 'expense' : 'income');
}

/** Running costs, income and nothing at all are where such lines are coded by mistake. */
function isPlain(accountId: AccountId | null, books: NudgeBooks): boolean {
  const type = accountId === null ? null : books.accountType(accountId);
  return type === null || type === 'expense' || type === 'income';
}

function isLargePurchase(
  { amount }: NudgedLine,
  accountId: AccountId | null,
  { assetThreshold, accountType }: NudgeBooks,
): boolean {
  if (assetThreshold === null || amount > -assetThreshold || accountId === null) return false;
  return accountType(accountId) === 'expense';
}
