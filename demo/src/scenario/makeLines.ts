import {
  addDays,
  type CalendarDate,
  lastDayOf,
  monthsBetween,
} from '@zubrell/core/dates/calendarDate';
import type { Business, Pattern, Truth } from './business.ts';
import { type Random, randomFrom } from './random.ts';

/** One made-up line with what it really is. */
export interface MadeLine {
  readonly bank: string;
  readonly date: CalendarDate;
  readonly amount: number;
  readonly wording: string;
  readonly reference: string | null;
  readonly id: string;
  readonly truth: Truth & { readonly payeeKind: NonNullable<Pattern['payeeKind']> };
}

/**
 * All lines of a business from one month to another, in the order of time. The same for the same
 * seed; a month's lines do not depend on how many months follow.
 */
export function makeLines(business: Business, first: string, last: string): MadeLine[] {
  const lines = business.patterns.flatMap((pattern, index) =>
    monthsBetween(first, last).flatMap((month) => {
      const random = randomFrom(business.seed + index * 7_919 + Number(month.replace('-', '')));
      return monthLines(pattern, month, random);
    }),
  );
  const inOrder = lines
    .map((line, index) => ({ line, index }))
    .sort((a, b) =>
      a.line.date < b.line.date ? -1 : a.line.date > b.line.date ? 1 : a.index - b.index,
    );
  const count = new Map<string, number>();
  return inOrder.map(({ line }) => {
    const key = `${line.bank} ${line.date}`;
    const number = (count.get(key) ?? 0) + 1;
    count.set(key, number);
    const mark = line.bank.slice(0, 2).toUpperCase();
    return {
      ...line,
      id: `${mark}${line.date.replaceAll('-', '')}${String(number).padStart(3, '0')}`,
    };
  });
}

function monthLines(pattern: Pattern, month: string, random: Random): Omit<MadeLine, 'id'>[] {
  if ((pattern.from ?? month) > month || (pattern.to ?? month) < month) return [];
  const [least, most] = pattern.perMonth;
  const count = most < 1 ? Number(random.next() < most) : random.between(least, most);
  const lastDay = Number(lastDayOf(month).slice(8));
  return Array.from({ length: count }).flatMap(() => {
    const [from, to] = pattern.day ?? [1, lastDay];
    const day = Math.min(random.between(from, to), lastDay);
    const date = `${month}-${String(day).padStart(2, '0')}`;
    const line = {
      bank: pattern.bank,
      date,
      amount: random.between(...pattern.amount),
      wording: pattern.wording(random),
      reference: pattern.reference?.(random) ?? null,
      truth: {
        payee: pattern.payee,
        payeeKind: pattern.payeeKind ?? 'other',
        account: pattern.account,
        tax: pattern.tax,
      },
    } as const;
    const { mirror } = pattern;
    if (!mirror) return [line];
    const other = {
      ...line,
      bank: mirror.bank,
      date: addDays(date, mirror.days),
      amount: -line.amount,
      wording: mirror.wording(random),
      // Each half is coded to the account of the other.
      truth: { ...line.truth, account: `bank:${pattern.bank}` },
    };
    return [line, other];
  });
}
