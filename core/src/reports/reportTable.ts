import { guardFormula } from '../formats/table/formulaGuard.ts';
import { toDecimal } from '../money/formatAmount.ts';
import { type Minor, minorDigits } from '../money/minor.ts';
import { csvText } from '../text/csvText.ts';
import type { ReportRow } from './accountTotals.ts';

/** What stands in a column: amounts in minor units, texts, or days as in `2026-03-01`. */
export interface ReportColumn {
  readonly name: string;
  readonly kind: 'amount' | 'text' | 'date';
}

/** A cell: as its column says; null where there is nothing. */
export type ReportCell = Minor | string | null;

/** A row as it is shown and saved. */
export interface TableRow extends Pick<ReportRow, 'key' | 'label' | 'kind'> {
  /** One for each column. */
  readonly amounts: readonly ReportCell[];
}

/** A report as a table: what it is called, its columns, and its rows under headings. */
export interface ReportTable<Row extends TableRow = TableRow> {
  readonly title: string;
  /** The business, the period, what is open: a line each, above the table. */
  readonly facts: readonly string[];
  /** A name alone is a column of amounts. */
  readonly columns: readonly (string | ReportColumn)[];
  readonly sections: readonly { readonly heading: string; readonly rows: readonly Row[] }[];
  /** What stands under all sections. */
  readonly foot: Row | null;
  readonly currency: string;
}

/** A column in full. @example columnOf('Total') // { name: 'Total', kind: 'amount' } */
export function columnOf(column: string | ReportColumn): ReportColumn {
  return typeof column === 'string' ? { name: column, kind: 'amount' } : column;
}

/** A report as a CSV file. */
export function reportCsv({
  title,
  facts,
  columns,
  sections,
  foot,
  currency,
}: ReportTable): string {
  const cells = ({ label, amounts }: TableRow) => [
    guardFormula(label),
    ...amounts.map((cell) =>
      typeof cell === 'number' ? toDecimal(cell, currency) : guardFormula(cell ?? ''),
    ),
  ];
  return csvText([
    [title],
    ...facts.map((fact) => [guardFormula(fact)]),
    [],
    ['', ...columns.map((column) => columnOf(column).name)],
    ...sections.flatMap(({ heading, rows }) => [
      ...(heading === '' ? [] : [[guardFormula(heading)]]),
      ...rows.map(cells),
    ]),
    ...(foot ? [cells(foot)] : []),
  ]);
}

/** A report as a workbook: amounts are numbers, days are dates, all else texts, which no spreadsheet runs. */
export async function reportXlsx(table: ReportTable): Promise<Uint8Array> {
  // Large, and seldom wanted: it is loaded when it is.
  const { default: ExcelJS } = await import('exceljs');
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet(table.title);
  const columns = table.columns.map(columnOf);
  const digits = minorDigits(table.currency);
  const format = digits === 0 ? '#,##0' : `#,##0.${'0'.repeat(digits)}`;
  const bold = { bold: true };
  const shown = (cell: ReportCell, at: number) => {
    if (typeof cell === 'number') return cell / 10 ** digits;
    return cell !== null && columns[at]?.kind === 'date' ? new Date(`${cell}T00:00:00Z`) : cell;
  };
  const addRow = ({ label, amounts, kind }: TableRow) => {
    const row = sheet.addRow([label, ...amounts.map(shown)]);
    columns.forEach((column, at) => {
      if (column.kind === 'amount') row.getCell(at + 2).numFmt = format;
      if (column.kind === 'date') row.getCell(at + 2).numFmt = 'yyyy-mm-dd';
    });
    if (kind !== 'account') row.font = bold;
  };
  sheet.addRow([table.title]).font = bold;
  for (const fact of table.facts) sheet.addRow([fact]);
  sheet.addRow([]);
  sheet.addRow(['', ...columns.map(({ name }) => name)]).font = bold;
  for (const { heading, rows } of table.sections) {
    if (heading !== '') sheet.addRow([heading]).font = bold;
    for (const row of rows) addRow(row);
  }
  if (table.foot) addRow(table.foot);
  sheet.getColumn(1).width = 34;
  columns.forEach(({ kind }, at) => {
    sheet.getColumn(at + 2).width = kind === 'text' ? 28 : 14;
  });
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}
