/**
 * Whether two account numbers may be one: alike but for spaces, punctuation and case, or one of them not
 * stated.
 *
 * @example isSameAccountNumber('30 2210 4471', '302210-4471') // true
 */
export function isSameAccountNumber(a: string | null, b: string | null): boolean {
  return a === null || b === null || plainNumber(a) === plainNumber(b);
}

function plainNumber(number: string): string {
  return number.replace(/[^0-9a-z]/gi, '').toUpperCase();
}
