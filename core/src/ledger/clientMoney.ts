import type { ExchangedLeg } from '../exchange/exchangedLegs.ts';
import type { AccountId, PayeeId } from '../ids.ts';
import { type Minor, sumOf } from '../money/minor.ts';
import type { Coding, CodingPart } from './coding.ts';

/** How much of what moves on a bank account that holds clients' money is one client's. */
export interface ClientShare {
  readonly clientId: PayeeId;
  /** In the bank account's currency, in positive, out negative. */
  readonly amount: Minor;
}

/** What is known of books that hold money for clients. */
export interface ClientMoneyBooks {
  /** Whether a ledger account stands for a bank account that holds clients' money. */
  readonly holdsClients: (accountId: AccountId) => boolean;
  readonly isCustomer: (payeeId: PayeeId) => boolean;
}

/** Whose money a part is: that of the client who is named, else of the payee where that is a customer; null for nobody. */
export function clientOf(
  { clientId }: Pick<CodingPart, 'clientId'>,
  payeeId: PayeeId | null,
  { isCustomer }: Pick<ClientMoneyBooks, 'isCustomer'>,
): PayeeId | null {
  if (clientId) return clientId;
  return payeeId !== null && isCustomer(payeeId) ? payeeId : null;
}

/**
 * Whether a coding doesn't say whose money moves, where it has to: on a bank account that holds clients' money, or to
 * or from one.
 *
 * @param ownAccountId the ledger account of the line's bank account
 */
export function lacksClient(
  { parts, payeeId }: Coding,
  ownAccountId: AccountId | null,
  books: ClientMoneyBooks,
): boolean {
  const isOwn = ownAccountId !== null && books.holdsClients(ownAccountId);
  return parts.some(
    (part) =>
      (isOwn || books.holdsClients(part.accountId)) && clientOf(part, payeeId, books) === null,
  );
}

/** An entry of which shares are worked out. */
interface SharedEntry {
  readonly payeeId: PayeeId | null;
  readonly exchange?: object | null;
  readonly legs: readonly ExchangedLeg[];
}

/**
 * Whose money a leg on a bank account that holds clients' money is. A leg that names its client is that client's; else
 * the entry's other legs say it, each for as much as it comes to.
 *
 * @returns null where the client of a part isn't said; the shares add up to the leg
 * @example bank −100.00, fees of Alder +60.00, fees of Birch +40.00: −60.00 of Alder, −40.00 of Birch
 */
export function clientShares(
  { legs, payeeId, exchange = null }: SharedEntry,
  leg: ExchangedLeg,
  books: Pick<ClientMoneyBooks, 'isCustomer'>,
): readonly ClientShare[] | null {
  const own = leg.original ?? leg.amount;
  const named = leg.clientId;
  if (named) return [{ clientId: named, amount: own }];
  const shares = new Map<PayeeId, Minor>();
  for (const other of legs) {
    if (other === leg) continue;
    const clientId = clientOf(other, payeeId, books);
    if (clientId === null) return null;
    // In another currency only what was in the line has an amount of it: differences of rounding have none.
    const amount = exchange === null ? other.amount : (other.original ?? 0);
    shares.set(clientId, (shares.get(clientId) ?? 0) - amount);
  }
  const said = [...shares].map(([clientId, amount]) => ({ clientId, amount }));
  const [first, ...rest] = said;
  if (!first) return null;
  return [{ ...first, amount: own - sumOf(rest) }, ...rest].filter(({ amount }) => amount !== 0);
}

/** What a client's money came to at the end of a day. */
export interface ClientDay {
  readonly date: string;
  /** All that came in and went out on the day. */
  readonly amount: Minor;
}

/**
 * The first day at whose end a client's money is below zero.
 *
 * @param days in any order, each day once or more
 * @returns null where there is none
 */
export function firstBelowZero(days: readonly ClientDay[]): ClientDay | null {
  const sums = new Map<string, Minor>();
  for (const { date, amount } of days) sums.set(date, (sums.get(date) ?? 0) + amount);
  let balance = 0;
  for (const [date, amount] of [...sums].sort(([a], [b]) => (a < b ? -1 : 1))) {
    balance += amount;
    if (balance < 0) return { date, amount: balance };
  }
  return null;
}
