import type { ColumnRole, TableRow } from './tableLayout.ts';

const DATE = /^(\d{1,4}[./\-\s](\d{1,2}|[a-z]{3,9})[./\-\s]+\d{1,4}|(19|20)\d{6})([T\s].*)?$/i;
const AMOUNT = /^[(+\-−]?\s*\d{1,3}([.,'’\s]?\d{3})*([.,]\d{1,3})?\s*[)\-+−]?$/;
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
  readonly hasDecimals: boolean;
  readonly length: number;
  /** The share of different values. */
  readonly variety: number;
}

/**
 * What the columns of a table without a known header hold, judged by their cells: dates, amounts (one
 * signed column, or two that take turns), a balance that follows from the amounts, texts.
 *
 * @param body the rows without a header
 * @returns null where there is no date or no amount
 */
export function rolesByContent(body: readonly TableRow[]): (ColumnRole | null)[] | null {
  const rows = body.slice(0, LOOKED_AT);
  if (rows.length === 0) return null;
  const width = Math.max(...rows.map(({ cells }) => cells.length));
  const columns = Array.from({ length: width }, (_, index) => columnOf(rows, index));
  const roles: (ColumnRole | null)[] = columns.map(() => null);
  const [date, valueDate] = columns.filter(({ dates }) => dates >= MOST);
  if (!date) return null;
  roles[date.index] = 'date';
  if (valueDate) roles[valueDate.index] = 'valueDate';
  const numbers = columns.filter(
    ({ index, filled, amounts, hasDecimals, dates }) =>
      roles[index] === null &&
      hasDecimals &&
      dates < MOST &&
      filled > 0 &&
      amounts >= MOST * filled,
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

function columnOf(rows: readonly TableRow[], index: number): Column {
  const cells = rows.map((row) => row.cells[index]?.trim() ?? '').filter((cell) => cell !== '');
  const share = (test: (cell: string) => boolean) => cells.filter(test).length / rows.length;
  return {
    index,
    filled: cells.length / rows.length,
    dates: share((cell) => DATE.test(cell)),
    amounts: share((cell) => AMOUNT.test(cell)),
    hasDecimals: cells.some((cell) => /[.,]\d{1,2}\D*$/.test(cell)),
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
