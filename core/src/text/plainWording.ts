/**
 * A wording as it is compared: upper case, without accents and punctuation, single spaces.
 *
 * @example plainWording('Crd  Pur. Café-Löwe 12') // 'CRD PUR CAFE LOWE 12'
 */
export function plainWording(wording: string): string {
  return wording
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toUpperCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}
