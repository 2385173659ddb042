import { parseDate } from '../../dates/parseDate.ts';
import { fail } from '../../errors.ts';
import { summaryOf } from '../../intake/statementBalances.ts';
import type { Minor } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import {
  type BankLine,
  type BankStatement,
  bankLine,
  type PreparedCoding,
  type Problem,
} from '../bankFile.ts';
import { problem, readOrNote } from '../problems.ts';
import { unguardFormula } from './formulaGuard.ts';
import { runningBalances } from './runningBalances.ts';
import { signMeaning } from './signMeaning.ts';
import {
  type ColumnRole,
  type Delimiter,
  type FoundLayout,
  headingCurrency,
  isEnough,
  type LayoutChoices,
  layoutOf,
  type TableLayout,
  type TableRow,
} from './tableLayout.ts';

/** A table read as bank lines. */
export interface TableReading {
  readonly layout: TableLayout;
  readonly statement: BankStatement;
}

/**
 * Reads the rows of a CSV file or a spreadsheet as bank lines.
 *
 * @param delimiter null in a spreadsheet
 * @param booksCurrency used where the table names no currency
 * @param choices what somebody chose otherwise than it would be guessed
 * @param problems takes the rows that can't be read
 * @returns null where it is no table of bank lines
 */
export function readTable(
  rows: readonly TableRow[],
  delimiter: Delimiter | null,
  booksCurrency: string,
  choices: LayoutChoices,
  problems: Problem[],
): TableReading | null {
  const found = layoutOf(rows, delimiter, choices);
  if (found === null) return null;
  const body = rows.slice(found.headerRow === null ? 0 : found.headerRow + 1);
  const currency = currencyOf(found, body);
  const written = isEnough(found.roles)
    ? linesOf(body, found, currency ?? booksCurrency, problems)
    : [];
  const { isTurned, isBalanceTurned, isProved } = signMeaning(written, choices.isTurned);
  const lines =
    isTurned || isBalanceTurned
      ? written.map((line) => ({
          ...line,
          amount: isTurned ? turned(line.amount) : line.amount,
          balance: line.balance !== null && isBalanceTurned ? turned(line.balance) : line.balance,
        }))
      : written;
  const layout = { ...found, isTurned, isProved };
  return { layout, statement: statementOf(lines, layout, body, currency) };
}

function turned(amount: Minor): Minor {
  return amount === 0 ? 0 : -amount;
}

function linesOf(
  body: readonly TableRow[],
  layout: FoundLayout,
  currency: string,
  problems: Problem[],
): BankLine[] {
  const columns = new Map<ColumnRole, number>();
  for (const [column, role] of layout.roles.entries()) if (role !== null) columns.set(role, column);
  return body.flatMap((row) => lineOf(row, columns, layout, currency, problems) ?? []);
}

function lineOf(
  row: TableRow,
  columns: ReadonlyMap<ColumnRole, number>,
  layout: FoundLayout,
  currency: string,
  problems: Problem[],
): BankLine | null {
  const cell = (role: ColumnRole): string => {
    const column = columns.get(role);
    return column === undefined ? '' : (row.cells[column]?.trim() ?? '');
  };
  const needed = Math.max(columns.get('date') ?? 0, columns.get('amount') ?? 0);
  if (row.cells.length <= needed) {
    const params = { found: row.cells.length, expected: layout.headings.length };
    problems.push(
      problem('refused', 'ROW_SHORT', params, { line: row.place, excerpt: excerptOf(row, layout) }),
    );
    return null;
  }
  const facts = amountAndDate(cell, columns, layout, currency);
  if (facts === null) {
    noteRefused(row, cell, columns, layout, currency, problems);
    return null;
  }
  // Only text files need the guard against formulas, so only they are freed of it.
  const plain = layout.delimiter === null ? (text: string) => text : unguardFormula;
  const optional = (role: ColumnRole) => (columns.has(role) ? plain(cell(role)) || null : null);
  const stated = cell('balance');
  const valued = cell('valueDate');
  return bankLine({
    place: row.place,
    date: facts.date,
    valueDate:
      valued === '' ? null : readOrNote([], { line: 0 }, () => parseDate(valued, layout.dates)),
    amount: facts.amount,
    description: optional('description') ?? optional('payee') ?? optional('type') ?? '',
    reference: optional('reference'),
    payee: optional('payee'),
    bankId: optional('bankId'),
    type: optional('type'),
    chequeNumber: optional('chequeNumber'),
    prepared: preparedOf(optional),
    balance:
      stated === ''
        ? null
        : readOrNote([], { line: 0 }, () => parseAmount(stated, layout.decimal, currency)),
    isPending: /pending|announced|reserved|authori[sz]ed/i.test(cell('status')),
  });
}

