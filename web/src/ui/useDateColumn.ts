import type { CalendarDate } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useShowDate } from '../app/useToday.ts';
import type { Column } from './DataTable.tsx';

/** The column of a table that says on which day a row is, and by which rows can be put in order. */
export function useDateColumn(): Column<{ readonly date: CalendarDate }> {
  const showDate = useShowDate();
  return {
    id: 'date',
    head: t`Date`,
    className: 'date',
    cell: ({ date }) => showDate(date),
    sortBy: ({ date }) => date,
  };
}
