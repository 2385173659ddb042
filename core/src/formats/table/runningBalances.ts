import type { DatedBalance } from '../../intake/balanceChain.ts';
import type { Minor } from '../../money/minor.ts';
import type { BankLine } from '../bankFile.ts';

/** What a column of running balances says. */
export interface RunningBalances {
  /** Before the first and after the last line; null where that line has no balance. */
  readonly opening: Minor | null;
  readonly closing: Minor | null;
  /** The balance at the end of each day that states one, in the order of time. */
  readonly days: readonly DatedBalance[];
}

/**
 * Reads a column of running balances, which may run with time or against it: the way that adds up more
 * often is taken, the dates decide where neither does.
 *
 * @param lines in the file's order
 * @example a file of −4.00 (balance 6.00) and −1.00 (balance 5.00) opens with 10.00, closes with 5.00
 */
export function runningBalances(lines: readonly BankLine[]): RunningBalances {
  const inTime = isWithTime(lines) ? lines : [...lines].reverse();
  const first = inTime[0];
  const last = inTime.at(-1);
  const days = new Map<string, Minor>();
  let isSorted = true;
  let before = '';
  for (const { date, balance } of inTime) {
    if (date < before) isSorted = false;
    before = date;
    if (balance === null) days.delete(date);
    else days.set(date, balance);
  }
  const isWhole = first?.balance != null && last?.balance != null;
  return {
    opening: isWhole && first?.balance != null ? first.balance - first.amount : null,
    closing: isWhole ? (last?.balance ?? null) : null,
    // Where dates go to and fro, the last line of a day is not the day's last.
    days: isSorted ? [...days].map(([date, amount]) => ({ date, amount })) : [],
  };
}

function isWithTime(lines: readonly BankLine[]): boolean {
  const [first, last] = [lines[0], lines.at(-1)];
  let withTime = 0;
  let againstTime = 0;
  let before = first;
  for (const line of lines.slice(1)) {
    if (before && before.balance !== null && line.balance !== null) {
      if (line.balance === before.balance + line.amount) withTime += 1;
      if (before.balance === line.balance + before.amount) againstTime += 1;
    }
    before = line;
  }
  return withTime === againstTime
    ? (first?.date ?? '') <= (last?.date ?? '')
    : withTime > againstTime;
}
