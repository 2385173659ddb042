import { dateOrderOf, parseDate } from '../dates/parseDate.ts';
import { ZubrellError } from '../errors.ts';
import { csvRows, delimiterOf } from '../formats/table/csvRows.ts';
import { decimalMarkOf } from '../money/decimalMark.ts';
import type { Minor } from '../money/minor.ts';
import { parseAmount } from '../money/parseAmount.ts';

/** A row of a file of entries or documents. What a column leaves empty is null. */
export interface LedgerRecord {
  /** Counted from 1, with the headings. */
  readonly row: number;
  readonly kind: string | null;
  readonly number: string | null;
  readonly payee: string | null;
  readonly date: string;
  readonly dueDate: string | null;
  readonly amount: Minor;
  readonly account: string | null;
  readonly tax: string | null;
  readonly text: string | null;
  readonly bankAccount: string | null;
  readonly to: string | null;
}

/** What is wrong with a row. */
export interface RecordProblem {
  readonly row: number;
  readonly message: string;
}

/** What each column may be headed with. */
const HEADINGS = {
  kind: ['kind', 'type', 'what'],
  number: ['number', 'no', 'document number', 'invoice number', 'cheque number', 'invoice', 'bill'],
  payee: ['payee', 'supplier', 'customer', 'name'],
  date: ['date', 'document date', 'issued'],
  dueDate: ['due', 'due date'],
  amount: ['amount', 'total', 'gross'],
  account: ['account', 'category', 'ledger account'],
  tax: ['tax', 'tax code', 'tax rate'],
  text: ['text', 'description', 'note', 'details'],
  bankAccount: ['bank account', 'bank', 'from'],
  to: ['to', 'to bank account'],
} as const;
type Column = keyof typeof HEADINGS;

/**
 * Reads a CSV file with headings into records of entries or documents. The order of the columns does not matter.
 *
 * @param currency ISO 4217 code; gives the number of decimals
 * @returns the rows that could be read, and what is wrong with the others
 * @example readRecords('Number;Supplier;Date;Amount\n2093;Penhallow Clay;02.03.2026;312,40', 'EUR')
 * // one record: number 2093, amount 31240
 */
export function readRecords(
  text: string,
  currency: string,
): { readonly records: readonly LedgerRecord[]; readonly problems: readonly RecordProblem[] } {
  const problems: RecordProblem[] = [];
  const bare = text.replace(/^\uFEFF/, '');
  const [head, ...body] = csvRows(bare, delimiterOf(bare), []);
  const places = placesOf(head?.cells ?? []);
  const missing = (['date', 'amount'] as const).filter((column) => places[column] === undefined);
  if (missing.length > 0) {
    const message = `The first row names no column for the ${missing.join(' and the ')}.`;
    return { records: [], problems: [{ row: 1, message }] };
  }
  const cell = (cells: readonly string[], column: Column): string | null => {
    const place = places[column];
    return (place === undefined ? '' : (cells[place] ?? '')).trim() || null;
  };
  const { order } = dateOrderOf(body.flatMap(({ cells }) => cell(cells, 'date') ?? []));
  const amounts = body.flatMap(({ cells }) => cell(cells, 'amount') ?? []);
  const decimal = decimalMarkOf(amounts);
  const records = body.flatMap(({ place: line, cells }): LedgerRecord[] => {
    if (cells.every((each) => each.trim() === '')) return [];
    try {
      const due = cell(cells, 'dueDate');
      return [
        {
          row: line,
          kind: cell(cells, 'kind')?.toLowerCase() ?? null,
          number: cell(cells, 'number'),
          payee: cell(cells, 'payee'),
          date: parseDate(cell(cells, 'date') ?? '', order),
          dueDate: due === null ? null : parseDate(due, order),
          amount: parseAmount(cell(cells, 'amount') ?? '', decimal, currency),
          account: cell(cells, 'account'),
          tax: cell(cells, 'tax'),
          text: cell(cells, 'text'),
          bankAccount: cell(cells, 'bankAccount'),
          to: cell(cells, 'to'),
        },
      ];
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      problems.push({ row: line, message: error.message });
      return [];
    }
  });
  return { records, problems };
}

function placesOf(headings: readonly string[]): Partial<Record<Column, number>> {
  const plain = headings.map((heading) => heading.trim().toLowerCase().replace(/[_-]+/g, ' '));
  const places: Partial<Record<Column, number>> = {};
  for (const [column, names] of Object.entries(HEADINGS) as [Column, readonly string[]][]) {
    const at = plain.findIndex((heading) => names.includes(heading));
    if (at >= 0) places[column] = at;
  }
  return places;
}
