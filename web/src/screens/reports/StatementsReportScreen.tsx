import type { StatementSummary } from '@zubrell/contract/statements';
import type { ReportTable, TableRow } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useNavigate } from 'react-router';
import { statementsApi } from '../../api/statements.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { ReportTableView } from './ReportTableView.tsx';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** A row opens its statement. */
interface StatementReportRow extends TableRow {
  readonly address: string;
}

const OFF = 5;

const STATES: Readonly<Record<StatementSummary['state'], string>> = {
  open: t`Not agreed`,
  agreed: t`Agreed`,
  reopened: t`Reopened`,
};

/** Which statements that end in the period are agreed, and which are not. */
export function StatementsReportScreen() {
  const { booksId, setup, bankAccountName } = useBooks();
  const { period } = useReportPeriod();
  const navigate = useNavigate();
  const facts = useReportFacts(period);
  const { data, error } = statementsApi.useStatementsQuery(booksId);
  const sections = (data?.accounts ?? [])
    .map(({ bankAccountId, statements }) => ({
      heading: bankAccountName(bankAccountId),
      rows: statements
        .filter(({ to }) => to >= period.from && to <= period.to)
        .map(
          (statement): StatementReportRow => ({
            key: `${bankAccountId} ${statement.to}`,
            label: t`${formatLongDate(statement.from)} to ${formatLongDate(statement.to)}`,
            kind: 'account',
            address: `/books/${booksId}/statements/${bankAccountId}/${statement.to}`,
            amounts: [
              STATES[statement.state],
              statement.agreedBy,
              statement.opening,
              statement.addsUp,
              statement.closing,
              statement.off,
            ],
          }),
        ),
    }))
    .filter(({ rows }) => rows.length > 0);
  const all = sections.flatMap(({ rows }) => rows);
  const agreed = (data?.accounts ?? [])
    .flatMap(({ statements }) => statements)
    .filter(({ to, state }) => to >= period.from && to <= period.to && state === 'agreed').length;
  const table: ReportTable<StatementReportRow> | null =
    data === undefined
      ? null
      : {
          title: t`Statements`,
          facts,
          columns: [
            { name: t`State`, kind: 'text' },
            { name: t`Agreed by`, kind: 'text' },
            t`Opened at`,
            t`Adds up to`,
            t`Statement says`,
            t`Off by`,
          ],
          sections,
          foot: null,
          currency: setup.books.currency,
        };
  return (
    <>
      <ReportBar table={table} open={null} isCompared={false} />
      <ReportBody
        title={t`Statements`}
        words={
          data && <>{t`${agreed} of ${all.length} statements that end in the period are agreed`}</>
        }
        error={error}
        isEmpty={data !== undefined && all.length === 0}
        emptyWords={t`No statement ends in this period.`}
      >
        {table && (
          <ReportTableView
            table={table}
            current={null}
            opens={(_, column) => column === 0 || column === OFF}
            onFigure={({ row }) => void navigate(row.address)}
          />
        )}
      </ReportBody>
    </>
  );
}
