import type { AccountId } from '../ids.ts';
import type { Leg } from '../ledger/buildLegs.ts';
import { type Minor, roundedQuotient, sumMinor, sumOf } from '../money/minor.ts';
import { inBooksCurrency, type Rate } from './rate.ts';

/** The rate at which an entry was taken into the books. */
export interface Exchange {
  /** In which its bank account or document is, ISO 4217. */
  readonly currency: string;
  readonly rate: Rate;
}

/** A leg in the books' currency, with what it is in that of its bank account or document. */
export interface ExchangedLeg extends Leg {
  /** In minor units of the other currency; left out where the leg is in the books' own alone. */
  readonly original?: Minor | null;
}

/**
 * Legs in the books' currency: each is rounded to the minor unit, half away from zero, and what the rounding leaves
 * goes to exchange gain or loss.
 *
 * @param legs in the other currency; they add up to zero
 * @param own the books' currency
 * @param differenceAccount where exchange gains and losses are posted, asked for only where there is one
 * @returns legs that add up to zero in the books' currency
 */
export function exchangedLegs(
  legs: readonly Leg[],
  { currency, rate }: Exchange,
  own: string,
  differenceAccount: () => AccountId,
): readonly ExchangedLeg[] {
  const exchanged = legs.map(
    (leg): ExchangedLeg => ({
      ...leg,
      amount: inBooksCurrency(leg.amount, rate, currency, own),
      original: leg.amount,
      ...(leg.taxable == null
        ? {}
        : { taxable: inBooksCurrency(leg.taxable, rate, currency, own) }),
    }),
  );
  const left = sumMinor(exchanged.map(({ amount }) => amount));
  return left === 0 ? exchanged : [...exchanged, differenceLeg(differenceAccount(), -left)];
}

/** What an exchange rate gained or lost. */
export function differenceLeg(accountId: AccountId, amount: Minor): ExchangedLeg {
  return { accountId, amount, taxCodeId: null, role: 'base', original: 0 };
}

/** What is settled of a document: in its own currency, and what stands in the books for it. */
export interface SettledWorth {
  /** All of the document. */
  readonly amount: Minor;
  /** What all of it was taken into the books at. */
  readonly worth: Minor;
  /** What was settled before, in both. */
  readonly before: { readonly amount: Minor; readonly worth: Minor };
  /** What is settled now. */
  readonly settled: Minor;
}

/**
 * What stands in the books for the part of a document that is settled: its share, and with the last part all that is
 * left, so that nothing stays on what is owed.
 *
 * @returns signed like `settled`
 * @example a bill of 1,000.00 USD taken in at 920.00 EUR, 333.33 paid: 306.66; then the rest: 613.34
 */
export function settledWorth({ amount, worth, before, settled }: SettledWorth): Minor {
  if (before.amount + settled === amount) return worth - before.worth;
  if (before.amount + settled === 0) return 0 - before.worth;
  const share = roundedQuotient(
    BigInt(Math.abs(worth)) * BigInt(Math.abs(settled)),
    BigInt(Math.abs(amount)),
  );
  return settled < 0 ? 0 - share : share;
}

/**
 * Takes what was paid and what stood in the books for it apart: the legs of what is owed come to what stood there, and
 * the rest is exchange gain or loss.
 *
 * @param legs the entry so far, in the books' currency
 * @param owed by account, what the legs of what is owed have to come to
 */
export function withDifference(
  legs: readonly ExchangedLeg[],
  owed: ReadonlyMap<AccountId, Minor>,
  differenceAccount: () => AccountId,
): readonly ExchangedLeg[] {
  const more = [...owed].flatMap(([accountId, wanted]): ExchangedLeg[] => {
    const by = wanted - sumOf(legs.filter((leg) => leg.accountId === accountId));
    if (by === 0) return [];
    return [{ accountId, amount: by, taxCodeId: null, role: 'control', original: 0 }];
  });
  const left = sumOf(more);
  return left === 0
    ? [...legs, ...more]
    : [...legs, ...more, differenceLeg(differenceAccount(), -left)];
}
