import type { BankStatement } from '../bankFile.ts';
import { statementTable, tableHeadings } from './statementTable.ts';

/** Numbers with more digits than a spreadsheet keeps exactly are written as texts. */
const EXACT_DIGITS = 15;

/**
 * Writes statements as an XLSX workbook with one sheet: dates and amounts as such, all else as texts,
 * which no spreadsheet runs.
 *
 * @param currency ISO 4217, where a statement names none
 */
export async function writeXlsx(
  statements: readonly BankStatement[],
  currency: string,
): Promise<Uint8Array> {
  // Large, and seldom wanted: it is loaded when it is.
  const { default: ExcelJS } = await import('exceljs');
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet('Lines', { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = tableHeadings.map((heading) => ({ header: heading, key: heading, width: 16 }));
  for (const row of statementTable(statements, currency)) {
    const decimals = row.Amount.split('.')[1]?.length ?? 0;
    const added = sheet.addRow({
      ...row,
      Date: dateCell(row.Date),
      'Value date': dateCell(row['Value date']),
      Amount: numberCell(row.Amount),
      Balance: numberCell(row.Balance),
    });
    for (const heading of ['Date', 'Value date']) added.getCell(heading).numFmt = 'yyyy-mm-dd';
    for (const heading of ['Amount', 'Balance']) {
      added.getCell(heading).numFmt = decimals === 0 ? '0' : `0.${'0'.repeat(decimals)}`;
    }
  }
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}

function dateCell(text: string): Date | null {
  return text === '' ? null : new Date(`${text}T00:00:00Z`);
}

function numberCell(text: string): number | string | null {
  if (text === '') return null;
  return text.replace(/\D/g, '').length <= EXACT_DIGITS ? Number(text) : text;
}
