import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { BANK_SHARE, isWithin } from '@zubrell/core/exchange/rate';
import { HALF_DAYS } from '@zubrell/core/pair/findHalves';
import type { NamedPayee } from '@zubrell/core/pair/namesIn';
import { lineReader, namesNumber, payeesOf, readCandidate } from '@zubrell/core/pair/weighPair';
import type { BooksMoney } from '../books/money.ts';
import type { BooksCandidate } from '../ledger/candidates.ts';
import type { OpenPairLine } from './findPairs.ts';

/** In two currencies what is paid is so near to what the rates of the day say. */
const NEAR = 0.05;

/**
 * Candidates as lines of one currency may pay them. A document in another currency has the amount of the line that
 * names it or its payee and comes near to it; the half of a move between currencies that of the line that is near.
 * What no line is near to is left out.
 */
export function nearCandidates(
  candidates: readonly BooksCandidate[],
  {
    lines,
    currency,
    payees,
  }: {
    readonly lines: readonly OpenPairLine[];
    readonly currency: string;
    readonly payees: readonly NamedPayee[];
  },
  money: BooksMoney,
): readonly BooksCandidate[] {
  const isPlain = candidates.every((each) => each.currency === currency && !each.isEstimate);
  if (isPlain) return candidates;
  const read = lines.map(lineReader(payees));
  return candidates.flatMap((candidate): BooksCandidate[] => {
    if (candidate.currency === currency && !candidate.isEstimate) return [candidate];
    if (candidate.bankAccountId !== null && candidate.currency !== currency) return [];
    const known = readCandidate(candidate);
    const near = read.find((each) => {
      const { line } = each;
      if (Math.sign(line.amount) !== Math.sign(candidate.amount)) return false;
      if (candidate.isEstimate) {
        const isHere = line.bankAccountId === candidate.bankAccountId;
        const days = Math.abs(daysBetween(line.date, candidate.date));
        return isHere && days <= HALF_DAYS && isWithin(line.amount, candidate.amount, BANK_SHARE);
      }
      const isNamed =
        namesNumber(each, known) ||
        (candidate.payeeId !== null && payeesOf(each).has(candidate.payeeId));
      const paid = money.worth({ ...line, currency });
      const owed = money.worth({ ...candidate, date: line.date });
      return isNamed && paid !== null && owed !== null && isWithin(paid, owed, NEAR);
    });
    return near ? [{ ...candidate, amount: near.line.amount }] : [];
  });
}
