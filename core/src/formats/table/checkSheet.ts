import { SaxesParser } from 'saxes';
import { fail } from '../../errors.ts';

/** No bank's sheet is wider, but a few cells may have been formatted far out. */
const WIDE = 1_000;
const MOST_WIDE = 100;
const MOST_CELLS = 1_500_000;
const MOST_ROWS = 1_048_576;

/**
 * Looks through a sheet's XML for what costs a reader far more than its size: cells so far out that a row of them has
 * thousands of empty ones, and very many cells or rows.
 *
 * @throws {ZubrellError} FILE_SHEET_TOO_LARGE, FILE_ZIP_BROKEN where it is no XML
 */
export function checkSheet(xml: Uint8Array): void {
  let cells = 0;
  let wide = 0;
  let rows = 0;
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    if (name === 'row') {
      rows += 1;
      if (rows > MOST_ROWS || Number(attributes.r ?? 0) > MOST_ROWS) tooLarge();
    }
    if (name !== 'c') return;
    cells += 1;
    if (columnOf(attributes.r ?? '') > WIDE) wide += 1;
    if (cells > MOST_CELLS || wide > MOST_WIDE) tooLarge();
  });
  parser.on('error', () => fail('FILE_ZIP_BROKEN'));
  parser.write(new TextDecoder().decode(xml)).close();
}

/** The column of an address such as AB12, from 1; 0 where it has none. */
function columnOf(address: string): number {
  let column = 0;
  for (let at = 0; at < address.length; at += 1) {
    const letter = (address.charCodeAt(at) | 32) - 96;
    if (letter < 1 || letter > 26) break;
    column = column * 26 + letter;
  }
  return column;
}

function tooLarge(): never {
  return fail('FILE_SHEET_TOO_LARGE', { cells: MOST_CELLS, columns: WIDE });
}
