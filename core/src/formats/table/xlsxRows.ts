import { Unzip, UnzipInflate } from 'fflate';
import { fail } from '../../errors.ts';
import type { TableRow } from './tableLayout.ts';

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
/** So much may come out of a small workbook, in bytes. */
const SMALL = 10_000_000;
/** What goes beyond half a megabyte may unpack to so many times its size. */
const MOST_TIMES = 20;
const MANY_PARTS = 2_000;
const PIECE = 65_536;
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
 *   FILE_ZIP_BROKEN
 */
export async function xlsxRows(bytes: Uint8Array): Promise<TableRow[][]> {
  checkUnpacked(bytes);
  // Large, and few files are workbooks: it is loaded when the first one comes.
  const { default: ExcelJS } = await import('exceljs');
  const workbook = new ExcelJS.Workbook();
  try {
    const whole = bytes.slice().buffer as ArrayBuffer;
    await workbook.xlsx.load(whole, { ignoreNodes: PASSED_OVER });
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

/** Unpacks piece by piece and stops when too much comes out, before anything is parsed. */
function checkUnpacked(bytes: Uint8Array): void {
  const limit = Math.max(SMALL, MOST_TIMES * (bytes.length - 500_000));
  let unpacked = 0;
  let parts = 0;
  let isWorkbook = false;
  let isTooMuch = false;
  const unzip = new Unzip((file) => {
    parts += 1;
    if (file.name === 'xl/workbook.xml') isWorkbook = true;
    // The unpacker catches what is thrown here and calls again with it.
    file.ondata = (error, piece) => {
      if (error) throw error;
      unpacked += piece.length;
      isTooMuch ||= unpacked > limit;
      if (isTooMuch) fail('FILE_ZIP_BOMB');
    };
    isTooMuch ||= parts > MANY_PARTS;
    if (!isTooMuch) file.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length; at += PIECE) {
      unzip.push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length);
    }
  } catch {
    if (!isTooMuch) fail('FILE_ZIP_BROKEN');
  }
  if (isTooMuch) fail('FILE_ZIP_BOMB', { limit: Math.round(limit / 1e6) });
  if (!isWorkbook) fail('FILE_UNKNOWN');
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
