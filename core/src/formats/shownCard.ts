/**
 * Whose card it is, as it may be kept: of a whole card number only the last four digits.
 *
 * @returns null where nothing is named
 * @example shownCard('5581 7000 0000 0916') // '•• 0916'
 * @example shownCard('I Varga') // 'I Varga'
 */
export function shownCard(named: string | null): string | null {
  if (named === null || named === '') return null;
  const isNumber = /^[\d\sx*•.-]+$/i.test(named);
  const digits = named.replace(/\D/g, '');
  return isNumber && digits.length >= 4 ? `•• ${digits.slice(-4)}` : named;
}
