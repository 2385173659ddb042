import { type CalendarDate, daysBetween } from '../dates/calendarDate.ts';
import type { BankAccountId } from '../ids.ts';
import type { Minor } from '../money/minor.ts';
import { type Cycle, periodEnd } from './periods.ts';

/** What a card's statement leaves to be paid. */
export interface CardDue {
  readonly bankAccountId: BankAccountId;
  /** The statement's last day. */
  readonly to: CalendarDate;
  /** What is owed: positive. */
  readonly amount: Minor;
}

/** A card's statement is paid within so many days after its end. */
export const DUE_DAYS = 45;

/**
 * What the statements of a card leave to be paid, as far as balances of the bank tell what they closed at.
 *
 * @param stated balances at the end of days, the oldest first; what is owed is negative
 */
export function statedDues(
  bankAccountId: BankAccountId,
  cycle: Cycle,
  stated: readonly { readonly date: CalendarDate; readonly amount: Minor }[],
): CardDue[] {
  if (cycle.kind === 'any') return [];
  return stated.flatMap(({ date, amount }, at) => {
    const to = periodEnd(cycle, date);
    const next = stated[at + 1]?.date;
    // Between two stated days nothing was booked.
    const isClosing = date === to || (next !== undefined && next > to);
    return isClosing && amount < 0 ? [{ bankAccountId, to, amount: -amount }] : [];
  });
}

/**
 * The card's statement that a line of another account pays: to the cent, in the weeks after its end; the newest where
 * there are several.
 *
 * @returns null where it pays none, or where the statements of two cards are due with the same amount
 */
export function duePaid(
  line: {
    readonly bankAccountId: BankAccountId;
    readonly date: CalendarDate;
    readonly amount: Minor;
  },
  dues: readonly CardDue[],
): CardDue | null {
  const fitting = dues.filter(
    ({ bankAccountId, to, amount }) =>
      bankAccountId !== line.bankAccountId &&
      amount === -line.amount &&
      line.date > to &&
      daysBetween(to, line.date) <= DUE_DAYS,
  );
  const [first] = fitting;
  if (!first || fitting.some(({ bankAccountId }) => bankAccountId !== first.bankAccountId))
    return null;
  return fitting.reduce((newest, due) => (due.to > newest.to ? due : newest));
}

/** What one cardholder spent. */
export interface HolderSpending {
  /** As the file names them; null for what names nobody, as payments do. */
  readonly cardholder: string | null;
  readonly count: number;
  /** What went out: positive. */
  readonly spent: Minor;
  /** What came back: positive. */
  readonly refunded: Minor;
}

/** Lines of a card by whose card it was, those who spent most first, and what names nobody last. */
export function spendingByHolder(
  lines: readonly { readonly cardholder: string | null; readonly amount: Minor }[],
): HolderSpending[] {
  const byHolder = new Map<string | null, HolderSpending>();
  for (const { cardholder, amount } of lines) {
    const so = byHolder.get(cardholder) ?? { cardholder, count: 0, spent: 0, refunded: 0 };
    byHolder.set(cardholder, {
      cardholder,
      count: so.count + 1,
      spent: so.spent + Math.max(-amount, 0),
      refunded: so.refunded + Math.max(amount, 0),
    });
  }
  return [...byHolder.values()].sort(
    (a, b) =>
      Number(a.cardholder === null) - Number(b.cardholder === null) ||
      b.spent - a.spent ||
      (a.cardholder ?? '').localeCompare(b.cardholder ?? ''),
  );
}
