import type { CalendarDate } from '../dates/calendarDate.ts';
import type { DatedBalance } from '../intake/balanceChain.ts';
import type { Minor } from '../money/minor.ts';

/** A line as far as running balances go, in the order of its statement. */
export interface BalancedLine {
  readonly date: CalendarDate;
  readonly amount: Minor;
  /** The balance that the bank states after it; null where it states none. */
  readonly balance: Minor | null;
}

/** Between two stated balances something is missing or too much. */
export interface Gap {
  /** How much more the bank's balance moved there than lines say. */
  readonly amount: Minor;
  /** The places of the lines between the two balances: the first, and the one after the last. */
  readonly first: number;
  readonly end: number;
  /** The days on which the balances are. */
  readonly from: CalendarDate;
  readonly to: CalendarDate;
}

/** What stated balances within a statement say of where it does not add up. */
export interface Checked {
  readonly gaps: readonly Gap[];
  /** How many balances were looked at: with few of them a gap is wide. */
  readonly count: number;
}

/**
 * Where balances that the bank states within a period stop following from its lines. Of each day the last balance counts,
 * by the order of the file or the other way round, whichever adds up more often.
 *
 * @param lines by day, and in the order of their file within a day
 * @param opening the balance before the first line
 * @param closing the balance after the last day, where one is stated
 * @param stated balances at the end of days
 */
export function checkBalances(
  lines: readonly BalancedLine[],
  opening: DatedBalance,
  closing: DatedBalance | null,
  stated: readonly DatedBalance[] = [],
): Checked {
  const ways = [lastOfDays(lines, false), lastOfDays(lines, true)].map((own) =>
    gapsOf(lines, opening, closing, [...own, ...stated]),
  );
  const [forward = { gaps: [], count: 0 }, backward = forward] = ways;
  return backward.gaps.length < forward.gaps.length ? backward : forward;
}

function gapsOf(
  lines: readonly BalancedLine[],
  opening: DatedBalance,
  closing: DatedBalance | null,
  balances: readonly DatedBalance[],
): Checked {
  const points = new Map(balances.map(({ date, amount }) => [date, amount]));
  if (closing) points.set(closing.date, closing.amount);
  const days = [...points.keys()].filter((date) => date >= opening.date).sort();
  const gaps: Gap[] = [];
  let at = 0;
  let sum = opening.amount;
  let off = 0;
  let first = 0;
  let from = opening.date;
  for (const date of days) {
    for (let line = lines[at]; line && line.date <= date; line = lines[at]) {
      sum += line.amount;
      at += 1;
    }
    const now = (points.get(date) ?? 0) - sum;
    if (now !== off) gaps.push({ amount: now - off, first, end: at, from, to: date });
    [off, first, from] = [now, at, date];
  }
  return { gaps, count: days.length };
}

/** The last balance of each day that lines state one for. */
function lastOfDays(lines: readonly BalancedLine[], isReversed: boolean): DatedBalance[] {
  const last = new Map<CalendarDate, Minor>();
  for (const { date, balance } of lines) {
    if (balance === null || (isReversed && last.has(date))) continue;
    last.set(date, balance);
  }
  return [...last].map(([date, amount]) => ({ date, amount }));
}
