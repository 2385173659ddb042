import type { ColumnRole, TableRow } from './tableLayout.ts';

const DATE = /^(\d{1,4}[./\-\s](\d{1,2}|[a-z]{3,9})[./\-\s]+\d{1,4}|(19|20)\d{6})([T\s].*)?$/i;
const AMOUNT =
  /^(dr|cr)?\.?\s*[€$£¥]?\s*[+\-−]?\s*[(€$£¥]?\s*\d{1,3}([.,'’\s]?\d{3})*([.,]\d{1,3})?\s*[)€$£¥]?\s*([-+−]|dr\.?|cr\.?|d|c|[A-Z]{3})?$/i;
const DECIMALS = /[.,]\d{1,2}\D*$/;

/** Whether a cell holds a date. */
export function isDate(cell: string): boolean {
  return DATE.test(cell);
}

/** Whether a cell holds an amount, or another number that is written like one. */
export function isAmount(cell: string): boolean {
  return cell.length <= LONGEST_AMOUNT && AMOUNT.test(cell);
}

const LONGEST_AMOUNT = 40;

/** Whether an amount has decimals, without which it may be a plain number. */
export function hasDecimals(cell: string): boolean {
  return DECIMALS.test(cell);
}

export function isFilled(cell: string): boolean {
  return cell.trim() !== '';
}

/** Whether any cell holds a date. */
export function holdsDate(cells: readonly string[]): boolean {
  return cells.some((cell) => isDate(cell.trim()));
}

/** Whether any cell holds an amount with decimals. */
export function holdsAmount(cells: readonly string[]): boolean {
  return cells.some((cell) => isAmount(cell.trim()) && hasDecimals(cell));
}

/** The columns of which one says how much. */
export const amountRoles = ['amount', 'paidOut', 'paidIn'] as const;

/** Whether a row has a date and an amount in the columns where they belong. */
export function isLine({ cells }: TableRow, roles: readonly (ColumnRole | null)[]): boolean {
  const has = (wanted: readonly ColumnRole[], test: (cell: string) => boolean) =>
    roles.some(
      (role, at) => role !== null && wanted.includes(role) && test((cells[at] ?? '').trim()),
    );
  return has(['date'], isDate) && has(amountRoles, isAmount);
}
