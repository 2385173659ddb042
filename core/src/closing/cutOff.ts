/** A day, or a month, as wordings write them: the last group is the year. */
const DATES = [
  /(?<!\d)(?:0?[1-9]|[12]\d|3[01])[./-](?:0?[1-9]|1[0-2]|1[3-9]|2\d|3[01])[./-](\d{4}|\d{2})(?!\d)/g,
  /(?<![\d./-])(?:0[1-9]|1[0-2])[./](\d{4})(?!\d)/g,
  /(?<!\d)(\d{4})-(?:0[1-9]|1[0-2])(?:-\d{2})?(?!\d)/g,
  /(?<![a-z])(?:jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)[ ./-]{1,2}(\d{4}|\d{2})(?!\d)/gi,
] as const;

/** Until which month of a year a payment may be for what was bought or sold in the year before. */
export const LAST_CUT_OFF_MONTH = 3;

/**
 * Whether what the bank said of a payment early in a year names a day or month of the year before: what was paid may
 * belong to that year.
 *
 * @param date the day of the payment
 * @example namesYearBefore('INVOICE 2093 OF 28.12.2025', '2026-01-14') // true
 * @example namesYearBefore('INVOICE 2025', '2026-01-14') // false: a number, not a date
 */
export function namesYearBefore(text: string, date: string): boolean {
  const year = Number(date.slice(0, 4));
  if (Number(date.slice(5, 7)) > LAST_CUT_OFF_MONTH) return false;
  return DATES.some((pattern) =>
    [...text.matchAll(pattern)].some(([, written = '']) => {
      const named = Number(written);
      return (written.length === 2 ? 2_000 + named : named) === year - 1;
    }),
  );
}
