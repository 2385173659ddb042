import {
  columnOf,
  type ReportCell,
  type ReportColumn,
  type ReportTable,
  type TableRow,
} from '@zubrell/core/reports/reportTable';
import { Table } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';

/** A figure that somebody wants to see the entries of. */
export interface Figure<Row extends TableRow = TableRow> {
  readonly row: Row;
  readonly column: number;
}

/** How a report's figures open what they are made of. */
interface Opening<Row extends TableRow> {
  readonly current: Figure<Row> | null;
  /** Whether a figure opens what it is made of. */
  readonly opens: (row: Row, column: number) => boolean;
  readonly onFigure: (figure: Figure<Row>) => void;
}

/** A report: its rows under headings, and figures that open what they are made of. */
export function ReportTableView<Row extends TableRow>({
  table: { columns: named, sections, foot },
  ...opening
}: { readonly table: ReportTable<Row> } & Opening<Row>) {
  const columns = named.map(columnOf);
  const row = (each: Row) => (
    <ReportTableRow key={each.key} row={each} columns={columns} {...opening} />
  );
  return (
    <Table className="report-table">
      <thead>
        <tr>
          <td />
          {columns.map(({ name, kind }, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their places
            <th key={at} scope="col" className={kind === 'amount' ? 'num' : ''}>
              {name}
            </th>
          ))}
        </tr>
      </thead>
      {sections.map(({ heading, rows }) => (
        <tbody key={heading}>
          {heading !== '' && (
            <tr className="heading">
              <th scope="rowgroup" colSpan={columns.length + 1}>
                {heading}
              </th>
            </tr>
          )}
          {rows.map(row)}
        </tbody>
      ))}
      {foot && <tfoot>{row(foot)}</tfoot>}
    </Table>
  );
}

function ReportTableRow<Row extends TableRow>({
  row,
  columns,
  current,
  opens,
  onFigure,
}: { readonly row: Row; readonly columns: readonly ReportColumn[] } & Opening<Row>) {
  const { key, label, kind, amounts } = row;
  return (
    <tr className={`of-${kind}`}>
      <th scope="row" title={label}>
        {label}
      </th>
      {amounts.map((cell, column) => {
        const isCurrent = current?.row.key === key && current.column === column;
        const isAmount = columns[column]?.kind === 'amount';
        const shown = <Cell cell={cell} column={columns[column]} isQuiet={kind === 'account'} />;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their places
          <td key={column} className={`${isAmount ? 'num' : ''} ${isCurrent ? 'current' : ''}`}>
            {cell !== null && cell !== 0 && opens(row, column) ? (
              <button type="button" onClick={() => onFigure({ row, column })}>
                {shown}
              </button>
            ) : (
              shown
            )}
          </td>
        );
      })}
    </tr>
  );
}

function Cell({
  cell,
  column,
  isQuiet,
}: {
  readonly cell: ReportCell;
  readonly column: ReportColumn | undefined;
  /** Nothing is shown as a dash. */
  readonly isQuiet: boolean;
}) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  if (cell === null || cell === '') return null;
  if (typeof cell === 'string') return <>{column?.kind === 'date' ? showDate(cell) : cell}</>;
  return cell === 0 && isQuiet ? <span className="quiet">—</span> : amount(cell);
}
