import type { MonthWork } from '@zubrell/contract/habits';
import { formatMonth } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { habitsApi } from '../../api/habits.ts';
import { countLines, formatDecimal } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Chart } from '../../ui/Chart.tsx';
import { useChartColors } from '../reports/useChartColors.ts';
import { workChart } from './workChart.ts';

/** So many months fit beside each other. */
const MONTHS = 12;

/** How much of each month was coded without a touch, and how many presses it took; nothing until a line is posted. */
export function WorkByMonth() {
  const { booksId } = useBooks();
  const { data } = habitsApi.useCodingRecordQuery(booksId);
  const colors = useChartColors();
  const work = useMemo(() => data?.work.slice(-MONTHS) ?? [], [data]);
  const option = useMemo(() => workChart(work, colors), [work, colors]);
  const last = work.at(-1);
  if (!last) return null;
  const isCounted = work.some(({ presses }) => presses !== null);
  return (
    <section className="sheet done-by-month" aria-labelledby="work-by-month">
      <div className="chart-head-row">
        <h2 id="work-by-month">{t`How much was coded without a touch?`}</h2>
        <ul>
          <li>
            <i style={{ background: colors.habit }} />
            {t`Without a touch`}
          </li>
          <li>
            <i style={{ background: colors.hand }} />
            {t`Looked at`}
          </li>
          {isCounted && (
            <li>
              <i className="as-line" style={{ background: colors.ink }} />
              {t`Presses per line`}
            </li>
          )}
        </ul>
      </div>
      <p className="quiet mb-1">
        {workWords(last)}{' '}
        <Link to={`/books/${booksId}/reports/coding`}>{t`Open the coding record`}</Link>
      </p>
      <Chart option={option} height={190} label={work.map(workWords).join(' ')} />
    </section>
  );
}

/** @example 'March: 83 % of 110 lines without a touch, 0.24 presses per line.' */
function workWords({ month, lines, untouched, presses }: MonthWork): string {
  const share = Math.floor((100 * untouched) / lines);
  const each = presses === null ? '' : t`, ${formatDecimal(presses)} presses per line`;
  return t`${formatMonth(month)}: ${share} % of ${countLines(lines)} without a touch${each}.`;
}
