/** The most numbers that are named as missing. */
const MOST = 50;

/**
 * What number comes after those that were given, and which are missing between them: numbers that count up at their end,
 * in the series of the newest one.
 *
 * @param given the newest last
 * @param first what the first number is
 * @example numberSeries(['2026-001', '2026-003'], '1') // { next: '2026-004', missing: ['2026-002'] }
 */
export function numberSeries(
  given: readonly string[],
  first: string,
): { readonly next: string; readonly missing: readonly string[] } {
  const newest = partsOf(given.at(-1) ?? '');
  if (newest === null) return { next: first, missing: [] };
  const own = given.flatMap((number) => {
    const parts = partsOf(number);
    return parts !== null && parts.prefix === newest.prefix ? [parts] : [];
  });
  const counts = new Set(own.map(({ count }) => count));
  const highest = Math.max(...counts);
  const lowest = Math.min(...counts);
  const written = (count: number) => newest.prefix + String(count).padStart(newest.width, '0');
  const missing: string[] = [];
  for (let count = lowest; count < highest && missing.length < MOST; count += 1) {
    if (!counts.has(count)) missing.push(written(count));
  }
  return { next: written(highest + 1), missing };
}

/** A number as a prefix and a count of up to nine digits; null where it doesn't end in one. */
function partsOf(number: string) {
  const [, prefix, digits] = /^(.*?)(\d{1,9})$/.exec(number) ?? [];
  if (prefix === undefined || digits === undefined) return null;
  return { prefix, count: Number(digits), width: digits.length };
}
