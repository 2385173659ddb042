import {
  type Exchange,
  type ExchangedLeg,
  settledWorth,
  withDifference,
} from '@zubrell/core/exchange/exchangedLegs';
import {
  BANK_SHARE,
  inBooksCurrency,
  inOtherCurrency,
  isWithin,
} from '@zubrell/core/exchange/rate';
import type { AccountId } from '@zubrell/core/ids';
import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { roundedQuotient, sumOf } from '@zubrell/core/money/minor';
import { isDocument } from '@zubrell/core/pair/pairing';
import type { Settlement } from '@zubrell/core/pair/settlePairing';
import type { BooksMoney, CurrencyDay } from '../books/money.ts';
import type { NewAllocation } from '../decisions/insertDecisions.ts';
import type { BooksCandidate } from './candidates.ts';

/** A candidate with what it comes to in the currency of the lines. */
export interface PaidCandidate extends BooksCandidate {
  /** In its own currency; left out where that is the lines'. */
  readonly inItsOwn?: number;
}

/**
 * Candidates with amounts in the currency of the lines. A document in another currency is worth what its rate of the
 * day says; where that is near to what is left of the lines, it is settled whole by them.
 *
 * @param paid what the lines come to
 * @throws {ZubrellError} RATE_MISSING
 */
export function inCurrencyOfLines(
  targets: readonly PaidCandidate[],
  { currency, date }: { readonly currency: string; readonly date: string },
  paid: number,
  money: BooksMoney,
): readonly PaidCandidate[] {
  const others = targets.filter((target) => target.currency !== currency);
  if (others.length === 0) return targets;
  const converted = new Map(
    others.map((target) => {
      // Says which rate is missing where there is none.
      money.exchange({ currency: target.currency, date });
      const worth = money.worth({ ...target, date }) ?? target.amount;
      const to = money.exchange({ currency, date });
      const amount = to === null ? worth : inOtherCurrency(worth, to.rate, money.own, currency);
      return [target.id, amount] as const;
    }),
  );
  const left = paid - sumOf(targets.filter((target) => target.currency === currency));
  const said = [...converted.values()].reduce((sum, amount) => sum + amount, 0);
  const last = others.at(-1);
  if (last && isWithin(left, said, BANK_SHARE)) {
    converted.set(last.id, (converted.get(last.id) ?? 0) + left - said);
  }
  return targets.map((target) => ({
    ...target,
    amount: converted.get(target.id) ?? target.amount,
    ...(converted.has(target.id) ? { inItsOwn: target.amount } : {}),
  }));
}

/** The days and currencies that pairing lines may need rates for. */
export function daysOfPairing(
  lines: readonly CurrencyDay[],
  targets: readonly Pick<BooksCandidate, 'currency'>[],
): CurrencyDay[] {
  const currencies = new Set(targets.map(({ currency }) => currency));
  return lines.flatMap(({ currency, date }) => [
    { currency, date },
    ...[...currencies].map((each) => ({ currency: each, date })),
  ]);
}

/** Whether a difference is what the bank's own rate made of a move between currencies. */
export function isByBanksRate(targets: readonly BooksCandidate[], by: number): boolean {
  const [only] = targets;
  return (
    targets.length === 1 &&
    only?.isEstimate === true &&
    isWithin(only.amount + by, only.amount, BANK_SHARE)
  );
}

/**
 * What is settled of documents, each in its own currency, with what stood in the books for it.
 *
 * @param currency of the lines, which the allocations are in
 */
