import { addDays, type CalendarDate } from '../dates/calendarDate.ts';
import type { BankLine, StatementFacts } from '../formats/bankFile.ts';
import type { Minor } from '../money/minor.ts';
import type { DatedBalance } from './balanceChain.ts';

/** What a statement's booked lines come to. */
export interface LinesSummary {
  readonly count: number;
  /** Earliest and latest date; null without lines. */
  readonly first: CalendarDate | null;
  readonly last: CalendarDate | null;
  readonly total: Minor;
}

/** Adds up lines one by one. */
export function createSummary(): { add(line: BankLine): void; readonly summary: LinesSummary } {
  let count = 0;
  let first: CalendarDate | null = null;
  let last: CalendarDate | null = null;
  let total = 0;
  return {
    add({ date, amount }) {
      count += 1;
      total += amount;
      if (first === null || date < first) first = date;
      if (last === null || date > last) last = date;
    },
    get summary() {
      return { count, first, last, total };
    },
  };
}

/** What lines come to. */
export function summaryOf(lines: readonly BankLine[]): LinesSummary {
  const sum = createSummary();
  for (const line of lines) sum.add(line);
  return sum.summary;
}

/**
 * The balance before a statement's first line: stated, or its stated closing less its lines.
 * Dated the day before the first line.
 *
 * @returns null where neither is stated or there is no line
 * @example a closing of 51.50 after a single line of −48.50 on 3 March opens with 100.00 on 2 March
 */
export function openingBalance(
  statement: StatementFacts,
  { first, total }: LinesSummary,
): DatedBalance | null {
  if (first === null) return null;
  const date = addDays(first, -1);
  if (statement.opening !== null) return { date, amount: statement.opening };
  return statement.closing === null ? null : { date, amount: statement.closing - total };
}

/** The stated closing balance with its day, or null where it is not stated. */
export function closingBalance(statement: StatementFacts): DatedBalance | null {
  const date = statement.closingDate ?? statement.to;
  return statement.closing === null || date === null ? null : { date, amount: statement.closing };
}

/**
 * The balance that the readable lines should lead to: the stated opening plus lines, so that records
 * which can't be read do no harm; else the stated closing.
 *
 * @returns null where no closing balance is stated
 */
export function expectedClosing(
  statement: StatementFacts,
  { total }: LinesSummary,
): DatedBalance | null {
  const closing = closingBalance(statement);
  if (closing === null || statement.opening === null) return closing;
  return { ...closing, amount: statement.opening + total };
}

/**
 * What stays unexplained when a statement is taken without its refused records: stated closing less
 * stated opening less its lines.
 *
 * @returns null where a balance is not stated
 */
export function statementGap(statement: StatementFacts, { total }: LinesSummary): Minor | null {
  if (statement.opening === null || statement.closing === null) return null;
  return statement.closing - statement.opening - total;
}
