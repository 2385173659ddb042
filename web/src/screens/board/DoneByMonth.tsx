import { useMemo } from 'react';
import { Link } from 'react-router';
import { habitsApi } from '../../api/habits.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Chart } from '../../ui/Chart.tsx';
import { DoneLegend } from '../reports/DoneLegend.tsx';
import { doneByMonth, doneChart } from '../reports/recordShown.ts';
import { useChartColors } from '../reports/useChartColors.ts';

/** So many months fit beside each other. */
const MONTHS = 12;

/** How lines got done, month by month; nothing until a line is posted. */
export function DoneByMonth() {
  const { booksId } = useBooks();
  const { data } = habitsApi.useCodingRecordQuery(booksId);
  const colors = useChartColors();
  const done = useMemo(() => (data ? doneByMonth(data).slice(-MONTHS) : []), [data]);
  const option = useMemo(() => doneChart(done, colors), [done, colors]);
  const last = done.at(-1);
  if (!last) return null;
  return (
    <section className="sheet done-by-month" aria-label="How lines got done">
      <div className="chart-head-row">
        <h2>
          <Link to={`/books/${booksId}/reports`}>How lines got done</Link>
        </h2>
        <DoneLegend done={done} />
      </div>
      <Chart
        option={option}
        height={230}
        label={`In the last month shown, ${last.habit} by habit, ${last.rule} by rule, ${last.hand} by hand`}
      />
    </section>
  );
}
