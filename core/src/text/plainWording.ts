import { foldCase } from './foldCase.ts';

/** Longer than any text that is kept, and short enough to be looked up in the database. */
const LONGEST = 600;

/**
 * A wording as it is compared: upper case, without accents and punctuation, single spaces; cut to 600
 * characters.
 *
 * @example plainWording('Crd  Pur. Café-Löwe 12') // 'CRD PUR CAFE LOWE 12'
 * @example plainWording('STRAẞE') === plainWording('Strasse') // true
 */
export function plainWording(wording: string): string {
  return cleared(wording).trim().slice(0, LONGEST).trimEnd();
}

/** In upper case, without accents and punctuation. Most wordings have no accents, and large files are full of them. */
function cleared(wording: string): string {
  if (/^[\x20-\x7e]*$/.test(wording)) return wording.toUpperCase().replace(/[^A-Z0-9]+/g, ' ');
  return foldCase(wording)
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toUpperCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ');
}
