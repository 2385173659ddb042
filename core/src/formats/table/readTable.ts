import { parseDate } from '../../dates/parseDate.ts';
import { fail } from '../../errors.ts';
import { summaryOf } from '../../intake/statementBalances.ts';
import { type Minor, sumOf } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import {
  type BankLine,
  type BankStatement,
  bankLine,
  type PreparedCoding,
  type Problem,
} from '../bankFile.ts';
import { problem, readOrNote } from '../problems.ts';
import { shownCard } from '../shownCard.ts';
import { amountRoles, holdsAmount, holdsDate, isLine } from './cellContent.ts';
import { unguardFormula } from './formulaGuard.ts';
import { runningBalances } from './runningBalances.ts';
import { signMeaning } from './signMeaning.ts';
import {
  bodyOf,
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

/** What is known of a table before it is read. */
interface TableKnown {
  /** Null in a spreadsheet. */
  readonly delimiter: Delimiter | null;
  /** Used where the table names no currency. */
  readonly booksCurrency: string;
  /** What somebody chose otherwise than it would be guessed. */
  readonly choices: LayoutChoices;
}

/**
 * Reads the rows of a CSV file or a spreadsheet as bank lines.
 *
 * @param problems takes the rows that can't be read
 * @returns null where it is no table of bank lines
 */
export function readTable(
  rows: readonly TableRow[],
  { delimiter, booksCurrency, choices }: TableKnown,
  problems: Problem[],
): TableReading | null {
  const found = layoutOf(rows, delimiter, choices);
  if (found === null) return null;
  const body = bodyOf(rows, found.headerRow);
  const currency = currencyOf(found, body);
  const written = isEnough(found.roles)
    ? linesOf(body, found, currency ?? booksCurrency, problems)
    : [];
  noteAbove(rows, found, choices, problems);
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

/** What is needed to read a row. */
interface Reader {
  readonly columns: ReadonlyMap<ColumnRole, number>;
  readonly layout: FoundLayout;
  readonly currency: string;
  /** Money out is written with a minus in the column for it, as it is in the column for money in. */
  readonly isOutSigned: boolean;
}

function linesOf(
  body: readonly TableRow[],
  layout: FoundLayout,
  currency: string,
  problems: Problem[],
): BankLine[] {
  const columns = new Map<ColumnRole, number>();
  for (const [column, role] of layout.roles.entries()) if (role !== null) columns.set(role, column);
  const reader = { columns, layout, currency, isOutSigned: isOutSigned(body, columns) };
  const passed: TableRow[] = [];
  const lines: BankLine[] = [];
  const last = body.length > 2 ? body.at(-1) : null;
  for (const row of body) {
    const cell = cellsOf(row, columns);
    const line = lineOf(row, reader);
    // A row under all others, dated or not, may be their sum.
    const isSum = row === last && saysTotal(row) && line?.amount === sumOf(lines);
    if (line !== null && !isSum) lines.push(line);
    else if (isSum || isNoLine(row, cell)) passed.push(row);
    else noteRefused(row, cell, reader, problems);
  }
  notePassed(passed, layout, problems);
  return lines;
}

/** A cell that begins with a word for a sum or a balance, in the languages banks write in. */
const TOTAL =
  /^(\p{L}+ ){0,2}((sub)?(total[es]?|totaal|totalt)|sum|summe|summa|suma|somme|gesamt\p{L}*|razem|celkem|\p{L}*sald[oi]|solde|stand|balance|(brought|carried) forward)\b/iu;

/**
 * Whether a row is no line at all: a title, a footer or another heading, which hold neither a date nor an
 * amount, or a total, which holds only one of them.
 */
function isNoLine(row: TableRow, cell: (role: ColumnRole) => string): boolean {
  const { cells } = row;
  const isDated = holdsDate(cells) || /\d/.test(cell('date'));
  const hasAmount = holdsAmount(cells) || amountRoles.some((role) => /\d/.test(cell(role)));
  if (!isDated && !hasAmount) return true;
  const isWhole = isDated && amountRoles.some((role) => cell(role) !== '');
  return !isWhole && saysTotal(row);
}

function saysTotal({ cells }: TableRow): boolean {
  return cells.some((cell) => TOTAL.test(cell.trim()));
}

/** Says which rows were passed over, those that follow each other together. */
function notePassed(
  passed: readonly TableRow[],
  layout: FoundLayout,
  problems: Problem[],
  code: 'ROWS_NO_LINE' | 'ROWS_ABOVE' = 'ROWS_NO_LINE',
): void {
  for (let from = 0; from < passed.length; ) {
    let to = from;
    while ((passed[to + 1]?.place ?? 0) - (passed[to]?.place ?? 0) === 1) to += 1;
    const [first, last] = [passed[from], passed[to]];
    if (!first || !last) return;
    const rows = from === to ? `Row ${first.place}` : `Rows ${first.place} to ${last.place}`;
    const place = { line: first.place, excerpt: excerptOf(first, layout) };
    problems.push(problem('notice', code, { rows }, place));
    from = to + 1;
  }
}

/** Says what stands above the headings; a line there is refused, as it would be lost otherwise. */
function noteAbove(
  rows: readonly TableRow[],
  layout: FoundLayout,
  choices: LayoutChoices,
  problems: Problem[],
): void {
  const { headerRow, roles } = layout;
  if (headerRow === null) return;
  const above = rows.filter(({ place }) => place <= headerRow);
  const isChosen = choices.headerRow !== undefined;
  const lost = new Set(isChosen ? above.filter((row) => isLine(row, roles)) : []);
  for (const row of lost) {
    const place = { line: row.place, excerpt: excerptOf(row, layout) };
    problems.push(problem('refused', 'ROW_AS_HEADINGS', {}, place));
  }
  const titles = above.filter((row) => !lost.has(row) && row.place < headerRow);
  notePassed(titles, layout, problems, 'ROWS_ABOVE');
}

/** What a row holds in the column of a role, trimmed; empty where there is none. */
function cellsOf(
  row: TableRow,
  columns: ReadonlyMap<ColumnRole, number>,
): (role: ColumnRole) => string {
  return (role) => {
    const column = columns.get(role);
    return column === undefined ? '' : (row.cells[column]?.trim() ?? '');
  };
}

/** The line of a row; null where its date or amount can't be read. */
function lineOf(row: TableRow, reader: Reader): BankLine | null {
  const { columns, layout, currency } = reader;
  if (isShort(row, columns)) return null;
  const cell = cellsOf(row, columns);
  const facts = readOrNote([], { line: 0 }, () => ({
    amount: amountOf(cell, reader),
    date: parseDate(cell('date'), layout.dates),
  }));
  if (facts === null) return null;
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
    cardholder: shownCard(optional('cardholder')),
    prepared: preparedOf(optional),
    balance:
      stated === ''
        ? null
        : readOrNote([], { line: 0 }, () => parseAmount(stated, layout.decimal, currency)),
    isPending: /pending|announced|reserved|authori[sz]ed/i.test(cell('status')),
  });
}

