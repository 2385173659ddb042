import type { RecordMonth } from '@zubrell/contract/habits';
import { formatMonth } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useMemo } from 'react';
import { Button, Table } from 'react-bootstrap';
import { habitsApi } from '../../api/habits.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useExport } from '../../app/useExport.ts';
import { Chart } from '../../ui/Chart.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import '../board/board.scss';
import { DoneLegend } from './DoneLegend.tsx';
import { bySource, doneByMonth, doneChart, keptChart, recordCsv } from './recordShown.ts';
import './reports.scss';
import { useChartColors } from './useChartColors.ts';

const SOURCES: Readonly<Record<RecordMonth['source'], string>> = {
  pair: t`What is in the books`,
  transfer: t`Transfers, second side`,
  habit: t`Habits`,
  rule: t`Rules`,
  file: t`From the file`,
  otherBooks: t`Your other books`,
  starter: t`General knowledge`,
  hand: t`Nothing proposed`,
};
const SHOWN = 18;

/** The coding record: what each source proposed, and how much of it was kept. */
export function CodingRecordScreen() {
  const { booksId, setup } = useBooks();
  const save = useExport();
  const { data, error } = habitsApi.useCodingRecordQuery(booksId);
  const colors = useChartColors();
  const done = useMemo(() => (data ? doneByMonth(data).slice(-SHOWN) : []), [data]);
  const bars = useMemo(() => doneChart(done, colors), [done, colors]);
  const kept = useMemo(() => (data ? keptChart(data, colors) : null), [data, colors]);
  if (error && !data) {
    return (
      <div className="page">
        <ErrorNote error={error} />
      </div>
    );
  }
  if (!data || !kept) return <Waiting what={t`the record`} />;
  if (done.length === 0) {
    return (
      <div className="page">
        <EmptyState title={t`Nothing coded yet`}>
          <p>{t`Once you post lines, this shows what proposed them and how much you kept.`}</p>
        </EmptyState>
      </div>
    );
  }
  return (
    <div className="page reports">
      <header className="d-flex align-items-center gap-2">
        <h1>{t`Coding record`}</h1>
        <Button
          variant="plain"
          className="ms-auto"
          onClick={() => void save('coding', recordCsv(data), t`record of ${setup.books.name}.csv`)}
        >
          {t`Export CSV`}
        </Button>
      </header>
      <p className="quiet">
        {t`Lines posted unseen are counted separately, so that nothing confirms itself. Based on this record, a habit is Ready from ${(100 * data.readyFrom).toFixed(0)} % sure on.`}
      </p>
      <div className="report-charts">
        <section className="sheet done-by-month">
          <div className="chart-head-row">
            <h2>{t`How lines were coded`}</h2>
            <DoneLegend done={done} />
          </div>
          <Chart option={bars} height={240} label={t`Lines by month and by how they were coded`} />
        </section>
        <section className="sheet done-by-month">
          <div className="chart-head-row">
            <h2>{t`Kept, of proposals seen`}</h2>
            <ul>
              <li>
                <i style={{ background: colors.habit }} />
                {t`Habit`}
              </li>
              <li>
                <i style={{ background: colors.rule }} />
                {t`Rule, dashed`}
              </li>
            </ul>
          </div>
          <Chart option={kept} height={240} label={t`Share of seen proposals that were kept`} />
        </section>
      </div>
      <div className="sheet mt-3">
        <Table>
          <thead>
            <tr>
              <RecordHeads />
            </tr>
          </thead>
          <tbody>
            {bySource(data).map((row) => (
              <RecordRow key={row.source} name={SOURCES[row.source]} row={row} />
            ))}
          </tbody>
        </Table>
      </div>
      <div className="sheet mt-3">
        <Table>
          <thead>
            <tr>
              <th>{t`Month`}</th>
              <RecordHeads />
            </tr>
          </thead>
          <tbody>
            {[...data.months].reverse().map((row) => (
              <RecordRow
                key={`${row.month} ${row.source}`}
                month={row.month}
                name={SOURCES[row.source]}
                row={row}
              />
            ))}
          </tbody>
        </Table>
      </div>
    </div>
  );
}

function RecordHeads() {
  return (
    <>
      <th>{t`Proposed by`}</th>
      <th className="num">{t`Lines`}</th>
      <th className="num">{t`Seen before posting`}</th>
      <th className="num">{t`Kept`}</th>
      <th className="num">{t`Posted unseen`}</th>
    </>
  );
}

function RecordRow({
  month,
  name,
  row,
}: {
  readonly month?: string;
  readonly name: string;
  readonly row: Omit<RecordMonth, 'month' | 'source'> & { readonly source: RecordMonth['source'] };
}) {
  const { lines, looked, kept, unseen, source } = row;
  const share = looked === 0 ? '—' : `${kept} (${Math.round((100 * kept) / looked)} %)`;
  return (
    <tr>
      {month !== undefined && <td>{formatMonth(month)}</td>}
      <td>{name}</td>
      <td className="num">{lines}</td>
      <td className="num">{source === 'hand' ? '—' : looked}</td>
      <td className="num">{source === 'hand' ? '—' : share}</td>
      <td className="num">{source === 'hand' ? '—' : unseen}</td>
    </tr>
  );
}
