import type { CalendarDate } from '../dates/calendarDate.ts';
import type { Minor } from '../money/minor.ts';

/** A balance and the day at whose end it holds. */
export interface DatedBalance {
  readonly date: CalendarDate;
  readonly amount: Minor;
}

/** What moved on a day. */
export interface DatedAmount {
  readonly date: CalendarDate;
  readonly amount: Minor;
}

/** Where stated balances stop adding up. */
export interface ChainBreak extends StatedDifference {
  /** The last day before on which it added up; null where none was stated before. */
  readonly since: CalendarDate | null;
}

/** How far a stated balance is from what lines give. */
export interface StatedDifference {
  readonly date: CalendarDate;
  readonly stated: Minor;
  /** Stated less opening less lines: unexplained on that day. */
  readonly difference: Minor;
}

/**
 * What each stated balance leaves unexplained.
 *
 * @param opening the balance before all lines; null where none is known, so that the first stated
 *   balance begins the chain
 * @param moved amounts by day, in any order; several of one day add up
 * @param stated end-of-day balances, in any order; those before the opening are passed over
 * @returns in the order of time
 * @example statedDifferences({ date: '2026-03-01', amount: 100 }, [{ date: '2026-03-02', amount: -5 }],
 *   [{ date: '2026-03-02', amount: 90 }]) // [{ date: '2026-03-02', stated: 90, difference: -5 }]
 */
export function statedDifferences(
  opening: DatedBalance | null,
  moved: readonly DatedAmount[],
  stated: readonly DatedBalance[],
): StatedDifference[] {
  const days = [...moved].sort(byDate);
  const points = [...stated].sort(byDate);
  const start = opening?.date ?? '';
  let balance = opening?.amount ?? null;
  let next = 0;
  return points.flatMap((point): StatedDifference[] => {
    if (point.date < start) return [];
    for (let day = days[next]; day && day.date <= point.date; day = days[next]) {
      next += 1;
      if (balance !== null && day.date > start) balance += day.amount;
    }
    balance ??= point.amount;
    return [{ date: point.date, stated: point.amount, difference: point.amount - balance }];
  });
}

/**
 * The first day on which stated balances stop adding up, or null where all do.
 *
 * @param differences as `statedDifferences` gives them
 */
export function firstBreak(differences: readonly StatedDifference[]): ChainBreak | null {
  const at = differences.findIndex(({ difference }) => difference !== 0);
  const broken = differences[at];
  return broken ? { ...broken, since: differences[at - 1]?.date ?? null } : null;
}

function byDate(a: DatedAmount, b: DatedAmount): number {
  return a.date < b.date ? -1 : a.date > b.date ? 1 : 0;
}
