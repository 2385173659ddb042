/** A rate of a tax code, and from which day it holds. */
export interface DatedRate {
  /** Null for ever since. */
  readonly fromDate: string | null;
  /** Hundredths of a percent. */
  readonly rate: number;
}

/**
 * The rate that holds on a day.
 *
 * @returns null where none does yet
 * @example rateOn([{ fromDate: null, rate: 1900 }, { fromDate: '2026-07-01', rate: 2000 }], '2026-06-30') // 1900
 */
export function rateOn(rates: readonly DatedRate[], date: string): number | null {
  const begun = rates.filter(({ fromDate }) => (fromDate ?? '') <= date);
  const [newest] = begun.sort((a, b) => (b.fromDate ?? '').localeCompare(a.fromDate ?? ''));
  return newest?.rate ?? null;
}
