import { plainWording } from './plainWording.ts';

/** Words that say how the money moved or what unit it has, not who was paid. */
const NOISE = new Set(
  (
    'CRD PUR CARD PURCHASE POS PAYMENT PMT PAY TRANSACTION TXN DEBIT CREDIT DIRECT DD DDR SO STO ' +
    'STANDING ORDER TRANSFER TRF FT SEPA REF REFERENCE NO NR TO FROM AT ON BY VIA THE ' +
    'JAN FEB MAR APR MAY JUN JUL AUG SEP OCT NOV DEC EUR USD GBP CHF'
  ).split(' '),
);

const NONE: ReadonlySet<string> = new Set();

/** More words than this say nothing new about who was paid. */
const LONGEST = 4;

/** The texts of a line that can name the other side. */
export interface LineTexts {
  readonly description: string;
  readonly payee: string | null;
  readonly reference: string | null;
}

/**
 * What stays the same in a line's wording when the same payee comes again. Words with digits
 * (terminals, references, dates, amounts), card masks and words about how money moved go; where
 * nothing is left, the words themselves stay, with their digits levelled.
 *
 * @param noise words that were learned to say nothing of who was paid
 * @returns upper-case words; never empty
 * @example stemOf({ description: 'CRD PUR TIDEMARK FRT 20318', payee: null, reference: null })
 * // 'TIDEMARK FRT'
 */
export function stemOf(texts: LineTexts, noise: ReadonlySet<string> = NONE): string {
  for (const text of [texts.description, texts.payee, texts.reference]) {
    const words = plainWording(text ?? '').split(' ');
    const telling = words.filter((word) => isTelling(word) && !noise.has(word));
    if (telling.length > 0) return telling.slice(0, LONGEST).join(' ');
  }
  if (noise.size > 0) return stemOf(texts);
  const levelled = plainWording(texts.description).replace(/\p{N}+/gu, '#');
  return levelled === '' ? '—' : levelled;
}

/** Whether a word says how the money moved or what unit it has. @example isMovementWord('CRD') // true */
export function isMovementWord(word: string): boolean {
  return NOISE.has(word);
}

/** Whether a word may name somebody: it has no digits and says nothing of how the money moved. */
export function isTelling(word: string): boolean {
  return word.length > 1 && !/\p{N}/u.test(word) && !/^X{2,}$/.test(word) && !NOISE.has(word);
}
