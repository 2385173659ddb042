import { t } from '@zubrell/core/words/t';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import type { Period } from './reportPeriod.ts';

/** What a saved report says of itself. @param isOnDay whether it is of the last day, not of the period */
export function useReportFacts({ from, to }: Period, isOnDay = false): readonly string[] {
  const { setup } = useBooks();
  const days = isOnDay
    ? t`On ${formatLongDate(to)}`
    : t`${formatLongDate(from)} to ${formatLongDate(to)}`;
  return [setup.books.name, days, t`In ${setup.books.currency}`];
}