export function worthOf(
  allocations: Settlement['allocations'],
  targets: readonly PaidCandidate[],
  currency: string,
  own: string,
): readonly NewAllocation[] {
  return allocations.map((allocation) => {
    const { documentId } = allocation;
    const these = targets.filter(
      (target) => isDocument(target) && (target.documentId ?? target.id) === documentId,
    );
    const [target] = these;
    if (!target?.standing || (target.currency === own && currency === own)) return allocation;
    const whole = sumOf(these);
    const open = these.reduce((sum, { inItsOwn, amount }) => sum + (inItsOwn ?? amount), 0);
    const amount =
      allocation.amount === whole
        ? open
        : roundedQuotient(BigInt(open) * BigInt(allocation.amount), BigInt(whole));
    if (target.currency === own) return { documentId, amount };
    const { amount: all, worth, settled, settledWorth: before } = target.standing;
    return {
      documentId,
      amount,
      worth: settledWorth({
        amount: all,
        worth,
        before: { amount: settled, worth: before },
        settled: amount,
      }),
    };
  });
}

/** The entries of a settlement as they are posted. */
export interface TakenSettlement {
  readonly entries: readonly (readonly ExchangedLeg[])[];
  readonly exchange: Exchange | null;
  /** What stands in the books for credit that is left; null in the books' own currency. */
  readonly creditWorth: number | null;
}

/**
 * The entries of a settlement in the books' currency. What is owed goes by what stood in the books for it, and what
 * the rates made of it in between is exchange gain or loss.
 */
export function takenIn(
  { entries, credit }: Settlement,
  allocations: readonly NewAllocation[],
  {
    targets,
    accounts,
    currency,
    isRestated,
  }: {
    readonly targets: readonly PaidCandidate[];
    readonly accounts: Readonly<Record<DocumentSide, AccountId>>;
    readonly currency: string;
    readonly isRestated: boolean;
  },
  money: BooksMoney,
): TakenSettlement {
  const taken = entries.map(({ date, legs }) => money.takeIn(legs, { currency, date }));
  const exchange = taken.at(-1)?.exchange ?? null;
  const legs = taken.map((each) => [...each.legs]);
  if (isRestated && exchange !== null) {
    return { entries: legs.map((each) => each.map(restated)), exchange, creditWorth: null };
  }
  const creditWorth =
    credit === null || exchange === null
      ? null
      : inBooksCurrency(credit.amount, exchange.rate, currency, money.own);
  const last = legs.at(-1);
  const isPlain = exchange === null && targets.every((target) => target.currency === money.own);
  if (isPlain || last === undefined) return { entries: legs, exchange, creditWorth };
  const owed = owedBy(allocations, targets, credit && { ...credit, worth: creditWorth }, accounts);
  const earlier = legs.slice(0, -1);
  const inLast = new Map(
    [...owed].map(([accountId, amount]) => [
      accountId,
      amount - sumOf(earlier.flat().filter((leg) => leg.accountId === accountId)),
    ]),
  );
  const more = withDifference(last, inLast, money.differenceAccount);
  return { entries: [...earlier, more], exchange, creditWorth };
}

/** By account, what the legs of what is owed have to come to so that documents go by what stood in the books. */
export function owedBy(
  allocations: readonly NewAllocation[],
  targets: readonly BooksCandidate[],
  credit: {
    readonly side: DocumentSide;
    readonly amount: number;
    readonly worth: number | null;
  } | null,
  accounts: Readonly<Record<DocumentSide, AccountId>>,
): ReadonlyMap<AccountId, number> {
  const owed = new Map<AccountId, number>();
  const add = (side: DocumentSide, amount: number) =>
    owed.set(accounts[side], (owed.get(accounts[side]) ?? 0) + amount);
  for (const { documentId, amount, worth } of allocations) {
    const target = targets.find((each) => (each.documentId ?? each.id) === documentId);
    add(target?.side ?? 'payables', -(worth ?? amount));
  }
  if (credit) add(credit.side, credit.worth ?? credit.amount);
  return owed;
}

/** A leg that states only what it is in its own currency. */
function restated(leg: ExchangedLeg): ExchangedLeg {
  return { ...leg, amount: 0, original: leg.role === 'bank' ? (leg.original ?? 0) : 0 };
}
