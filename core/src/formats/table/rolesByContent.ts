import { groupBy } from '../../groupBy.ts';
import { hasDecimals, holdsAmount, holdsDate, isAmount, isDate } from './cellContent.ts';
import type { ColumnRole, TableRow } from './tableLayout.ts';

/** This share of the rows must fit. */
const MOST = 0.8;
/** As many rows tell as much as all. */
const LOOKED_AT = 500;

interface Column {
  readonly index: number;
  /** Shares of all rows. */
  readonly filled: number;
  readonly dates: number;
  readonly amounts: number;
  /** Whether any amount has decimals, without which it may be a plain number. */
  readonly isDecimal: boolean;
  readonly length: number;
  /** The share of different values. */
  readonly variety: number;
}

/**
 * What the columns of a table without a known header hold, judged by their cells: dates, amounts (one
 * signed column, or two that take turns), a balance that follows from the amounts, texts.
 *
 * @param body the rows, with titles and totals or without
 * @returns null where there is no date or no amount
 */
export function rolesByContent(body: readonly TableRow[]): (ColumnRole | null)[] | null {
  const seen = body.slice(0, LOOKED_AT);
  // Titles and totals say nothing of the columns.
  const rows = likeMost(
    seen.filter(({ cells }) => holdsDate(cells) && holdsAmount(cells)),
    seen,
  );
  if (rows.length === 0) return null;
  const width = Math.max(...rows.map(({ cells }) => cells.length));
  const columns = Array.from({ length: width }, (_, index) => columnOf(rows, index));
  const roles: (ColumnRole | null)[] = columns.map(() => null);
  const [date, valueDate] = columns.filter(({ dates }) => dates >= MOST);
  if (!date) return null;
  roles[date.index] = 'date';
  if (valueDate) roles[valueDate.index] = 'valueDate';
  const numbers = columns.filter(
    ({ index, filled, amounts, isDecimal, dates }) =>
      roles[index] === null && isDecimal && dates < MOST && filled > 0 && amounts >= MOST * filled,
  );
  const full = numbers.filter(({ filled }) => filled >= MOST);
  const [out, into] = numbers.filter(({ filled }) => filled < MOST);
  if (out && into && out.filled + into.filled >= MOST) {
    roles[out.index] = 'paidOut';
    roles[into.index] = 'paidIn';
    const [balance] = full;
    if (balance) roles[balance.index] = 'balance';
  } else {
    const [first, second] = full;
    if (!first) return null;
    const isBalanceFirst = second !== undefined && follows(rows, first.index, second.index);
    const amount = isBalanceFirst ? second : first;
    const balance = isBalanceFirst ? first : second;
    roles[amount.index] = 'amount';
    if (balance && (isBalanceFirst || follows(rows, balance.index, amount.index))) {
      roles[balance.index] = 'balance';
    }
  }
  const texts = columns
    .filter(({ index, filled }) => roles[index] === null && filled > 0)
    .sort((a, b) => b.length * b.filled - a.length * a.filled);
  const [description, reference] = texts;
  if (description) roles[description.index] = 'description';
  if (reference && reference.variety > 0.5) roles[reference.index] = 'reference';
  return roles;
}

/** The rows that have their first date where most have it; all where none has a date. */
function likeMost(lines: readonly TableRow[], all: readonly TableRow[]): readonly TableRow[] {
  const byColumn = groupBy(lines, ({ cells }) => cells.findIndex((cell) => isDate(cell.trim())));
  const most = [...byColumn.values()].sort((a, b) => b.length - a.length)[0];
  return most ?? all;
}

function columnOf(rows: readonly TableRow[], index: number): Column {
  const cells = rows.map((row) => row.cells[index]?.trim() ?? '').filter((cell) => cell !== '');
  const share = (test: (cell: string) => boolean) => cells.filter(test).length / rows.length;
  return {
    index,
    filled: cells.length / rows.length,
    dates: share(isDate),
    amounts: share(isAmount),
    isDecimal: cells.some(hasDecimals),
    length: cells.reduce((sum, cell) => sum + cell.length, 0) / Math.max(cells.length, 1),
    variety: new Set(cells).size / Math.max(cells.length, 1),
  };
}

/** Whether a column's differences from row to row are the other column's amounts, by size. */
function follows(rows: readonly TableRow[], balance: number, amount: number): boolean {
  const cents = (text: string | undefined) => Number((text ?? '').replace(/\D/g, ''));
  const signed = (text: string | undefined) =>
    /[-−(]/.test(text ?? '') ? -cents(text) : cents(text);
  let holds = 0;
  for (const [index, row] of rows.entries()) {
    const before = rows[index - 1];
    if (!before) continue;
    const moved = Math.abs(signed(row.cells[balance]) - signed(before.cells[balance]));
    const [own, other] = [cents(row.cells[amount]), cents(before.cells[amount])];
    if (moved === own || moved === other) holds += 1;
  }
  return rows.length > 1 && holds >= MOST * (rows.length - 1);
}
