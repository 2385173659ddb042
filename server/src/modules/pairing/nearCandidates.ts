import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { inBooksCurrency } from '@zubrell/core/exchange/rate';
import type { NamedPayee } from '@zubrell/core/pair/namesIn';
import { lineReader, namesNumber, payeesOf, readCandidate } from '@zubrell/core/pair/weighPair';
import type { BooksMoney, CurrencyDay } from '../books/money.ts';
import type { BooksCandidate } from '../ledger/candidates.ts';
import type { OpenPairLine } from './findPairs.ts';

/** In two currencies what is paid is so near to what the rates of the day say. */
const NEAR = 0.05;
/** The half of a move that the bank's own rate made is so near. */
const NEAR_HALF = 0.1;
const HALF_DAYS = 7;

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
        return isHere && days <= HALF_DAYS && isWithin(line.amount, candidate.amount, NEAR_HALF);
      }
      const isNamed =
        namesNumber(each, known) ||
        (candidate.payeeId !== null && payeesOf(each).has(candidate.payeeId));
      const [paid, owed] = [
        worthIn({ ...line, currency }, money),
        worthIn({ ...candidate, date: line.date }, money),
      ];
      return isNamed && paid !== null && owed !== null && isWithin(paid, owed, NEAR);
    });
    return near ? [{ ...candidate, amount: near.line.amount }] : [];
  });
}

function isWithin(amount: number, other: number, share: number): boolean {
  return Math.abs(amount - other) <= share * Math.abs(other);
}

/** What an amount is worth in the books' currency by the rate of its day; null where none is known. */
export function worthIn(
  { amount, currency, date }: CurrencyDay & { readonly amount: number },
  money: BooksMoney,
): number | null {
  if (currency === money.own) return amount;
  const { rate } = money.known({ currency, date });
  return rate === null ? null : inBooksCurrency(amount, rate, currency, money.own);
}
