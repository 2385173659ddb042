import {
  type ColumnDef,
  createSortedRowModel,
  type RowData,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { type ReactNode, useMemo } from 'react';
import { Button, Table } from 'react-bootstrap';
import './dataTable.scss';

/** A column of a table. */
export interface Column<Row> {
  readonly id: string;
  readonly head: string;
  readonly cell: (row: Row) => ReactNode;
  /** Of the head and all cells. */
  readonly className?: string;
  /** Of a cell beside that. */
  readonly cellClass?: (row: Row) => string;
  readonly title?: (row: Row) => string;
  /** What rows are put in order by when somebody presses the head; left out where they come page by page. */
  readonly sortBy?: (row: Row) => string | number;
}

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
});

/** Texts as people order them, numbers by their size. */
function inOrder(a: unknown, b: unknown): number {
  return typeof a === 'number' && typeof b === 'number'
    ? a - b
    : String(a).localeCompare(String(b), undefined, { numeric: true, sensitivity: 'base' });
}

/** A table of rows, which those who read it can put in another order where all of them are there. */
export function DataTable<Row extends RowData>({
  rows,
  columns,
  rowKey,
  rowClass,
  className,
}: {
  readonly rows: readonly Row[];
  readonly columns: readonly Column<Row>[];
  readonly rowKey: (row: Row) => string;
  readonly rowClass?: (row: Row) => string;
  readonly className?: string;
}) {
  const defined = useMemo(
    () =>
      columns.map(
        ({ id, sortBy }): ColumnDef<typeof features, Row> => ({
          id,
          accessorFn: (row) => sortBy?.(row) ?? '',
          enableSorting: sortBy !== undefined,
          sortFn: (a, b, by) => inOrder(a.getValue(by), b.getValue(by)),
          sortDescFirst: false,
        }),
      ),
    [columns],
  );
  const data = useMemo(() => [...rows], [rows]);
  const table = useTable({ features, columns: defined, data, getRowId: rowKey });
  return (
    <Table className={className}>
      <thead>
        <tr>
          {columns.map((column) => {
            const known = table.getColumn(column.id);
            const sorted = known?.getIsSorted() || null;
            const isUp = sorted === 'asc';
            // What only has buttons needs no heading.
            if (column.head === '') return <td key={column.id} className={column.className} />;
            return (
              <th
                key={column.id}
                className={column.className}
                aria-sort={sorted ? (isUp ? 'ascending' : 'descending') : undefined}
              >
                {column.sortBy ? (
                  <Button variant="link" className="sort" onClick={() => known?.toggleSorting()}>
                    {column.head}
                    {sorted && (isUp ? <ArrowUp aria-hidden /> : <ArrowDown aria-hidden />)}
                  </Button>
                ) : (
                  column.head
                )}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {table.getRowModel().rows.map(({ id, original }) => (
          <tr key={id} className={rowClass?.(original)}>
            {columns.map((column) => (
              <td
                key={column.id}
                className={[column.className, column.cellClass?.(original)]
                  .filter(Boolean)
                  .join(' ')}
                title={column.title?.(original)}
              >
                {column.cell(original)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
