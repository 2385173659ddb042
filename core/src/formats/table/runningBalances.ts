import type { Minor } from '../../money/minor.ts';
import type { BankLine } from '../bankFile.ts';

/**
 * Opening and closing balance from a column of running balances, which may run with time or
 * against it: the way that adds up more often is taken, the dates decide where neither does.
 *
 * @param lines in the file's order
 * @returns null for both where the first or last line has no balance
 * @example a file of −4.00 (balance 6.00) and −1.00 (balance 5.00) opens with 10.00, closes with 5.00
 */
export function runningBalances(lines: readonly BankLine[]): {
  readonly opening: Minor | null;
  readonly closing: Minor | null;
} {
  const first = lines[0];
  const last = lines.at(-1);
  if (!first || !last || first.balance === null || last.balance === null) {
    return { opening: null, closing: null };
  }
  let withTime = 0;
  let againstTime = 0;
  let before = first;
  for (const line of lines.slice(1)) {
    if (before.balance !== null && line.balance !== null) {
      if (line.balance === before.balance + line.amount) withTime += 1;
      if (before.balance === line.balance + before.amount) againstTime += 1;
    }
    before = line;
  }
  const isWithTime = withTime === againstTime ? first.date <= last.date : withTime > againstTime;
  return isWithTime
    ? { opening: first.balance - first.amount, closing: last.balance }
    : { opening: last.balance - last.amount, closing: first.balance };
}
