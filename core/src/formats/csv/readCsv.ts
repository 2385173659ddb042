import { type Info, parse } from 'csv-parse/browser/esm/sync';
import { parseDate } from '../../dates/parseDate.ts';
import { fail } from '../../errors.ts';
import type { Minor } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import type { BankLine, BankStatement, Problem } from '../bankFile.ts';
import { problem, readOrNote } from '../problems.ts';
import { type ColumnRole, type CsvLayout, csvLayoutOf, headingCurrency } from './csvLayout.ts';
import { unguardFormula } from './formulaGuard.ts';
import { runningBalances } from './runningBalances.ts';

interface Row {
  readonly place: number;
  readonly cells: readonly string[];
}

/** What a CSV file holds; `layout` is null where it is no table of bank lines. */
export interface CsvReading {
  readonly layout: CsvLayout | null;
  readonly statement: BankStatement | null;
  readonly problems: readonly Problem[];
}

/**
 * Reads a CSV file of bank lines with a header.
 *
 * @param text the whole file
 * @param booksCurrency used where the file names no currency
 * @example readCsv('Date,Details,Amount\n2026-03-03,Clay,-48.50', 'EUR').statement?.lines.length // 1
 */
export function readCsv(text: string, booksCurrency: string): CsvReading {
  const problems: Problem[] = [];
  const delimiter = delimiterOf(text);
  const rows = rowsOf(text, delimiter, problems);
  const layout = csvLayoutOf(
    rows.map((row) => row.cells),
    delimiter,
  );
  if (layout === null) return { layout, statement: null, problems: [] };
  const body = rows.slice(layout.headerRow + 1);
  const currency = currencyOf(layout, body);
  const lines = body.flatMap(
    (row) => lineOf(row, layout, currency ?? booksCurrency, problems) ?? [],
  );
  problems.sort((a, b) => a.line - b.line);
  return { layout, statement: statementOf(lines, layout, body, currency), problems };
}

/** The delimiter that occurs most in the first lines, outside quotes. */
function delimiterOf(text: string): CsvLayout['delimiter'] {
  const head = text.slice(0, 20_000).replace(/"[^"]*"/g, '');
  const count = (mark: string) => head.split(mark).length;
  const marks = [';', '\t', ','] as const;
  return [...marks].sort((a, b) => count(b) - count(a))[0] ?? ',';
}

function rowsOf(text: string, delimiter: string, problems: Problem[]): Row[] {
  const parsed: unknown = parse(text, {
    delimiter,
    bom: true,
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    skip_records_with_error: true,
    max_record_size: 1_000_000,
    on_skip: (error) => {
      const line = typeof error?.lines === 'number' ? error.lines : 1;
      const detail = error?.message ?? '';
      problems.push(problem('refused', 'FILE_CSV_BROKEN', { detail }, { line }));
      return undefined;
    },
  });
  return (parsed as readonly { record: string[]; info: Info }[])
    .map(({ record, info }) => ({
      // The parser counts the line a record ends on.
      place: info.lines - record.reduce((sum, cell) => sum + cell.split('\n').length - 1, 0),
      cells: record,
    }))
    .filter((row) => row.cells.some((cell) => cell.trim() !== ''));
}

function lineOf(
  row: Row,
  layout: CsvLayout,
  currency: string,
  problems: Problem[],
): BankLine | null {
  const excerpt = row.cells.join(layout.delimiter);
  const needed = Math.max(layout.roles.indexOf('date'), layout.roles.indexOf('amount'));
  if (row.cells.length <= needed) {
    const params = { found: row.cells.length, expected: layout.headings.length };
    problems.push(problem('refused', 'ROW_SHORT', params, { line: row.place, excerpt }));
    return null;
  }
  const cell = (role: ColumnRole): string => {
    const index = layout.roles.indexOf(role);
    return index < 0 ? '' : (row.cells[index]?.trim() ?? '');
  };
  const at = (role: ColumnRole, amount: Minor | null = null) => ({
    line: row.place,
    field: layout.headings[layout.roles.indexOf(role)] ?? role,
    excerpt,
    amount,
  });
  const amountRole = layout.roles.includes('amount') ? 'amount' : 'paidOut';
  const amount = readOrNote(problems, at(amountRole), () => amountOf(cell, layout, currency));
  const date = readOrNote(problems, at('date', amount), () =>
    parseDate(cell('date'), layout.dates),
  );
  if (amount === null || date === null) return null;
  const text = (role: ColumnRole) => unguardFormula(cell(role));
  const optional = (role: ColumnRole) => text(role) || null;
  return {
    place: row.place,
    date,
    valueDate: readOrNote([], at('valueDate'), () => parseDate(cell('valueDate'), layout.dates)),
    amount,
    description: text('description') || text('payee') || text('type'),
    reference: optional('reference'),
    payee: optional('payee'),
    bankId: optional('bankId'),
    type: optional('type'),
    chequeNumber: optional('chequeNumber'),
    balance: readOrNote([], at('balance'), () =>
      parseAmount(cell('balance'), layout.decimal, currency),
    ),
    isPending: /pending|announced|reserved|authori[sz]ed/i.test(cell('status')),
  };
}

function amountOf(cell: (role: ColumnRole) => string, layout: CsvLayout, currency: string): Minor {
  const read = (text: string) => parseAmount(text, layout.decimal, currency);
  if (layout.roles.includes('amount')) return read(cell('amount') || fail('AMOUNT_MISSING'));
  const out = cell('paidOut');
  const into = cell('paidIn');
  if (out === '' && into === '') fail('AMOUNT_MISSING');
  const paidOut = out === '' ? 0 : Math.abs(read(out));
  const paidIn = into === '' ? 0 : Math.abs(read(into));
  if (paidOut !== 0 && paidIn !== 0) fail('AMOUNT_TWICE');
  return paidIn - paidOut;
}

function currencyOf(layout: CsvLayout, body: readonly Row[]): string | null {
  const named = onlyValue(body, layout.roles.indexOf('currency'))?.toUpperCase();
  if (named !== undefined && /^[A-Z]{3}$/.test(named)) return named;
  const column = layout.roles.findIndex((role) => role === 'amount' || role === 'paidOut');
  return headingCurrency(layout.headings[column] ?? '');
}

/** The one value that a whole column holds, or undefined. */
function onlyValue(body: readonly Row[], column: number): string | undefined {
  if (column < 0) return undefined;
  const values = new Set(body.map((row) => row.cells[column]?.trim() ?? ''));
  const [only] = values;
  return values.size === 1 && only !== '' ? only : undefined;
}

function statementOf(
  lines: readonly BankLine[],
  layout: CsvLayout,
  body: readonly Row[],
  currency: string | null,
): BankStatement {
  const dates = lines.map((line) => line.date).sort();
  const { opening, closing } = runningBalances(lines);
  return {
    account: onlyValue(body, layout.roles.indexOf('account')) ?? null,
    bank: null,
    kind: null,
    currency,
    from: dates[0] ?? null,
    to: dates.at(-1) ?? null,
    opening,
    closing,
    closingDate: closing === null ? null : (dates.at(-1) ?? null),
    lines,
  };
}
