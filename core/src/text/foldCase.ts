/**
 * A text without differences of case, width or ligature, for comparing: full Unicode case folding of its
 * compatibility form, where the Turkish dotted and dotless I are one with I.
 *
 * @see Unicode Standard, section 3.13 (default caseless matching) and annex 15 (NFKC)
 * @example foldCase('STRAẞE') // 'strasse', as of 'Straße' and 'STRASSE'
 * @example foldCase('ΟΔΟΣ') === foldCase('οδος') // true
 * @example foldCase('ﬁ ＡＢ') // 'fi ab'
 */
export function foldCase(text: string): string {
  // Lower, upper and lower again: only upper case spells ß out, and capital ẞ has to become ß first.
  return text
    .normalize('NFKC')
    .toLowerCase()
    .toUpperCase()
    .toLowerCase()
    .replace(/ς/g, 'σ')
    .replace(/i\u0307/g, 'i')
    .normalize('NFC');
}
