import { formatAmount } from '../money/formatAmount.ts';
import { counted, t } from '../words/t.ts';
import type { AmountReason, PairDifference, PairReason, SetReason } from './pairing.ts';

const SETS: Readonly<Record<SetReason, string>> = {
  numbers: t`The wording names them, and they add up to the line.`,
  allOfPayee: t`They are everything open for this payee, and they add up to the line.`,
  payee: t`They belong to the payee named in the wording, and they add up to the line.`,
  run: t`They follow one another, and they add up to the line.`,
  sum: t`They add up to the line; nothing else supports the match.`,
};

/** Why several stand together, in a sentence. */
export function setWords(because: SetReason): string {
  return SETS[because];
}

/** What speaks for a candidate, in a sentence. */
export function fitWords(by: readonly PairReason[]): string {
  const said = [
    by.includes('amount') ? t`the same amount` : null,
    by.includes('number') ? t`its number in the wording` : null,
    by.includes('payee') ? t`the same payee` : null,
    by.includes('date') ? t`a likely date` : null,
  ].filter((words) => words !== null);
  return t`Already in the books: ${said.join(', ')}.`;
}

/** Why amounts differ, as a question beside the difference. @example 'digits swapped?' */
export const amountReasonLabels: Readonly<Record<AmountReason, string>> = {
  fee: t`fee kept back?`,
  transposed: t`digits swapped?`,
  digit: t`one digit wrong?`,
  decimal: t`decimal mark?`,
  taxOff: t`tax left out?`,
  sign: t`other way round?`,
  missing: t`one missing?`,
};

/** Why amounts differ, in a sentence. */
export const amountReasonWords: Readonly<Record<AmountReason, string>> = {
  fee: t`A little less arrived: a fee may have been kept back.`,
  transposed: t`Two neighbouring digits are swapped: it may have been mistyped.`,
  digit: t`They differ in one digit: it may have been mistyped.`,
  decimal: t`They differ by a factor of ten: the decimal mark may be in the wrong place.`,
  taxOff: t`One is the other with tax: it may have been entered without it.`,
  sign: t`The amount is the same in the other direction: it may have been entered the wrong way round.`,
  missing: t`Another item of exactly that amount is open: it may belong here too.`,
};

/** How a candidate differs, in a few words. @example '24 days before' */
export function differenceWords(difference: PairDifference, currency: string): string {
  switch (difference.kind) {
    case 'date': {
      const { days } = difference;
      const size = counted(Math.abs(days), 'day', 'days');
      return days > 0 ? t`${size} before` : t`${size} after`;
    }
    case 'payee':
      return t`another payee`;
    case 'number':
      return t`another number`;
    case 'direction':
      return t`the other direction`;
    case 'amount': {
      const by = formatAmount(Math.abs(difference.by), currency);
      return difference.because === null ? by : `${by}, ${amountReasonLabels[difference.because]}`;
    }
  }
}
