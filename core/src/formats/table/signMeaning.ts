import type { Minor } from '../../money/minor.ts';

/** An amount as written, with the balance beside it. */
export interface AmountAndBalance {
  readonly amount: Minor;
  readonly balance: Minor | null;
}

/** What the signs of a table mean. */
export interface SignMeaning {
  /** A minus means paid in. */
  readonly isTurned: boolean;
  /** The balance, too, is written from the bank's side. */
  readonly isBalanceTurned: boolean;
  /** Whether the balances follow from the amounts, so that it is proved. */
  readonly isProved: boolean;
}

/** This share of the steps from row to row must hold. */
const MOST = 0.8;

/**
 * What the signs of a table's amounts mean, proved by the balances where there are some: each must be
 * the one before, plus or less the amount. Where amounts and balances agree either way round, as
 * written is taken.
 *
 * @param rows in the file's order, which may run against time
 * @param wanted what somebody chose, or undefined
 * @example purchases of 5.00 and 2.00 that take a balance from −10.00 to −15.00 to −17.00 are turned
 */
export function signMeaning(
  rows: readonly AmountAndBalance[],
  wanted: boolean | undefined,
): SignMeaning {
  let steps = 0;
  const holds = { asWritten: 0, turned: 0 };
  for (const [index, row] of rows.entries()) {
    const before = rows[index - 1];
    if (!before || before.balance === null || row.balance === null) continue;
    if (row.amount === 0 && before.amount === 0) continue;
    steps += 1;
    const moved = row.balance - before.balance;
    // With time a row's own amount moved the balance, against time the amount of the row above.
    if (moved === row.amount || moved === -before.amount) holds.asWritten += 1;
    if (moved === -row.amount || moved === before.amount) holds.turned += 1;
  }
  const isEnough = (count: number) => steps > 0 && count >= MOST * steps;
  const isAsWritten = isEnough(holds.asWritten);
  const isAgainst = isEnough(holds.turned) && !isAsWritten;
  const isTurned = wanted ?? isAgainst;
  return {
    isTurned,
    isBalanceTurned: isTurned ? isAsWritten : isAgainst,
    isProved: isAsWritten || isAgainst,
  };
}