/** A row's amount and date; null where one can't be read. */
function amountAndDate(
  cell: (role: ColumnRole) => string,
  columns: ReadonlyMap<ColumnRole, number>,
  layout: FoundLayout,
  currency: string,
): { readonly amount: Minor; readonly date: string } | null {
  return readOrNote([], { line: 0 }, () => ({
    amount: amountOf(cell, columns, layout, currency),
    date: parseDate(cell('date'), layout.dates),
  }));
}

/** Says everything that is wrong with a row, with its amount if that much can be read. */
function noteRefused(
  row: TableRow,
  cell: (role: ColumnRole) => string,
  columns: ReadonlyMap<ColumnRole, number>,
  layout: FoundLayout,
  currency: string,
  problems: Problem[],
): void {
  const at = (role: ColumnRole) => ({
    line: row.place,
    field: layout.headings[columns.get(role) ?? -1] ?? role,
    excerpt: excerptOf(row, layout),
  });
  const amount = readOrNote(problems, at(columns.has('amount') ? 'amount' : 'paidOut'), () =>
    amountOf(cell, columns, layout, currency),
  );
  readOrNote(problems, { ...at('date'), amount }, () => parseDate(cell('date'), layout.dates));
}

function excerptOf(row: TableRow, { delimiter }: FoundLayout): string {
  return row.cells.join(delimiter ?? ' · ');
}

function preparedOf(optional: (role: ColumnRole) => string | null): PreparedCoding | null {
  const prepared = {
    account: optional('account'),
    tax: optional('tax'),
    costCentre: optional('costCentre'),
  };
  return Object.values(prepared).every((value) => value === null) ? null : prepared;
}

function amountOf(
  cell: (role: ColumnRole) => string,
  columns: ReadonlyMap<ColumnRole, number>,
  layout: FoundLayout,
  currency: string,
): Minor {
  const read = (text: string) => parseAmount(text, layout.decimal, currency);
  if (columns.has('amount')) return read(cell('amount') || fail('AMOUNT_MISSING'));
  const out = cell('paidOut');
  const into = cell('paidIn');
  if (out === '' && into === '') fail('AMOUNT_MISSING');
  const paidOut = out === '' ? 0 : Math.abs(read(out));
  const paidIn = into === '' ? 0 : Math.abs(read(into));
  if (paidOut !== 0 && paidIn !== 0) fail('AMOUNT_TWICE');
  return paidIn - paidOut;
}

function currencyOf(layout: FoundLayout, body: readonly TableRow[]): string | null {
  const named = onlyValue(body, layout.roles.indexOf('currency'))?.toUpperCase();
  if (named !== undefined && /^[A-Z]{3}$/.test(named)) return named;
  const column = layout.roles.findIndex((role) => role === 'amount' || role === 'paidOut');
  return headingCurrency(layout.headings[column] ?? '');
}

/** The one value that a whole column holds, or undefined. */
function onlyValue(body: readonly TableRow[], column: number): string | undefined {
  if (column < 0) return undefined;
  const values = new Set(body.map((row) => row.cells[column]?.trim() ?? ''));
  const [only] = values;
  return values.size === 1 && only !== '' ? only : undefined;
}

function statementOf(
  lines: readonly BankLine[],
  layout: TableLayout,
  body: readonly TableRow[],
  currency: string | null,
): BankStatement {
  const { first: from, last: to } = summaryOf(lines);
  const { opening, closing, days } = runningBalances(lines);
  return {
    account: onlyValue(body, layout.roles.indexOf('bankAccount')) ?? null,
    bank: null,
    kind: null,
    currency,
    from,
    to,
    opening,
    closing,
    closingDate: closing === null ? null : to,
    dayBalances: days,
    lines,
  };
}
