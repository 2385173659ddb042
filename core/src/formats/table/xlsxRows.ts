import { zipSync } from 'fflate';
import { fail } from '../../errors.ts';
import { checkSheet } from './checkSheet.ts';
import type { TableRow } from './tableLayout.ts';
import { unpackWorkbook } from './unpackWorkbook.ts';

/** Parts of a sheet that hold no cells; some can be made to cost for ever. */
const PASSED_OVER = [
  'mergeCells',
  'dataValidations',
  'conditionalFormatting',
  'hyperlinks',
  'drawing',
  'extLst',
  'sheetPr',
  'cols',
];
/** No bank's sheet is wider. */
const WIDEST = 200;

/** Whether the bytes begin like a ZIP archive, as a workbook does. */
export function isZip(bytes: Uint8Array): boolean {
  return bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03 && bytes[3] === 0x04;
}

/**
 * The rows of each sheet of an XLSX workbook, with cells as texts: dates as `2026-03-31`, numbers
 * with a point and no more digits than a spreadsheet keeps, formulas by their last result.
 *
 * @throws {ZubrellError} FILE_UNKNOWN, FILE_ZIP_BOMB where it unpacks to far more than it should,
 *   FILE_SHEET_TOO_LARGE, FILE_ZIP_BROKEN
 */
export async function xlsxRows(bytes: Uint8Array): Promise<TableRow[][]> {
  const parts = unpackWorkbook(bytes);
  for (const [name, xml] of Object.entries(parts)) if (isSheet(name)) checkSheet(xml);
  // Large, and few files are workbooks: it is loaded when the first one comes.
  const { default: ExcelJS } = await import('exceljs');
  const workbook = new ExcelJS.Workbook();
  try {
    // What was unpacked within limits is what is read, and nothing else of the file.
    const whole = zipSync(parts, { level: 0 });
    await workbook.xlsx.load(whole.buffer as ArrayBuffer, { ignoreNodes: PASSED_OVER });
  } catch {
    fail('FILE_ZIP_BROKEN');
  }
  return workbook.worksheets.map((sheet) => {
    const rows: TableRow[] = [];
    sheet.eachRow({ includeEmpty: false }, (row, place) => {
      const width = Math.min(row.cellCount, WIDEST);
      const cells = Array.from({ length: width }, (_, column) =>
        cellText(row.findCell(column + 1)?.value),
      );
      if (cells.some((cell) => cell !== '')) rows.push({ place, cells });
    });
    return rows;
  });
}

function isSheet(part: string): boolean {
  return part.startsWith('xl/worksheets/');
}

/** A cell's value as text. Spreadsheets keep numbers in floating point with 15 digits. */
function cellText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'number') return numberText(value);
  if (value instanceof Date) return dateText(value);
  if (typeof value !== 'object') return String(value);
  if ('result' in value) return cellText(value.result);
  if ('richText' in value && Array.isArray(value.richText)) {
    return value.richText.map((part: { text?: unknown }) => cellText(part.text)).join('');
  }
  return 'text' in value ? cellText(value.text) : '';
}

function numberText(value: number): string {
  const text = String(Number(value.toPrecision(15)));
  return text.includes('e') ? String(value) : text;
}

function dateText(value: Date): string {
  return Number.isNaN(value.getTime()) ? '' : value.toISOString().slice(0, 10);
}
