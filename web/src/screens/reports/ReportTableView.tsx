import type { ReportRow } from '@zubrell/core/reports/accountTotals';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { Table } from 'react-bootstrap';
import { useBooks } from '../../app/useBooks.ts';

/** A figure that somebody wants to see the entries of. */
export interface Figure {
  readonly accountId: string;
  readonly column: number;
}

/** A report: its rows under headings, and figures that open what they are made of. */
export function ReportTableView({
  table: { columns, sections, foot },
  current,
  opens,
  onFigure,
}: {
  readonly table: ReportTable;
  readonly current: Figure | null;
  /** Whether the figures of a column open what they are made of. */
  readonly opens: (column: number) => boolean;
  readonly onFigure: (figure: Figure) => void;
}) {
  const row = (each: ReportRow) => (
    <Row key={each.key} row={each} current={current} opens={opens} onFigure={onFigure} />
  );
  return (
    <Table className="report-table">
      <thead>
        <tr>
          <td />
          {columns.map((column, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their places
            <th key={at} scope="col" className="num">
              {column}
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

function Row({
  row: { label, accountId, kind, amounts },
  current,
  opens,
  onFigure,
}: {
  readonly row: ReportRow;
  readonly current: Figure | null;
  readonly opens: (column: number) => boolean;
  readonly onFigure: (figure: Figure) => void;
}) {
  const { amount } = useBooks();
  return (
    <tr className={`of-${kind}`}>
      <th scope="row" title={label}>
        {label}
      </th>
      {amounts.map((figure, column) => {
        const isCurrent = current?.accountId === accountId && current?.column === column;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: columns keep their places
          <td key={column} className={`num ${isCurrent ? 'current' : ''}`}>
            {accountId !== null && figure !== 0 && opens(column) ? (
              <button type="button" onClick={() => onFigure({ accountId, column })}>
                {amount(figure)}
              </button>
            ) : figure === 0 && kind === 'account' ? (
              <span className="quiet">—</span>
            ) : (
              amount(figure)
            )}
          </td>
        );
      })}
    </tr>
  );
}
