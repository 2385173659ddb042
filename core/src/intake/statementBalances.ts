import { addDays, type CalendarDate } from '../dates/calendarDate.ts';
import type { BankLine, BankStatement } from '../formats/bankFile.ts';
import { type Minor, sumMinor } from '../money/minor.ts';

/** A balance and the day at whose end it holds. */
export interface DatedBalance {
  readonly date: CalendarDate;
  readonly amount: Minor;
}

/**
 * The balance before a statement's first line: stated, or its stated closing less its lines.
 * Dated the day before the first line.
 *
 * @returns null where neither is stated or there is no line
 * @example a closing of 51.50 after a single line of −48.50 on 3 March opens with 100.00 on 2 March
 */
export function openingBalance(statement: BankStatement): DatedBalance | null {
  const first = earliest(statement.lines);
  if (first === null) return null;
  const date = addDays(first, -1);
  if (statement.opening !== null) return { date, amount: statement.opening };
  if (statement.closing === null) return null;
  const total = sumMinor(statement.lines.map((line) => line.amount));
  return { date, amount: statement.closing - total };
}

/** The stated closing balance with its day, or null where it is not stated. */
export function closingBalance(statement: BankStatement): DatedBalance | null {
  const date = statement.closingDate ?? statement.to;
  return statement.closing === null || date === null ? null : { date, amount: statement.closing };
}

/**
 * What stays unexplained when a statement is taken without its refused records: stated closing less
 * stated opening less its lines.
 *
 * @returns null where a balance is not stated
 */
export function statementGap(statement: BankStatement): Minor | null {
  if (statement.opening === null || statement.closing === null) return null;
  const total = sumMinor(statement.lines.map((line) => line.amount));
  return statement.closing - statement.opening - total;
}

/**
 * A statement without the lines that are only announced: they move no balance and can't be posted.
 */
export function bookedOnly(statement: BankStatement): BankStatement {
  const lines = statement.lines.filter((line) => !line.isPending);
  return lines.length === statement.lines.length ? statement : { ...statement, lines };
}

function earliest(lines: readonly BankLine[]): CalendarDate | null {
  let first: CalendarDate | null = null;
  for (const { date } of lines) if (first === null || date < first) first = date;
  return first;
}
