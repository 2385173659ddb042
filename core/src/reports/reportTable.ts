import { guardFormula } from '../formats/table/formulaGuard.ts';
import { toDecimal } from '../money/formatAmount.ts';
import { minorDigits } from '../money/minor.ts';
import { csvText } from '../text/csvText.ts';
import type { ReportRow, ReportSection } from './accountTotals.ts';

/** A report as a table: what it is called, its columns, and its rows under headings. */
export interface ReportTable {
  readonly title: string;
  /** The business, the period, what is open: a line each, above the table. */
  readonly facts: readonly string[];
  readonly columns: readonly string[];
  readonly sections: readonly ReportSection[];
  /** What stands under all sections. */
  readonly foot: ReportRow | null;
  readonly currency: string;
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
  const cells = ({ label, amounts }: ReportRow) => [
    guardFormula(label),
    ...amounts.map((amount) => toDecimal(amount, currency)),
  ];
  return csvText([
    [title],
    ...facts.map((fact) => [guardFormula(fact)]),
    [],
    ['', ...columns],
    ...sections.flatMap(({ heading, rows }) => [[heading], ...rows.map(cells)]),
    ...(foot ? [cells(foot)] : []),
  ]);
}

/** A report as a workbook: amounts are numbers, all else texts, which no spreadsheet runs. */
export async function reportXlsx(table: ReportTable): Promise<Uint8Array> {
  // Large, and seldom wanted: it is loaded when it is.
  const { default: ExcelJS } = await import('exceljs');
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet(table.title);
  const digits = minorDigits(table.currency);
  const format = digits === 0 ? '#,##0' : `#,##0.${'0'.repeat(digits)}`;
  const bold = { bold: true };
  const addRow = ({ label, amounts, kind }: ReportRow) => {
    const row = sheet.addRow([label, ...amounts.map((amount) => amount / 10 ** digits)]);
    for (let at = 0; at < amounts.length; at += 1) row.getCell(at + 2).numFmt = format;
    if (kind !== 'account') row.font = bold;
  };
  sheet.addRow([table.title]).font = bold;
  for (const fact of table.facts) sheet.addRow([fact]);
  sheet.addRow([]);
  sheet.addRow(['', ...table.columns]).font = bold;
  for (const { heading, rows } of table.sections) {
    sheet.addRow([heading]).font = bold;
    for (const row of rows) addRow(row);
  }
  if (table.foot) addRow(table.foot);
  sheet.getColumn(1).width = 34;
  for (let at = 0; at < table.columns.length; at += 1) sheet.getColumn(at + 2).width = 14;
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}
