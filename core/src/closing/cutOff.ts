import { yearFrom } from '../dates/booksYear.ts';
import { addMonths, type CalendarDate, monthNames } from '../dates/calendarDate.ts';

/** A day, or a month, as wordings write them. */
const DATES = [
  /(?<!\d)(?<one>0?[1-9]|[12]\d|3[01])[./-](?<other>0?[1-9]|1[0-2]|1[3-9]|2\d|3[01])[./-](?<year>\d{4}|\d{2})(?!\d)/g,
  /(?<![\d./-])(?<one>0[1-9]|1[0-2])[./](?<year>\d{4})(?!\d)/g,
  /(?<!\d)(?<year>\d{4})-(?<one>0[1-9]|1[0-2])(?:-\d{2})?(?!\d)/g,
  /(?<![a-z])(?<name>jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)[ ./-]{1,2}(?<year>\d{4}|\d{2})(?!\d)/gi,
] as const;

const NAMES = monthNames.map((name) => name.slice(0, 3).toLowerCase());

/** Until so many months into a year a payment may be for what was bought or sold in the year before. */
const CUT_OFF_MONTHS = 3;

/**
 * Whether a day is so early in a year of the books that a payment may belong to the year before.
 *
 * @param begins the month in which their years begin, 1 to 12
 * @example isEarlyInYear('2026-03-31', 1) // true
 */
export function isEarlyInYear(date: CalendarDate, begins: number): boolean {
  return date < addMonths(yearFrom(date, begins), CUT_OFF_MONTHS);
}

/**
 * What stands in every text that names a day or month of the year before: the last two digits of a calendar year in which
 * that year lies. For a search that leaves little to be looked at.
 *
 * @param date a day of the books' year
 * @param begins the month in which the books' years begin, 1 to 12
 * @example digitsOfYearBefore('2026-01-14', 1) // ['25']
 * @example digitsOfYearBefore('2026-04-20', 4) // ['25', '26']
 */
export function digitsOfYearBefore(date: CalendarDate, begins: number): readonly string[] {
  const start = yearFrom(date, begins);
  const years = [addMonths(start, -12), addMonths(start, -1)].map((day) => day.slice(2, 4));
  return [...new Set(years)];
}

/**
 * Whether what the bank said of a payment early in a year names a day or month of the year before: what was paid may
 * belong to that year. What can be read day first and month first has to lie there both ways.
 *
 * @param date the day of the payment
 * @param begins the month in which the books' years begin, 1 to 12
 * @example namesYearBefore('INVOICE 2093 OF 28.12.2025', '2026-01-14', 1) // true
 * @example namesYearBefore('INVOICE 2025', '2026-01-14', 1) // false: a number, not a date
 */
export function namesYearBefore(text: string, date: CalendarDate, begins: number): boolean {
  if (!isEarlyInYear(date, begins)) return false;
  const start = yearFrom(date, begins);
  const before = addMonths(start, -12);
  return DATES.some((pattern) =>
    [...text.matchAll(pattern)].some(({ groups = {} }) => {
      const named = Number(groups.year);
      const year = groups.year?.length === 2 ? 2_000 + named : named;
      const months = groups.name
        ? [NAMES.indexOf(groups.name.slice(0, 3).toLowerCase()) + 1]
        : [groups.one, groups.other].flatMap((part) => (part ? [Number(part)] : []));
      return months
        .filter((month) => month <= 12)
        .every((month) => {
          const day = `${year}-${String(month).padStart(2, '0')}-01`;
          return before <= day && day < start;
        });
    }),
  );
}