/** Whether a row ends before its date or amount. */
function isShort({ cells }: TableRow, columns: ReadonlyMap<ColumnRole, number>): boolean {
  return cells.length <= Math.max(columns.get('date') ?? 0, columns.get('amount') ?? 0);
}

/** Whether most figures in the column for money out have a minus, so that it is only how it is written. */
function isOutSigned(body: readonly TableRow[], columns: ReadonlyMap<ColumnRole, number>): boolean {
  let signed = 0;
  for (const row of body) {
    const figure = cellsOf(row, columns)('paidOut');
    if (/[1-9]/.test(figure)) signed += /[-−(]|\bdr/i.test(figure) ? 1 : -1;
  }
  return signed > 0;
}

/** Says everything that is wrong with a row, with its amount if that much can be read. */
function noteRefused(
  row: TableRow,
  cell: (role: ColumnRole) => string,
  reader: Reader,
  problems: Problem[],
): void {
  const { columns, layout } = reader;
  const excerpt = excerptOf(row, layout);
  if (isShort(row, columns)) {
    const params = { found: row.cells.length, expected: layout.headings.length };
    problems.push(problem('refused', 'ROW_SHORT', params, { line: row.place, excerpt }));
    return;
  }
  const at = (role: ColumnRole) => ({
    line: row.place,
    field: layout.headings[columns.get(role) ?? -1] ?? role,
    excerpt,
  });
  const amount = readOrNote(problems, at(columns.has('amount') ? 'amount' : 'paidOut'), () =>
    amountOf(cell, reader),
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

/**
 * A row's amount. A figure against the sign of its column is one that was taken back: a minus in the
 * column for money out, where the others have none, is money in.
 */
function amountOf(
  cell: (role: ColumnRole) => string,
  { columns, layout, currency, isOutSigned }: Reader,
): Minor {
  const read = (text: string) => parseAmount(text, layout.decimal, currency);
  if (columns.has('amount')) return read(cell('amount') || fail('AMOUNT_MISSING'));
  const out = cell('paidOut');
  const into = cell('paidIn');
  if (out === '' && into === '') fail('AMOUNT_MISSING');
  const paidOut = out === '' ? 0 : read(out);
  const paidIn = into === '' ? 0 : read(into);
  if (paidOut !== 0 && paidIn !== 0) fail('AMOUNT_TWICE');
  return isOutSigned ? paidIn + paidOut : paidIn + turned(paidOut);
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
