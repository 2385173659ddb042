import { fail } from '../errors.ts';
import type { DocumentId, PayeeId } from '../ids.ts';
import { type Minor, sumOf } from '../money/minor.ts';
import type { Leg } from './buildLegs.ts';
import { controlLeg, type DocumentSide, sideOfCredit } from './documents.ts';

/** A document, and how much of it an entry made by hand settles. */
export interface SettledByHand {
  readonly documentId: DocumentId;
  readonly side: DocumentSide;
  readonly payeeId: PayeeId | null;
  /** What is open of it, signed: what a line would have to come to. */
  readonly open: Minor;
  /** What is settled of that, signed like it. */
  readonly amount: Minor;
}

/** What an entry made by hand settles, and what is left of its money. */
export interface HandSettlement {
  /** What it settles, and what it leaves as credit, as the legs of what is owed. */
  readonly legs: readonly Leg[];
  /** Money that neither settles anything nor stays as credit: it is coded. In positive, out negative. */
  readonly rest: Minor;
  /** What stays as credit with the payee, as the amount of its document. */
  readonly credit: {
    readonly side: DocumentSide;
    readonly payeeId: PayeeId;
    readonly amount: Minor;
  } | null;
}

/**
 * Works out what a payment, receipt, cheque or deposit settles of documents.
 *
 * @param money in positive, out negative
 * @param leavesCredit whether what is more than the documents stays with the payee
 * @throws {ZubrellError} SETTLE_PAYEE, SETTLE_MORE, SETTLE_OVER, PAIR_DIRECTION, SETTLE_NO_CREDIT
 * @example −60.00 for a bill of which −48.50 is open, the rest left as credit: payables +48.50 and +11.50
 */
export function handSettlement(
  money: Minor,
  settled: readonly SettledByHand[],
  { payeeId, leavesCredit }: { readonly payeeId: PayeeId | null; readonly leavesCredit: boolean },
  accounts: Readonly<Record<DocumentSide, string>>,
): HandSettlement {
  for (const { open, amount, payeeId: theirs } of settled) {
    if (theirs !== payeeId) fail('SETTLE_PAYEE');
    const isPart = Math.sign(amount) === Math.sign(open) && Math.abs(amount) <= Math.abs(open);
    if (amount === 0 || !isPart) fail('SETTLE_MORE');
  }
  const paid = sumOf(settled);
  if (settled.length > 0 && Math.sign(paid) !== Math.sign(money)) fail('PAIR_DIRECTION');
  const rest = money - paid;
  if (rest !== 0 && Math.sign(rest) !== Math.sign(money)) fail('SETTLE_OVER');
  const sides = new Map<DocumentSide, Minor>();
  for (const { side, amount } of settled) sides.set(side, (sides.get(side) ?? 0) - amount);
  const legs = [...sides].map(([side, amount]) => controlLeg(accounts, side, amount));
  if (!leavesCredit) return { legs, rest, credit: null };
  if (rest === 0 || payeeId === null) fail('SETTLE_NO_CREDIT');
  const side = sideOfCredit(rest);
  return {
    legs: [...legs, controlLeg(accounts, side, -rest)],
    rest: 0,
    credit: { side, payeeId, amount: -rest },
  };
}
