import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import type { ReportRow } from './accountTotals.ts';
import { type ReportTable, reportCsv, reportXlsx } from './reportTable.ts';

const row = (label: string, kind: ReportRow['kind'], ...amounts: number[]): ReportRow => ({
  key: label,
  label,
  accountId: null,
  kind,
  amounts,
});
const table: ReportTable = {
  title: 'Profit and loss',
  facts: ['Larkmoor Kiln Works', '1 January 2026 to 31 March 2026'],
  columns: ['Jan', 'Total'],
  sections: [
    {
      heading: 'Income',
      rows: [row('=4010 Sales', 'account', 120_050, -5), row('Income', 'sum', 120_050, -5)],
    },
  ],
  foot: row('Result', 'result', 120_050, -5),
  currency: 'EUR',
};

describe('a report that is saved', () => {
  it('is a CSV file with plain figures, which no spreadsheet runs', () => {
    expect(reportCsv(table).trim().split('\r\n')).toEqual([
      'Profit and loss',
      'Larkmoor Kiln Works',
      '1 January 2026 to 31 March 2026',
      '',
      ',Jan,Total',
      'Income',
      "'=4010 Sales,1200.50,-0.05",
      'Income,1200.50,-0.05',
      'Result,1200.50,-0.05',
    ]);
  });

  it('is a workbook with numbers in its cells, shown with the currency’s decimals', async () => {
    const book = new ExcelJS.Workbook();
    await book.xlsx.load((await reportXlsx(table)).buffer as ArrayBuffer);
    const sheet = book.getWorksheet('Profit and loss');
    const cells = (number: number) =>
      [...((sheet?.getRow(number).values ?? []) as unknown[])].slice(1);
    expect(cells(1)).toEqual(['Profit and loss']);
    expect(cells(7)).toEqual(['=4010 Sales', 1200.5, -0.05]);
    expect(cells(9)).toEqual(['Result', 1200.5, -0.05]);
    expect(sheet?.getRow(9).getCell(2).numFmt).toBe('#,##0.00');
    expect(sheet?.getRow(7).getCell(1).type).toBe(ExcelJS.ValueType.String);
    const whole = { ...table, currency: 'JPY' };
    await book.xlsx.load((await reportXlsx(whole)).buffer as ArrayBuffer);
    expect(book.getWorksheet('Profit and loss')?.getRow(9).getCell(2).value).toBe(120_050);
  });
});
